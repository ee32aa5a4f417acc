using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Partial : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "Partial",
                table: "release",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateIndex(
                name: "IX_draft_Kind_Key_Revision",
                table: "draft",
                columns: new[] { "Kind", "Key", "Revision" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            WholeReleases.Fill(migrationBuilder);
            migrationBuilder.DropIndex(
                name: "IX_draft_Kind_Key_Revision",
                table: "draft");

            migrationBuilder.DropColumn(
                name: "Partial",
                table: "release");
        }
    }
}
