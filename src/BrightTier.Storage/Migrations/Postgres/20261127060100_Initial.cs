using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace BrightTier.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Initial : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "change",
                columns: table => new
                {
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Revision = table.Column<long>(type: "bigint", nullable: false),
                    Label = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Edits = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Inverse = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_change", x => new { x.Kind, x.Key, x.Revision });
                });

            migrationBuilder.CreateTable(
                name: "comment",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Subject = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_comment", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "content",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_content", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "credential",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Use = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Expires = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_credential", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "draft",
                columns: table => new
                {
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Revision = table.Column<long>(type: "bigint", nullable: false),
                    Published = table.Column<long>(type: "bigint", nullable: true),
                    Content = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ChangedAt = table.Column<long>(type: "bigint", nullable: false),
                    ChangedBy = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_draft", x => new { x.Kind, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "person",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Roles = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Language = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_person", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "pointer",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Release = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_pointer", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "preference",
                columns: table => new
                {
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Content = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_preference", x => new { x.Person, x.Name });
                });

            migrationBuilder.CreateTable(
                name: "protection_key",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Xml = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_protection_key", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "release",
                columns: table => new
                {
                    Number = table.Column<long>(type: "bigint", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Note = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Restores = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_release", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "mention",
                columns: table => new
                {
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Comment = table.Column<long>(type: "bigint", nullable: false),
                    Seen = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_mention", x => new { x.Person, x.Comment });
                    table.ForeignKey(
                        name: "FK_mention_comment_Comment",
                        column: x => x.Comment,
                        principalTable: "comment",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "release_document",
                columns: table => new
                {
                    Release = table.Column<long>(type: "bigint", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_release_document", x => new { x.Release, x.Kind, x.Key });
                    table.ForeignKey(
                        name: "FK_release_document_content_Hash",
                        column: x => x.Hash,
                        principalTable: "content",
                        principalColumn: "Hash",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_release_document_release_Release",
                        column: x => x.Release,
                        principalTable: "release",
                        principalColumn: "Number",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_comment_Subject_Id",
                table: "comment",
                columns: new[] { "Subject", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_credential_Person",
                table: "credential",
                column: "Person");

            migrationBuilder.CreateIndex(
                name: "IX_mention_Comment",
                table: "mention",
                column: "Comment");

            migrationBuilder.CreateIndex(
                name: "IX_release_document_Hash",
                table: "release_document",
                column: "Hash");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "change");

            migrationBuilder.DropTable(
                name: "credential");

            migrationBuilder.DropTable(
                name: "draft");

            migrationBuilder.DropTable(
                name: "mention");

            migrationBuilder.DropTable(
                name: "person");

            migrationBuilder.DropTable(
                name: "pointer");

            migrationBuilder.DropTable(
                name: "preference");

            migrationBuilder.DropTable(
                name: "protection_key");

            migrationBuilder.DropTable(
                name: "release_document");

            migrationBuilder.DropTable(
                name: "comment");

            migrationBuilder.DropTable(
                name: "content");

            migrationBuilder.DropTable(
                name: "release");
        }
    }
}
