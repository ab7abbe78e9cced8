using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class OrganisationSettings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "calendar",
                table: "organisation",
                type: "text",
                nullable: false,
                defaultValue: "weekdays");

            migrationBuilder.AddColumn<string>(
                name: "currency",
                table: "organisation",
                type: "text",
                nullable: false,
                defaultValue: "EUR");

            migrationBuilder.AddColumn<string>(
                name: "first_weekday",
                table: "organisation",
                type: "text",
                nullable: false,
                defaultValue: "Monday");

            migrationBuilder.AddColumn<string>(
                name: "holidays",
                table: "organisation",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<byte[]>(
                name: "logo",
                table: "organisation",
                type: "bytea",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "calendar",
                table: "organisation");

            migrationBuilder.DropColumn(
                name: "currency",
                table: "organisation");

            migrationBuilder.DropColumn(
                name: "first_weekday",
                table: "organisation");

            migrationBuilder.DropColumn(
                name: "holidays",
                table: "organisation");

            migrationBuilder.DropColumn(
                name: "logo",
                table: "organisation");
        }
    }
}
