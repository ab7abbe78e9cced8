using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class ProjectsInFolders : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // It is made again of the plans, with what it did not say so far.
            migrationBuilder.Sql("delete from projected_plans");

            migrationBuilder.AddColumn<string>(
                name: "colour",
                table: "projects",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "folder_id",
                table: "projects",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "priority",
                table: "projects",
                type: "integer",
                nullable: false,
                defaultValue: 500);

            migrationBuilder.AddColumn<string>(
                name: "status",
                table: "projects",
                type: "text",
                nullable: false,
                defaultValue: "Active");

            migrationBuilder.AddColumn<int>(
                name: "gathers",
                table: "projected_tasks",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "gathers_left",
                table: "projected_tasks",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateOnly>(
                name: "weekly_on",
                table: "accounts",
                type: "date",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "chances",
                columns: table => new
                {
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    chance = table.Column<decimal>(type: "numeric", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_chances", x => x.plan_id);
                    table.ForeignKey(
                        name: "fk_chances_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "plans",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "folders",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    parent_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_folders", x => x.id);
                    table.ForeignKey(
                        name: "fk_folders_folders_parent_id",
                        column: x => x.parent_id,
                        principalTable: "folders",
                        principalColumn: "id",
                        onDelete: ReferentialAction.SetNull);
                });

            migrationBuilder.CreateTable(
                name: "projects_views",
                columns: table => new
                {
                    person_id = table.Column<string>(type: "text", nullable: false),
                    content = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_projects_views", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_projects_views_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_projects_folder_id",
                table: "projects",
                column: "folder_id");

            migrationBuilder.CreateIndex(
                name: "ix_folders_parent_id",
                table: "folders",
                column: "parent_id");

            migrationBuilder.AddForeignKey(
                name: "fk_projects_folders_folder_id",
                table: "projects",
                column: "folder_id",
                principalTable: "folders",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_projects_folders_folder_id",
                table: "projects");

            migrationBuilder.DropTable(
                name: "chances");

            migrationBuilder.DropTable(
                name: "folders");

            migrationBuilder.DropTable(
                name: "projects_views");

            migrationBuilder.DropIndex(
                name: "ix_projects_folder_id",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "colour",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "folder_id",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "priority",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "status",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "gathers",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "gathers_left",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "weekly_on",
                table: "accounts");
        }
    }
}
