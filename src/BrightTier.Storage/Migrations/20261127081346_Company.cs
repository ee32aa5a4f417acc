using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace BrightTier.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Company : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "Revision",
                table: "release_document",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Base",
                table: "release",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "Despite",
                table: "release",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Provider",
                table: "person",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Scopes",
                table: "credential",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Item",
                table: "comment",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "ResolvedAt",
                table: "comment",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ResolvedBy",
                table: "comment",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "act",
                columns: table => new
                {
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Act = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Detail = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_act", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "approval",
                columns: table => new
                {
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Revision = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_approval", x => new { x.Kind, x.Key, x.Revision, x.By });
                });

            migrationBuilder.CreateTable(
                name: "lease",
                columns: table => new
                {
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Holder = table.Column<string>(type: "TEXT", nullable: false),
                    Until = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_lease", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "password",
                columns: table => new
                {
                    Person = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Missed = table.Column<long>(type: "INTEGER", nullable: false),
                    LockedUntil = table.Column<long>(type: "INTEGER", nullable: false),
                    ToChange = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_password", x => x.Person);
                });

            migrationBuilder.CreateTable(
                name: "plan",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    Made = table.Column<long>(type: "INTEGER", nullable: false),
                    Due = table.Column<long>(type: "INTEGER", nullable: false),
                    Roles = table.Column<string>(type: "TEXT", nullable: true),
                    EveryoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Despite = table.Column<string>(type: "TEXT", nullable: true),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: true),
                    Release = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_plan", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "presence",
                columns: table => new
                {
                    Process = table.Column<string>(type: "TEXT", nullable: false),
                    Release = table.Column<long>(type: "INTEGER", nullable: false),
                    Clients = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_presence", x => new { x.Process, x.Release });
                });

            migrationBuilder.CreateTable(
                name: "rollout",
                columns: table => new
                {
                    Release = table.Column<long>(type: "INTEGER", nullable: false),
                    Roles = table.Column<string>(type: "TEXT", nullable: false),
                    EveryoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    ChangedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    ChangedBy = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_rollout", x => x.Release);
                    table.ForeignKey(
                        name: "FK_rollout_release_Release",
                        column: x => x.Release,
                        principalTable: "release",
                        principalColumn: "Number",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "stored_file",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_stored_file", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "plan_document",
                columns: table => new
                {
                    Plan = table.Column<long>(type: "INTEGER", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Revision = table.Column<long>(type: "INTEGER", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Before = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_plan_document", x => new { x.Plan, x.Kind, x.Key });
                    table.ForeignKey(
                        name: "FK_plan_document_content_Hash",
                        column: x => x.Hash,
                        principalTable: "content",
                        principalColumn: "Hash",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_plan_document_plan_Plan",
                        column: x => x.Plan,
                        principalTable: "plan",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_act_At",
                table: "act",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_plan_document_Hash",
                table: "plan_document",
                column: "Hash");

            // Releases made before this one each rest on the one before.
            migrationBuilder.Sql("UPDATE release SET \"Base\" = \"Number\" - 1");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "act");

            migrationBuilder.DropTable(
                name: "approval");

            migrationBuilder.DropTable(
                name: "lease");

            migrationBuilder.DropTable(
                name: "password");

            migrationBuilder.DropTable(
                name: "plan_document");

            migrationBuilder.DropTable(
                name: "presence");

            migrationBuilder.DropTable(
                name: "rollout");

            migrationBuilder.DropTable(
                name: "stored_file");

            migrationBuilder.DropTable(
                name: "plan");

            migrationBuilder.DropColumn(
                name: "Revision",
                table: "release_document");

            migrationBuilder.DropColumn(
                name: "Base",
                table: "release");

            migrationBuilder.DropColumn(
                name: "Despite",
                table: "release");

            migrationBuilder.DropColumn(
                name: "Provider",
                table: "person");

            migrationBuilder.DropColumn(
                name: "Scopes",
                table: "credential");

            migrationBuilder.DropColumn(
                name: "Item",
                table: "comment");

            migrationBuilder.DropColumn(
                name: "ResolvedAt",
                table: "comment");

            migrationBuilder.DropColumn(
                name: "ResolvedBy",
                table: "comment");
        }
    }
}
