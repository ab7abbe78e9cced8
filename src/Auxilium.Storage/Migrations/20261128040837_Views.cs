using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Views : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // What was called a look is a view, kept as it is.
            migrationBuilder.RenameTable(name: "looks", newName: "views");
            migrationBuilder.Sql("ALTER TABLE views RENAME CONSTRAINT pk_looks TO pk_views");
            migrationBuilder.Sql("ALTER TABLE views RENAME CONSTRAINT fk_looks_projects_project_id TO fk_views_projects_project_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("ALTER TABLE views RENAME CONSTRAINT pk_views TO pk_looks");
            migrationBuilder.Sql("ALTER TABLE views RENAME CONSTRAINT fk_views_projects_project_id TO fk_looks_projects_project_id");
            migrationBuilder.RenameTable(name: "views", newName: "looks");
        }
    }
}
