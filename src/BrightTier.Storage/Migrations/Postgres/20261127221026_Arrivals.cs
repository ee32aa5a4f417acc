using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Arrivals : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "arrival",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    After = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_arrival", x => x.Id);
                    table.ForeignKey(
                        name: "FK_arrival_content_Hash",
                        column: x => x.Hash,
                        principalTable: "content",
                        principalColumn: "Hash",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_arrival_Hash",
                table: "arrival",
                column: "Hash");

            migrationBuilder.CreateIndex(
                name: "IX_arrival_Kind_Key",
                table: "arrival",
                columns: new[] { "Kind", "Key" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "arrival");
        }
    }
}
