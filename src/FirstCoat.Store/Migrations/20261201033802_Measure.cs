using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Measure : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "fitup_acceptances",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    line = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    round = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    why = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    what = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    accepted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    accepted_by = table.Column<string>(type: "text", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_acceptances", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_acceptances_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_changes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    panels = table.Column<string>(type: "jsonb", nullable: false),
                    method = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    move = table.Column<string>(type: "jsonb", nullable: true),
                    what = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    helped = table.Column<bool>(type: "boolean", nullable: true),
                    result = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_changes", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_changes_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

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

            migrationBuilder.CreateTable(
                name: "fitup_openings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    of = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    diagonal1 = table.Column<decimal>(type: "numeric", nullable: false),
                    diagonal2 = table.Column<decimal>(type: "numeric", nullable: false),
                    width = table.Column<decimal>(type: "numeric", nullable: false),
                    side = table.Column<decimal>(type: "numeric", nullable: false),
                    unit = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    when = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_openings", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_openings_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    line = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    round = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    station = table.Column<int>(type: "integer", nullable: false),
                    measure = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    value = table.Column<decimal>(type: "numeric", nullable: false),
                    unit = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    instrument = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_readings_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_sheets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    painted = table.Column<string>(type: "jsonb", nullable: false),
                    bright = table.Column<string>(type: "jsonb", nullable: false),
                    film_um = table.Column<double>(type: "double precision", nullable: true),
                    lines = table.Column<string>(type: "jsonb", nullable: false),
                    doors = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_sheets", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_sheets_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_fitup_acceptances_build_id",
                table: "fitup_acceptances",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_acceptances_seq",
                table: "fitup_acceptances",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_changes_build_id",
                table: "fitup_changes",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_changes_seq",
                table: "fitup_changes",
                column: "seq",
                unique: true);

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

            migrationBuilder.CreateIndex(
                name: "ix_fitup_openings_build_id",
                table: "fitup_openings",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_openings_seq",
                table: "fitup_openings",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_readings_build_id",
                table: "fitup_readings",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_readings_seq",
                table: "fitup_readings",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_sheets_build_id",
                table: "fitup_sheets",
                column: "build_id",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "fitup_acceptances");

            migrationBuilder.DropTable(
                name: "fitup_changes");

            migrationBuilder.DropTable(
                name: "fitup_datum_readings");

            migrationBuilder.DropTable(
                name: "fitup_datum_sheets");

            migrationBuilder.DropTable(
                name: "fitup_openings");

            migrationBuilder.DropTable(
                name: "fitup_readings");

            migrationBuilder.DropTable(
                name: "fitup_sheets");
        }
    }
}
