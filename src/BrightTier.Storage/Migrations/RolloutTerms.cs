using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Storage.Migrations;

/// <summary>Staged and scheduled releases of before, which named roles and a time for everyone, told as terms of a rollout; and back.</summary>
internal static class RolloutTerms
{
    private static readonly string[] Tables = ["rollout", "scheduled_release"];

    /// <param name="time">The time of <c>"EveryoneAt"</c>, in Unix milliseconds, as RFC 3339 has it, in the database's SQL.</param>
    public static void Fill(MigrationBuilder migration, string time)
    {
        foreach (var table in Tables)
        {
            migration.Sql(
                $$"""
                UPDATE {{table}} SET "Roles" = '{"roles":["' || replace("Roles", ' ', '","') || '"]'
                    || CASE WHEN "EveryoneAt" IS NULL THEN '' ELSE ',"steps":[{"at":"' || {{time}} || '","share":100}]' END
                    || '}'
                WHERE "Roles" IS NOT NULL
                """
            );
        }
    }

    /// <param name="roles">The roles in <c>"Terms"</c>, separated by spaces, in the database's SQL.</param>
    public static void Empty(MigrationBuilder migration, string roles)
    {
        foreach (var table in Tables)
        {
            migration.Sql($"UPDATE {table} SET \"Terms\" = coalesce({roles}, '') WHERE \"Terms\" IS NOT NULL");
        }
    }
}
