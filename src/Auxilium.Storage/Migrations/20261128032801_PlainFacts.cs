using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class PlainFacts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // What has a column of its own so far lies with the other facts from now on, where it is not as usual.
            migrationBuilder.Sql("""
                UPDATE tasks SET facts = COALESCE(facts, '{}'::jsonb) || jsonb_strip_nulls(jsonb_build_object(
                    'priority', NULLIF(priority, 500), 'key', NULLIF(key, false), 'colour', colour, 'label', label))
                WHERE priority <> 500 OR key OR colour IS NOT NULL OR label IS NOT NULL
                """);

            migrationBuilder.DropColumn(
                name: "colour",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "key",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "label",
                table: "tasks");

            migrationBuilder.DropColumn(
                name: "priority",
                table: "tasks");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "colour",
                table: "tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "key",
                table: "tasks",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "label",
                table: "tasks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "priority",
                table: "tasks",
                type: "integer",
                nullable: false,
                defaultValue: 500);

            migrationBuilder.Sql("""
                UPDATE tasks SET
                    priority = COALESCE((facts->>'priority')::integer, 500), key = COALESCE((facts->>'key')::boolean, false),
                    colour = facts->>'colour', label = facts->>'label', facts = NULLIF(facts - '{priority,key,colour,label}'::text[], '{}')
                """);
        }
    }
}
