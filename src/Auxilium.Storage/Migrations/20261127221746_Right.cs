using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Right : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "facts",
                table: "tasks",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "archived_at",
                table: "projects",
                type: "timestamp without time zone",
                nullable: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "deleted_at",
                table: "projects",
                type: "timestamp without time zone",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "digest_on",
                table: "organisation",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "time_zone",
                table: "organisation",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "time_changes",
                columns: table => new
                {
                    person_id = table.Column<string>(type: "text", nullable: false),
                    changed_by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp without time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_time_changes", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_time_changes_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "time_changes");

            migrationBuilder.DropColumn(
                name: "facts",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "archived_at",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "deleted_at",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "digest_on",
                table: "organisation");

            migrationBuilder.DropColumn(
                name: "time_zone",
                table: "organisation");
        }
    }
}
