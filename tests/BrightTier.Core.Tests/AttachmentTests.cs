using BrightTier.Core.Attachment;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

public sealed class AttachmentTests
{
    [Fact]
    public void References_that_share_a_column_are_all_there_and_no_column_is_lost()
    {
        var harbour = Table("harbour", ["id"], []);
        var berth = Table("berth", ["harbour_id", "number"], [Reference(["harbour_id"], "harbour", ["id"])]);
        var stay = Table(
            "stay",
            ["id"],
            [Reference(["harbour_id"], "harbour", ["id"]), Reference(["harbour_id", "berth_number"], "berth", ["harbour_id", "number"])],
            "harbour_id",
            "berth_number",
            "since"
        );

        var sketches = AttachedEntities.Of("quay", [harbour, berth, stay], ["harbour", "berth", "stay"], Definitions.Empty);

        var fields = sketches.Single(sketch => sketch.Entity.Key == "stay").Entity.Fields;
        fields
            .Select(field => (field.Key, field.Target, string.Join(",", field.Attached!.Columns.Select(column => column.Column))))
            .ShouldBe([
                ("stayId", null, "id"),
                ("harbour", "harbour", "harbour_id"),
                ("berth", "berth", "harbour_id,berth_number"),
                ("since", null, "since"),
            ]);
    }

    private static DatabaseTable Table(string name, string[] key, DatabaseReference[] references, params string[] more) =>
        new(
            null,
            name,
            false,
            null,
            [.. key.Concat(more).Select(column => new DatabaseColumn(column, "text", ColumnKind.Text) { NotNull = true })],
            [.. key],
            [.. references],
            [],
            [],
            0
        );

    private static DatabaseReference Reference(string[] columns, string table, string[] to) => new([.. columns], null, table, [.. to]);
}
