using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class FitUp : Migration
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
                name: "fitup_readings");

            migrationBuilder.DropTable(
                name: "fitup_sheets");
        }
    }
}
