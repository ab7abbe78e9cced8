using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Baselines : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // It is made again of the plans, with what it did not say so far.
            migrationBuilder.Sql("delete from projected_plans");

            migrationBuilder.AddColumn<int>(
                name: "drift",
                table: "projected_tasks",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "effort",
                table: "projected_tasks",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "drift",
                table: "projected_plans",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "measure",
                table: "projected_plans",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "measure",
                table: "plans",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "baselines",
                columns: table => new
                {
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    id = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    taken = table.Column<DateOnly>(type: "date", nullable: false),
                    whole = table.Column<bool>(type: "boolean", nullable: false),
                    start = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    rows = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_baselines", x => new { x.plan_id, x.id });
                    table.ForeignKey(
                        name: "fk_baselines_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "plans",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "baselines");

            migrationBuilder.DropColumn(
                name: "drift",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "effort",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "drift",
                table: "projected_plans");

            migrationBuilder.DropColumn(
                name: "measure",
                table: "projected_plans");

            migrationBuilder.DropColumn(
                name: "measure",
                table: "plans");
        }
    }
}
