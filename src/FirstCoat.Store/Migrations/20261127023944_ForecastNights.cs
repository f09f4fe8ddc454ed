using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class ForecastNights : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "plan_forecast_nights",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    on = table.Column<LocalDate>(type: "date", nullable: false),
                    p50 = table.Column<LocalDate>(type: "date", nullable: false),
                    p80 = table.Column<LocalDate>(type: "date", nullable: false),
                    p90 = table.Column<LocalDate>(type: "date", nullable: false),
                    kept = table.Column<decimal>(type: "numeric(4,3)", precision: 4, scale: 3, nullable: true),
                    holds_kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    holds = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_forecast_nights", x => x.id);
                    table.ForeignKey(
                        name: "fk_plan_forecast_nights_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_plan_forecast_nights_build_id_on",
                table: "plan_forecast_nights",
                columns: new[] { "build_id", "on" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "plan_forecast_nights");
        }
    }
}
