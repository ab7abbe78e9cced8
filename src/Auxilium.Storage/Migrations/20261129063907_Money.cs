using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Money : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "later_rates",
                table: "people",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "volunteer_hour",
                table: "organisation",
                type: "numeric",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "cost_items",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    id = table.Column<string>(type: "text", nullable: false),
                    task_id = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    item = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_cost_items", x => new { x.project_id, x.id });
                    table.ForeignKey(
                        name: "fk_cost_items_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "money_access",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_money_access", x => new { x.project_id, x.person_id });
                    table.ForeignKey(
                        name: "fk_money_access_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_money_access_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "money_journal",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    edit_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    inverse = table.Column<string>(type: "text", nullable: false),
                    touches = table.Column<string[]>(type: "text[]", nullable: false),
                    sentence = table.Column<string>(type: "text", nullable: false),
                    takes_back = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_money_journal", x => x.id);
                    table.ForeignKey(
                        name: "fk_money_journal_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "project_money",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    budget = table.Column<decimal>(type: "numeric", nullable: true),
                    actuals = table.Column<string>(type: "text", nullable: true),
                    version = table.Column<int>(type: "integer", nullable: false),
                    expected = table.Column<decimal>(type: "numeric", nullable: true),
                    spent = table.Column<decimal>(type: "numeric", nullable: true),
                    as_of = table.Column<DateOnly>(type: "date", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_project_money", x => x.project_id);
                    table.ForeignKey(
                        name: "fk_project_money_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "row_budgets",
                columns: table => new
                {
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    task_id = table.Column<string>(type: "text", nullable: false),
                    budget = table.Column<decimal>(type: "numeric", nullable: true),
                    could_take = table.Column<string>(type: "text", nullable: true),
                    could_take_cost = table.Column<decimal>(type: "numeric", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_row_budgets", x => new { x.project_id, x.task_id });
                    table.ForeignKey(
                        name: "fk_row_budgets_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_cost_items_project_id_task_id",
                table: "cost_items",
                columns: new[] { "project_id", "task_id" });

            migrationBuilder.CreateIndex(
                name: "ix_money_access_person_id",
                table: "money_access",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_money_journal_edit_id",
                table: "money_journal",
                column: "edit_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_money_journal_project_id_version",
                table: "money_journal",
                columns: new[] { "project_id", "version" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "cost_items");

            migrationBuilder.DropTable(
                name: "money_access");

            migrationBuilder.DropTable(
                name: "money_journal");

            migrationBuilder.DropTable(
                name: "project_money");

            migrationBuilder.DropTable(
                name: "row_budgets");

            migrationBuilder.DropColumn(
                name: "later_rates",
                table: "people");

            migrationBuilder.DropColumn(
                name: "volunteer_hour",
                table: "organisation");
        }
    }
}
