using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Gatekeeper : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "blocks_hanging",
                table: "survey_panel_events",
                type: "boolean",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "flag",
                table: "survey_panel_events",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "out_by",
                table: "survey_panel_events",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "takes_back",
                table: "survey_panel_events",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "earlier_signatures",
                table: "sequence_operations",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "out_of_order_why",
                table: "sequence_operations",
                type: "character varying(300)",
                maxLength: 300,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "flag",
                table: "labour_entries",
                type: "jsonb",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "blocks_hanging",
                table: "survey_panel_events");

            migrationBuilder.DropColumn(
                name: "flag",
                table: "survey_panel_events");

            migrationBuilder.DropColumn(
                name: "out_by",
                table: "survey_panel_events");

            migrationBuilder.DropColumn(
                name: "takes_back",
                table: "survey_panel_events");

            migrationBuilder.DropColumn(
                name: "earlier_signatures",
                table: "sequence_operations");

            migrationBuilder.DropColumn(
                name: "out_of_order_why",
                table: "sequence_operations");

            migrationBuilder.DropColumn(
                name: "flag",
                table: "labour_entries");
        }
    }
}
