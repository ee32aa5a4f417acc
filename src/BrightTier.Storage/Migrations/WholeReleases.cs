using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Storage.Migrations;

/// <summary>The way back from releases that keep what they changed alone: each gets all its documents again, in either kind of database.</summary>
internal static class WholeReleases
{
    public static void Fill(MigrationBuilder migration)
    {
        migration.Sql(
            """
            INSERT INTO release_document ("Release", "Kind", "Key", "Hash", "Revision")
            WITH RECURSIVE below("Number", "At") AS (
                SELECT "Number", "Number" FROM "release" WHERE "Partial"
                UNION ALL
                SELECT below."Number", r."Base" FROM below JOIN "release" r ON r."Number" = below."At" WHERE r."Partial"
            )
            SELECT newest."Number", d."Kind", d."Key", d."Hash", NULL
            FROM (
                SELECT below."Number", d."Kind", d."Key", MAX(d."Release") AS "Release"
                FROM below JOIN release_document d ON d."Release" = below."At" GROUP BY below."Number", d."Kind", d."Key"
            ) newest
            JOIN release_document d ON d."Release" = newest."Release" AND d."Kind" = newest."Kind" AND d."Key" = newest."Key"
            WHERE newest."Release" <> newest."Number"
            """
        );
        migration.Sql($"DELETE FROM release_document WHERE \"Hash\" = '{ReleaseDocumentRow.Gone}'");
    }
}
