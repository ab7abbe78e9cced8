using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class EveryRule : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "active",
                table: "tasks",
                type: "boolean",
                nullable: false,
                defaultValue: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "deadline",
                table: "tasks",
                type: "timestamp without time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "estimate",
                table: "tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "priority",
                table: "tasks",
                type: "integer",
                nullable: false,
                defaultValue: 500);

            migrationBuilder.AddColumn<string>(
                name: "remaining",
                table: "tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "splits",
                table: "tasks",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AlterColumn<DateTime>(
                name: "start",
                table: "projects",
                type: "timestamp without time zone",
                nullable: true,
                oldClrType: typeof(DateTime),
                oldType: "timestamp without time zone");

            migrationBuilder.AddColumn<DateTime>(
                name: "finish",
                table: "projects",
                type: "timestamp without time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "schedule_from",
                table: "projects",
                type: "text",
                nullable: false,
                defaultValue: "Start");

            migrationBuilder.AddColumn<bool>(
                name: "elapsed",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "kind",
                table: "links",
                type: "text",
                nullable: false,
                defaultValue: "FinishToStart");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "active",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "deadline",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "estimate",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "priority",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "remaining",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "splits",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "finish",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "schedule_from",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "elapsed",
                table: "links");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "links");

            migrationBuilder.AlterColumn<DateTime>(
                name: "start",
                table: "projects",
                type: "timestamp without time zone",
                nullable: false,
                defaultValue: new DateTime(1, 1, 1, 0, 0, 0, 0, DateTimeKind.Unspecified),
                oldClrType: typeof(DateTime),
                oldType: "timestamp without time zone",
                oldNullable: true);
        }
    }
}
