using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class WhatNeedsAttention : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // It is made again of the plans, with what it did not say so far.
            migrationBuilder.Sql("delete from projected_plans");

            migrationBuilder.AddColumn<string>(
                name: "delivered_by",
                table: "projected_tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "holds_up",
                table: "projected_tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "short_by",
                table: "projected_tasks",
                type: "integer",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "delivered_by",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "holds_up",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "short_by",
                table: "projected_tasks");
        }
    }
}
