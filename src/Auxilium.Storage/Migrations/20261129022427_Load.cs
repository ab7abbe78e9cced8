using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Load : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "work",
                table: "projected_tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "availability",
                table: "people",
                type: "text",
                nullable: true);

            // What is kept of plans has no work yet: it is worked out anew when it is first asked for.
            migrationBuilder.Sql("delete from projected_plans");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "work",
                table: "projected_tasks");

            migrationBuilder.DropColumn(
                name: "availability",
                table: "people");
        }
    }
}
