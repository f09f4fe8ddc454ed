using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Bench : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "bench_offcuts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    width_mm = table.Column<double>(type: "double precision", nullable: false),
                    height_mm = table.Column<double>(type: "double precision", nullable: false),
                    gauge_mm = table.Column<double>(type: "double precision", nullable: false),
                    material = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    place = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    from_build = table.Column<Guid>(type: "uuid", nullable: true),
                    kept_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    kept_by = table.Column<string>(type: "text", nullable: false),
                    used_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    used_by = table.Column<string>(type: "text", nullable: false),
                    used_for = table.Column<Guid>(type: "uuid", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bench_offcuts", x => x.id);
                    table.ForeignKey(
                        name: "fk_bench_offcuts_builds_from_build",
                        column: x => x.from_build,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_bench_offcuts_builds_used_for",
                        column: x => x.used_for,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "bench_tries",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    sum = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    figures = table.Column<string>(type: "character varying(20000)", maxLength: 20000, nullable: false),
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
                    table.PrimaryKey("pk_bench_tries", x => x.id);
                    table.ForeignKey(
                        name: "fk_bench_tries_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "bench_wires",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    wires = table.Column<string>(type: "jsonb", nullable: false),
                    fuses = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bench_wires", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_bench_offcuts_from_build",
                table: "bench_offcuts",
                column: "from_build");

            migrationBuilder.CreateIndex(
                name: "ix_bench_offcuts_seq",
                table: "bench_offcuts",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_bench_offcuts_used_for",
                table: "bench_offcuts",
                column: "used_for");

            migrationBuilder.CreateIndex(
                name: "ix_bench_tries_build_id",
                table: "bench_tries",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_bench_tries_seq",
                table: "bench_tries",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "bench_offcuts");

            migrationBuilder.DropTable(
                name: "bench_tries");

            migrationBuilder.DropTable(
                name: "bench_wires");
        }
    }
}
