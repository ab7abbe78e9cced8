using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class HoursEntered : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTime>(
                name: "entered_at",
                table: "hours",
                type: "timestamp with time zone",
                nullable: false,
                defaultValueSql: "now()");

            migrationBuilder.AddColumn<string>(
                name: "entered_by",
                table: "hours",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "task_name",
                table: "hours",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "timers",
                columns: table => new
                {
                    person_id = table.Column<string>(type: "text", nullable: false),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    task_id = table.Column<string>(type: "text", nullable: false),
                    task_name = table.Column<string>(type: "text", nullable: false),
                    started_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_timers", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_timers_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_timers_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_timers_project_id",
                table: "timers",
                column: "project_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "timers");

            migrationBuilder.DropColumn(
                name: "entered_at",
                table: "hours");

            migrationBuilder.DropColumn(
                name: "entered_by",
                table: "hours");

            migrationBuilder.DropColumn(
                name: "task_name",
                table: "hours");
        }
    }
}
