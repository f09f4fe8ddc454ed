using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Datum : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "fitup_datum_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    point = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    round = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    at = table.Column<string>(type: "jsonb", nullable: false),
                    tool = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    instrument = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    read_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_datum_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_datum_readings_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_datum_sheets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    drawing = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    revision = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    page = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    tolerance_mm = table.Column<double>(type: "double precision", nullable: false),
                    points = table.Column<string>(type: "jsonb", nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: false),
                    after = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_datum_sheets", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_datum_sheets_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_fitup_datum_readings_build_id",
                table: "fitup_datum_readings",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_datum_readings_seq",
                table: "fitup_datum_readings",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_datum_sheets_build_id",
                table: "fitup_datum_sheets",
                column: "build_id",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "fitup_datum_readings");

            migrationBuilder.DropTable(
                name: "fitup_datum_sheets");
        }
    }
}
