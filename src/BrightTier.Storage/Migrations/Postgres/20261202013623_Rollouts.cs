using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Rollouts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            RolloutTerms.Fill(
                migrationBuilder,
                "to_char(to_timestamp(\"EveryoneAt\" / 1000.0) AT TIME ZONE 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS.MS\"Z\"')");

            migrationBuilder.DropColumn(
                name: "EveryoneAt",
                table: "scheduled_release");

            migrationBuilder.DropColumn(
                name: "EveryoneAt",
                table: "rollout");

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
                type: "text",
                nullable: true,
                collation: "C");

            migrationBuilder.AddColumn<int>(
                name: "Share",
                table: "rollout",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "save_count",
                columns: table => new
                {
                    Release = table.Column<long>(type: "bigint", nullable: false),
                    Entity = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Saved = table.Column<long>(type: "bigint", nullable: false),
                    Failed = table.Column<long>(type: "bigint", nullable: false)
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
                "(SELECT string_agg(value, ' ') FROM json_array_elements_text(\"Terms\"::json -> 'roles'))");

            migrationBuilder.DropTable(
                name: "save_count");

            migrationBuilder.DropColumn(
                name: "Reason",
                table: "rollout");

            migrationBuilder.DropColumn(
                name: "Share",
                table: "rollout");

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
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "EveryoneAt",
                table: "rollout",
                type: "bigint",
                nullable: true);
        }
    }
}
