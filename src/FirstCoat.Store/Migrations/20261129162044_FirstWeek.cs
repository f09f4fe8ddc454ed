using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class FirstWeek : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "first_things_away",
                table: "shop_settings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "jobs",
                table: "shop_settings",
                type: "jsonb",
                nullable: false,
                defaultValue: """["Cleaning","Tooling","Training"]""");

            migrationBuilder.AddColumn<string>(
                name: "layout",
                table: "shop_settings",
                type: "jsonb",
                nullable: false,
                defaultValue: """{"walls":[],"doors":[]}""");

            migrationBuilder.AddColumn<string>(
                name: "racks",
                table: "shop_settings",
                type: "jsonb",
                nullable: false,
                defaultValue: """[{"name":"A","shelves":5,"trays":12},{"name":"B","shelves":5,"trays":12},{"name":"C","shelves":5,"trays":12},{"name":"D","shelves":5,"trays":12}]""");

            migrationBuilder.AddColumn<int>(
                name: "storage_free_days",
                table: "shop_settings",
                type: "integer",
                nullable: false,
                defaultValue: 7);

            migrationBuilder.AddColumn<decimal>(
                name: "storage_per_day",
                table: "shop_settings",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);

            migrationBuilder.AddColumn<string>(
                name: "sent_to",
                table: "reports",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "sent_as",
                table: "money_papers",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "takes_out",
                table: "builds_decisions",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<LocalDate>(
                name: "left_on",
                table: "builds",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<LocalDate>(
                name: "notice_on",
                table: "builds",
                type: "date",
                nullable: true);

            // What has left for good keeps no place.
            migrationBuilder.Sql("update builds set station_id = null where status in ('Closed', 'Withdrawn')");

            migrationBuilder.CreateTable(
                name: "labour_shop_time",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    start = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    stop = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    void_why = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_labour_shop_time", x => x.id);
                    table.ForeignKey(
                        name: "fk_labour_shop_time_shop_people_person_id",
                        column: x => x.person_id,
                        principalTable: "shop_people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_labour_shop_time_person_id_start",
                table: "labour_shop_time",
                columns: new[] { "person_id", "start" });

            migrationBuilder.CreateIndex(
                name: "ix_labour_shop_time_seq",
                table: "labour_shop_time",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "one_running_shop_time",
                table: "labour_shop_time",
                column: "person_id",
                unique: true,
                filter: "stop is null");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "labour_shop_time");

            migrationBuilder.DropColumn(
                name: "first_things_away",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "jobs",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "layout",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "racks",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "storage_free_days",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "storage_per_day",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "sent_to",
                table: "reports");

            migrationBuilder.DropColumn(
                name: "sent_as",
                table: "money_papers");

            migrationBuilder.DropColumn(
                name: "takes_out",
                table: "builds_decisions");

            migrationBuilder.DropColumn(
                name: "left_on",
                table: "builds");

            migrationBuilder.DropColumn(
                name: "notice_on",
                table: "builds");
        }
    }
}
