using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Rollouts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            RolloutTerms.Fill(
                migrationBuilder,
                "strftime('%Y-%m-%dT%H:%M:%fZ', \"EveryoneAt\" / 1000.0, 'unixepoch')");

            // In its own words: what takes the place of a column that is dropped otherwise is a table made anew, in no transaction.
            migrationBuilder.Sql("ALTER TABLE scheduled_release DROP COLUMN \"EveryoneAt\"");

            migrationBuilder.Sql("ALTER TABLE rollout DROP COLUMN \"EveryoneAt\"");

            migrationBuilder.RenameColumn(
                name: "Roles",
                table: "scheduled_release",
                newName: "Terms");

            migrationBuilder.RenameColumn(
                name: "Roles",
                table: "rollout",
                newName: "Terms");

            migrationBuilder.AddColumn<string>(
                name: "Reason",
                table: "rollout",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Share",
                table: "rollout",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "save_count",
                columns: table => new
                {
                    Release = table.Column<long>(type: "INTEGER", nullable: false),
                    Entity = table.Column<string>(type: "TEXT", nullable: false),
                    Saved = table.Column<long>(type: "INTEGER", nullable: false),
                    Failed = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_save_count", x => new { x.Release, x.Entity });
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            RolloutTerms.Empty(
                migrationBuilder,
                "(SELECT group_concat(value, ' ') FROM json_each(\"Terms\", '$.roles'))");

            migrationBuilder.DropTable(
                name: "save_count");

            // In its own words: what takes the place of a column that is dropped otherwise is a table made anew, in no transaction.
            migrationBuilder.Sql("ALTER TABLE rollout DROP COLUMN \"Reason\"");

            migrationBuilder.Sql("ALTER TABLE rollout DROP COLUMN \"Share\"");

            migrationBuilder.RenameColumn(
                name: "Terms",
                table: "scheduled_release",
                newName: "Roles");

            migrationBuilder.RenameColumn(
                name: "Terms",
                table: "rollout",
                newName: "Roles");

            migrationBuilder.AddColumn<long>(
                name: "EveryoneAt",
                table: "scheduled_release",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "EveryoneAt",
                table: "rollout",
                type: "INTEGER",
                nullable: true);
        }
    }
}
