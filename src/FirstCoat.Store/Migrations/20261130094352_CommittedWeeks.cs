using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class CommittedWeeks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "plan_calendar_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    station_id = table.Column<Guid>(type: "uuid", nullable: true),
                    token_hash = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false),
                    revoked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_calendar_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_plan_calendar_links_shop_people_person_id",
                        column: x => x.person_id,
                        principalTable: "shop_people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_plan_calendar_links_shop_stations_station_id",
                        column: x => x.station_id,
                        principalTable: "shop_stations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "plan_weeks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    monday = table.Column<LocalDate>(type: "date", nullable: false),
                    committed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    committed_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    promises = table.Column<string>(type: "jsonb", nullable: false),
                    counted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    counted_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    extra = table.Column<int>(type: "integer", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_weeks", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_plan_calendar_links_person_id",
                table: "plan_calendar_links",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_plan_calendar_links_seq",
                table: "plan_calendar_links",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_calendar_links_station_id",
                table: "plan_calendar_links",
                column: "station_id");

            migrationBuilder.CreateIndex(
                name: "ix_plan_calendar_links_token_hash",
                table: "plan_calendar_links",
                column: "token_hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_weeks_monday",
                table: "plan_weeks",
                column: "monday",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "plan_calendar_links");

            migrationBuilder.DropTable(
                name: "plan_weeks");
        }
    }
}
