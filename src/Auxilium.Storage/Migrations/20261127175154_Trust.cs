using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Trust : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid[]>(
                name: "projects",
                table: "time_off",
                type: "uuid[]",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "made_by",
                table: "people",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "last_code_step",
                table: "accounts",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "audit",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: true),
                    about = table.Column<string>(type: "text", nullable: true),
                    project_id = table.Column<Guid>(type: "uuid", nullable: true),
                    text = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_audit", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "first_start",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    code = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_first_start", x => x.id);
                });

            // Why somebody is away is nobody's business on a plan: only that they are.
            migrationBuilder.Sql("""
                update projects set calendars = (
                    select jsonb_agg(case when not exists (select 1 from members m where m.project_id = projects.id and m.calendar = c->>'Id' and m.calendar like 'own-%') then c else jsonb_set(c, '{Exceptions}', coalesce((
                        select jsonb_agg(e || '{"Name": "Away"}' order by k) from jsonb_array_elements(c->'Exceptions') with ordinality as days(e, k)), '[]')) end order by n)
                    from jsonb_array_elements(calendars) with ordinality as own(c, n))
                where calendars::text like '%"own-%'
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "audit");

            migrationBuilder.DropTable(
                name: "first_start");

            migrationBuilder.DropColumn(
                name: "projects",
                table: "time_off");

            migrationBuilder.DropColumn(
                name: "made_by",
                table: "people");

            migrationBuilder.DropColumn(
                name: "last_code_step",
                table: "accounts");
        }
    }
}
