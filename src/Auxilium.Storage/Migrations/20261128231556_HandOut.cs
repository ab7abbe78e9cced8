using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class HandOut : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "exports",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: false),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    query = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    drawn = table.Column<int>(type: "integer", nullable: false),
                    pages = table.Column<int>(type: "integer", nullable: false),
                    made_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    heard_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    content = table.Column<byte[]>(type: "bytea", nullable: true),
                    problem = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_exports", x => x.id);
                    table.ForeignKey(
                        name: "fk_exports_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_exports_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "price_list",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    category = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    unit = table.Column<string>(type: "text", nullable: false),
                    price = table.Column<decimal>(type: "numeric(12,2)", precision: 12, scale: 2, nullable: true),
                    supplier = table.Column<string>(type: "text", nullable: false),
                    length = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_price_list", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "project_feeds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    made_by = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: true),
                    milestones_only = table.Column<bool>(type: "boolean", nullable: false),
                    as_to_dos = table.Column<bool>(type: "boolean", nullable: false),
                    alarm_days = table.Column<int>(type: "integer", nullable: true),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    made_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ends_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    used_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_project_feeds", x => x.id);
                    table.ForeignKey(
                        name: "fk_project_feeds_people_made_by",
                        column: x => x.made_by,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_project_feeds_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_project_feeds_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_exports_person_id",
                table: "exports",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_exports_project_id",
                table: "exports",
                column: "project_id");

            migrationBuilder.CreateIndex(
                name: "ix_exports_state",
                table: "exports",
                column: "state");

            migrationBuilder.CreateIndex(
                name: "ix_project_feeds_hash",
                table: "project_feeds",
                column: "hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_project_feeds_made_by",
                table: "project_feeds",
                column: "made_by");

            migrationBuilder.CreateIndex(
                name: "ix_project_feeds_person_id",
                table: "project_feeds",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_project_feeds_project_id",
                table: "project_feeds",
                column: "project_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "exports");

            migrationBuilder.DropTable(
                name: "price_list");

            migrationBuilder.DropTable(
                name: "project_feeds");
        }
    }
}
