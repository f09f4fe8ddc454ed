using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Years : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "panels_against_a_rule",
                table: "survey_panel_events",
                column: "build_id",
                filter: "flag is not null");

            migrationBuilder.CreateIndex(
                name: "hours_against_a_rule",
                table: "labour_entries",
                column: "build_id",
                filter: "flag is not null");

            migrationBuilder.CreateIndex(
                name: "hours_of_a_day",
                table: "labour_entries",
                column: "start");

            migrationBuilder.CreateIndex(
                name: "changes_of_a_time",
                table: "access_audit",
                column: "at");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "panels_against_a_rule",
                table: "survey_panel_events");

            migrationBuilder.DropIndex(
                name: "hours_against_a_rule",
                table: "labour_entries");

            migrationBuilder.DropIndex(
                name: "hours_of_a_day",
                table: "labour_entries");

            migrationBuilder.DropIndex(
                name: "changes_of_a_time",
                table: "access_audit");
        }
    }
}
