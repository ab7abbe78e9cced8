using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class PlansOfTheirOwn : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "plans",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    project_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    schedule_from = table.Column<string>(type: "text", nullable: false, defaultValue: "Start"),
                    start = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    finish_by = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    float_to = table.Column<string>(type: "text", nullable: false),
                    status_date = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    move_unfinished_work = table.Column<bool>(type: "boolean", nullable: false),
                    calendar = table.Column<string>(type: "text", nullable: true),
                    hours_per_day = table.Column<decimal>(type: "numeric", nullable: false),
                    days_per_week = table.Column<decimal>(type: "numeric", nullable: false),
                    critical_float = table.Column<string>(type: "text", nullable: false),
                    calendars = table.Column<string>(type: "jsonb", nullable: false),
                    periods = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'::jsonb")
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plans", x => x.id);
                    table.ForeignKey(
                        name: "fk_plans_projects_project_id",
                        column: x => x.project_id,
                        principalTable: "projects",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_plans_live",
                table: "plans",
                column: "project_id",
                unique: true,
                filter: "kind = 'Live'");

            migrationBuilder.CreateIndex(
                name: "ix_plans_project_id",
                table: "plans",
                column: "project_id");

            // What was planned in a project becomes a plan of its own, and everything that belongs to it goes by that.
            migrationBuilder.Sql(
                """
                INSERT INTO plans (id, project_id, kind, version, note, schedule_from, start, finish, finish_by, float_to, status_date,
                    move_unfinished_work, calendar, hours_per_day, days_per_week, critical_float, calendars, periods)
                SELECT gen_random_uuid(), id, 'Live', version, note, schedule_from, start, finish, finish_by, float_to, status_date,
                    move_unfinished_work, calendar, hours_per_day, days_per_week, critical_float, calendars, periods FROM projects
                """
            );

            migrationBuilder.DropForeignKey(
                name: "fk_journal_projects_project_id",
                table: "journal");

            migrationBuilder.DropForeignKey(
                name: "fk_links_projects_project_id",
                table: "links");

            migrationBuilder.DropForeignKey(
                name: "fk_members_projects_project_id",
                table: "members");

            migrationBuilder.DropForeignKey(
                name: "fk_tasks_projects_project_id",
                table: "tasks");

            migrationBuilder.RenameColumn(
                name: "project_id",
                table: "tasks",
                newName: "plan_id");

            migrationBuilder.RenameColumn(
                name: "project_id",
                table: "members",
                newName: "plan_id");

            migrationBuilder.RenameColumn(
                name: "project_id",
                table: "links",
                newName: "plan_id");

            migrationBuilder.RenameColumn(
                name: "project_id",
                table: "journal",
                newName: "plan_id");

            migrationBuilder.RenameIndex(
                name: "ix_journal_project_id_version",
                table: "journal",
                newName: "ix_journal_plan_id_version");

            migrationBuilder.RenameIndex(
                name: "ix_journal_project_id_person_id_version",
                table: "journal",
                newName: "ix_journal_plan_id_person_id_version");

            migrationBuilder.RenameIndex(
                name: "ix_journal_project_id_edit_id",
                table: "journal",
                newName: "ix_journal_plan_id_edit_id");

            foreach (var table in new[] { "tasks", "links", "members", "journal" })
                migrationBuilder.Sql($"UPDATE {table} SET plan_id = plans.id FROM plans WHERE plans.project_id = {table}.plan_id");

            migrationBuilder.DropColumn(
                name: "calendar",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "calendars",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "critical_float",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "days_per_week",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "finish",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "finish_by",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "float_to",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "hours_per_day",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "move_unfinished_work",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "note",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "periods",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "schedule_from",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "start",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "status_date",
                table: "projects");

            migrationBuilder.DropColumn(
                name: "version",
                table: "projects");

            migrationBuilder.CreateTable(
                name: "projected_plans",
                columns: table => new
                {
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: true),
                    start = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: false),
                    finish_by = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    spare = table.Column<int>(type: "integer", nullable: true),
                    outlook = table.Column<int>(type: "integer", nullable: true),
                    progress = table.Column<decimal>(type: "numeric", nullable: false),
                    whole = table.Column<int>(type: "integer", nullable: false),
                    passed = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_projected_plans", x => x.plan_id);
                    table.ForeignKey(
                        name: "fk_projected_plans_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "plans",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "projected_tasks",
                columns: table => new
                {
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    task_id = table.Column<string>(type: "text", nullable: false),
                    rank = table.Column<long>(type: "bigint", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    people = table.Column<string[]>(type: "text[]", nullable: false),
                    start = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    finish = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    last_day = table.Column<DateOnly>(type: "date", nullable: true),
                    is_leaf = table.Column<bool>(type: "boolean", nullable: false),
                    is_milestone = table.Column<bool>(type: "boolean", nullable: false),
                    is_of_hours = table.Column<bool>(type: "boolean", nullable: false),
                    is_critical = table.Column<bool>(type: "boolean", nullable: false),
                    progress = table.Column<decimal>(type: "numeric", nullable: false),
                    is_started = table.Column<bool>(type: "boolean", nullable: false),
                    is_finished = table.Column<bool>(type: "boolean", nullable: false),
                    waits_for = table.Column<string>(type: "text", nullable: true),
                    minutes_left = table.Column<int>(type: "integer", nullable: false),
                    deadline = table.Column<DateTime>(type: "timestamp without time zone", nullable: true),
                    series = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_projected_tasks", x => new { x.plan_id, x.task_id });
                    table.ForeignKey(
                        name: "fk_projected_tasks_projected_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "projected_plans",
                        principalColumn: "plan_id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_projected_tasks_people",
                table: "projected_tasks",
                column: "people")
                .Annotation("Npgsql:IndexMethod", "gin");

            // They follow from the plans: after a crash they are empty, and are made anew. So no edit waits for them to reach the disk.
            migrationBuilder.Sql("ALTER TABLE projected_tasks SET UNLOGGED, SET (fillfactor = 60)");
            migrationBuilder.Sql("ALTER TABLE projected_plans SET UNLOGGED");

            migrationBuilder.AddForeignKey(
                name: "fk_journal_plans_plan_id",
                table: "journal",
                column: "plan_id",
                principalTable: "plans",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_links_plans_plan_id",
                table: "links",
                column: "plan_id",
                principalTable: "plans",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_members_plans_plan_id",
                table: "members",
                column: "plan_id",
                principalTable: "plans",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_tasks_plans_plan_id",
                table: "tasks",
                column: "plan_id",
                principalTable: "plans",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Before there were plans of their own, there is only a backup to go back to.");
    }
}
