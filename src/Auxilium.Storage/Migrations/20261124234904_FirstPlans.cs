using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class FirstPlans : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "data_protection_keys",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    friendly_name = table.Column<string>(type: "text", nullable: true),
                    xml = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_data_protection_keys", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "people",
                columns: table => new
                {
                    id = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    initials = table.Column<string>(type: "text", nullable: false),
                    email = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_people", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "projects",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    created_at = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    coordinator = table.Column<string>(type: "text", nullable: true),
                    start = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    finish_by = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    float_to = table.Column<string>(type: "text", nullable: false),
                    status_date = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    move_unfinished_work = table.Column<bool>(type: "boolean", nullable: false),
                    calendar = table.Column<string>(type: "text", nullable: true),
                    hours_per_day = table.Column<decimal>(type: "numeric", nullable: false),
                    days_per_week = table.Column<decimal>(type: "numeric", nullable: false),
                    critical_float = table.Column<string>(type: "text", nullable: false),
                    calendars = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_projects", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "journal",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    edit_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    edit = table.Column<string>(type: "jsonb", nullable: false),
                    inverse = table.Column<string>(type: "jsonb", nullable: false),
                    touched = table.Column<string[]>(type: "text[]", nullable: false),
                    summary = table.Column<string>(type: "text", nullable: false),
                    sentence = table.Column<string>(type: "jsonb", nullable: false),
                    moves = table.Column<string>(type: "json", nullable: false),
                    finish_before = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    finish_after = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    takes_back = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_journal", x => x.id);
                    table.ForeignKey(
                        name: "fk_journal_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "links",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    from = table.Column<string>(type: "text", nullable: false),
                    to = table.Column<string>(type: "text", nullable: false),
                    rank = table.Column<long>(type: "bigint", nullable: false),
                    lag = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_links", x => new { x.project_id, x.from, x.to });
                    table.ForeignKey(
                        name: "fk_links_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "members",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    calendar = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_members", x => new { x.project_id, x.person_id });
                    table.ForeignKey(
                        name: "fk_members_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_members_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "tasks",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    id = table.Column<string>(type: "text", nullable: false),
                    rank = table.Column<long>(type: "bigint", nullable: false),
                    parent = table.Column<string>(type: "text", nullable: true),
                    name = table.Column<string>(type: "text", nullable: false),
                    length = table.Column<string>(type: "text", nullable: false),
                    tentative = table.Column<bool>(type: "boolean", nullable: false),
                    milestone = table.Column<bool>(type: "boolean", nullable: false),
                    around_the_clock = table.Column<bool>(type: "boolean", nullable: false),
                    calendar = table.Column<string>(type: "text", nullable: true),
                    pinned_start = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    pinned_finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    constraint_kind = table.Column<string>(type: "text", nullable: true),
                    constraint_date = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    progress = table.Column<decimal>(type: "numeric", nullable: false),
                    actual_start = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    actual_finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    assignments = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_tasks", x => new { x.project_id, x.id });
                    table.ForeignKey(
                        name: "fk_tasks_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_journal_project_id_edit_id",
                table: "journal",
                columns: new[] { "project_id", "edit_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_journal_project_id_version",
                table: "journal",
                columns: new[] { "project_id", "version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_members_person_id",
                table: "members",
                column: "person_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "data_protection_keys");

            migrationBuilder.DropTable(
                name: "journal");

            migrationBuilder.DropTable(
                name: "links");

            migrationBuilder.DropTable(
                name: "members");

            migrationBuilder.DropTable(
                name: "tasks");

            migrationBuilder.DropTable(
                name: "people");

            migrationBuilder.DropTable(
                name: "projects");
        }
    }
}
