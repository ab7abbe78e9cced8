using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class JournalTasks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string[]>(
                name: "tasks",
                table: "journal",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            // What was kept before says which tasks in two other columns: as task/field, and in what moved.
            migrationBuilder.Sql(
                """
                update journal set tasks = array(
                  select regexp_replace(touch, '/[^/]*$', '') from unnest(touched) touch where touch not like '/%'
                  union
                  select move ->> 'Task' from json_array_elements(
                    case json_typeof(moves) when 'array' then moves else moves -> 'Moves' end) move)
                """);

            migrationBuilder.CreateIndex(
                name: "ix_journal_project_id_person_id_version",
                table: "journal",
                columns: new[] { "project_id", "person_id", "version" });

            migrationBuilder.CreateIndex(
                name: "ix_journal_takings",
                table: "journal",
                columns: new[] { "project_id", "version" },
                filter: "takes_back is not null");

            migrationBuilder.CreateIndex(
                name: "ix_journal_tasks",
                table: "journal",
                column: "tasks")
                .Annotation("Npgsql:IndexMethod", "gin");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_journal_project_id_person_id_version",
                table: "journal");

            migrationBuilder.DropIndex(
                name: "ix_journal_takings",
                table: "journal");

            migrationBuilder.DropIndex(
                name: "ix_journal_tasks",
                table: "journal");

            migrationBuilder.DropColumn(
                name: "tasks",
                table: "journal");
        }
    }
}
