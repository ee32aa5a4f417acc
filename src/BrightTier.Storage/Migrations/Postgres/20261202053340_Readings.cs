using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Readings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "reading",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Reader = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Head = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_reading", x => x.Hash);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "reading");
        }
    }
}
