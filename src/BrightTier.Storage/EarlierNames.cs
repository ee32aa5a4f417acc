using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Storage;

/// <summary>
/// What tables, columns and states were called before they had the glossary's names: the migration renames them, and a backup made before
/// that is
/// read by them. A table is named as it is now.
/// </summary>
internal static class EarlierNames
{
    private static readonly (string Earlier, string Table)[] Tables =
    [
        ("act", "audit_entry"),
        ("pointer", "active_release"),
        ("arrival", "imported_version"),
        ("plan", "scheduled_release"),
        ("plan_document", "scheduled_release_document"),
    ];

    private static readonly (string Table, string Earlier, string Column)[] Columns =
    [
        ("audit_entry", "Act", "Action"),
        ("change", "Sent", "IdempotencyKey"),
        ("release", "Despite", "OverrideReason"),
        ("scheduled_release", "Despite", "OverrideReason"),
        ("scheduled_release_document", "Plan", "ScheduledRelease"),
    ];

    private static readonly (string Table, string Column, string Earlier, string Value)[] Values =
    [
        ("active_release", "Name", "ahead", "staged"),
        ("rollout", "State", "ahead", "staged"),
        ("rollout", "State", "everyone", "promoted"),
        ("rollout", "State", "called-off", "cancelled"),
        ("scheduled_release", "State", "waiting", "scheduled"),
        ("scheduled_release", "State", "out", "published"),
        ("scheduled_release", "State", "called-off", "cancelled"),
    ];

    /// <summary>Indexes, which SQLite cannot rename: they are made anew.</summary>
    private static readonly (string Table, string Earlier, string Index, string[] Columns)[] Indexes =
    [
        ("audit_entry", "IX_act_At", "IX_audit_entry_At", ["At"]),
        ("imported_version", "IX_arrival_Hash", "IX_imported_version_Hash", ["Hash"]),
        ("imported_version", "IX_arrival_Kind_Key", "IX_imported_version_Kind_Key", ["Kind", "Key"]),
        ("scheduled_release_document", "IX_plan_document_Hash", "IX_scheduled_release_document_Hash", ["Hash"]),
    ];

    /// <summary>Names of constraints, which SQLite keeps with the table and cannot change.</summary>
    private static readonly (string Table, string Earlier, string Constraint)[] Constraints =
    [
        ("audit_entry", "PK_act", "PK_audit_entry"),
        ("active_release", "PK_pointer", "PK_active_release"),
        ("imported_version", "PK_arrival", "PK_imported_version"),
        ("imported_version", "FK_arrival_content_Hash", "FK_imported_version_content_Hash"),
        ("scheduled_release", "PK_plan", "PK_scheduled_release"),
        ("scheduled_release_document", "PK_plan_document", "PK_scheduled_release_document"),
        ("scheduled_release_document", "FK_plan_document_content_Hash", "FK_scheduled_release_document_content_Hash"),
        // PostgreSQL keeps 63 bytes of a name.
        ("scheduled_release_document", "FK_plan_document_plan_Plan", "FK_scheduled_release_document_scheduled_release_ScheduledRelea~"),
    ];

    /// <summary>What a table was called; null where it always had its name.</summary>
    public static string? OfTable(string table) => Tables.FirstOrDefault(each => each.Table == table).Earlier;

    /// <summary>What a column was called; null where it always had its name.</summary>
    public static string? OfColumn(string table, string column) =>
        Columns.FirstOrDefault(each => each.Table == table && each.Column == column).Earlier;

    /// <summary>A value as it is written now.</summary>
    public static string Today(string table, string column, string value) =>
        Values.FirstOrDefault(each => each.Table == table && each.Column == column && each.Earlier == value).Value ?? value;

    /// <summary>Gives everything the names of now, whatever rows it holds.</summary>
    public static void Replace(MigrationBuilder migration)
    {
        foreach (var (earlier, table) in Tables)
        {
            migration.RenameTable(earlier, newName: table);
        }

        foreach (var (table, earlier, column) in Columns)
        {
            migration.RenameColumn(earlier, table, column);
        }

        foreach (var (table, column, earlier, value) in Values)
        {
            migration.Sql($"UPDATE \"{table}\" SET \"{column}\" = '{value}' WHERE \"{column}\" = '{earlier}'");
        }

        foreach (var (table, earlier, index, columns) in Indexes)
        {
            migration.DropIndex(earlier, table);
            migration.CreateIndex(index, table, columns);
        }

        foreach (var (table, earlier, constraint) in RenamedConstraints(migration))
        {
            migration.Sql($"ALTER TABLE \"{table}\" RENAME CONSTRAINT \"{earlier}\" TO \"{constraint}\"");
        }
    }

    /// <summary>Undoes <see cref="Replace"/>.</summary>
    public static void Return(MigrationBuilder migration)
    {
        foreach (var (table, earlier, constraint) in RenamedConstraints(migration))
        {
            migration.Sql($"ALTER TABLE \"{table}\" RENAME CONSTRAINT \"{constraint}\" TO \"{earlier}\"");
        }

        foreach (var (table, earlier, index, columns) in Indexes)
        {
            migration.DropIndex(index, table);
            migration.CreateIndex(earlier, table, columns);
        }

        foreach (var (table, column, earlier, value) in Values)
        {
            migration.Sql($"UPDATE \"{table}\" SET \"{column}\" = '{earlier}' WHERE \"{column}\" = '{value}'");
        }

        foreach (var (table, earlier, column) in Columns)
        {
            migration.RenameColumn(column, table, earlier);
        }

        foreach (var (earlier, table) in Tables)
        {
            migration.RenameTable(table, newName: earlier);
        }
    }

    private static IEnumerable<(string Table, string Earlier, string Constraint)> RenamedConstraints(MigrationBuilder migration) =>
        migration.ActiveProvider?.EndsWith("PostgreSQL", StringComparison.Ordinal) == true ? Constraints : [];
}
