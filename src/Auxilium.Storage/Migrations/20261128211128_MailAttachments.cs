using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Auxilium.Storage.Migrations
{
    /// <inheritdoc />
    public partial class MailAttachments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "attachment",
                table: "mails",
                type: "bytea",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "attachment_name",
                table: "mails",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "attachment",
                table: "mails");

            migrationBuilder.DropColumn(
                name: "attachment_name",
                table: "mails");
        }
    }
}
