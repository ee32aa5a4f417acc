using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class LayoutHeads : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "layout_head",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Reader = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Head = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_layout_head", x => x.Hash);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "layout_head");
        }
    }
}
