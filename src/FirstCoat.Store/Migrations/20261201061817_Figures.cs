using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Figures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "fitup_bolts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    source = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    steps = table.Column<string>(type: "jsonb", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_bolts", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_bolts_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_centres",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    panel = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    left = table.Column<decimal>(type: "numeric(12,4)", precision: 12, scale: 4, nullable: false),
                    right = table.Column<decimal>(type: "numeric(12,4)", precision: 12, scale: 4, nullable: false),
                    tolerance = table.Column<decimal>(type: "numeric(12,4)", precision: 12, scale: 4, nullable: false),
                    unit = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_centres", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_centres_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_mirrors",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    panel = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    sound = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    asymmetry = table.Column<decimal>(type: "numeric(12,4)", precision: 12, scale: 4, nullable: false),
                    tolerance = table.Column<decimal>(type: "numeric(12,4)", precision: 12, scale: 4, nullable: false),
                    unit = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    readings = table.Column<string>(type: "jsonb", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_mirrors", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_mirrors_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_mounts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    panels = table.Column<string>(type: "jsonb", nullable: false),
                    shim_mm = table.Column<decimal>(type: "numeric(8,3)", precision: 8, scale: 3, nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_mounts", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_mounts_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitup_specs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    panel = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    specified = table.Column<decimal>(type: "numeric(14,5)", precision: 14, scale: 5, nullable: true),
                    tolerance = table.Column<decimal>(type: "numeric(14,5)", precision: 14, scale: 5, nullable: false),
                    unit = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    source = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    page = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    readings = table.Column<string>(type: "jsonb", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitup_specs", x => x.id);
                    table.ForeignKey(
                        name: "fk_fitup_specs_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_fitup_bolts_build_id",
                table: "fitup_bolts",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_bolts_seq",
                table: "fitup_bolts",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_centres_build_id",
                table: "fitup_centres",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_centres_seq",
                table: "fitup_centres",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_mirrors_build_id",
                table: "fitup_mirrors",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_mirrors_seq",
                table: "fitup_mirrors",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_mounts_build_id",
                table: "fitup_mounts",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_mounts_seq",
                table: "fitup_mounts",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitup_specs_build_id",
                table: "fitup_specs",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_fitup_specs_seq",
                table: "fitup_specs",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "fitup_bolts");

            migrationBuilder.DropTable(
                name: "fitup_centres");

            migrationBuilder.DropTable(
                name: "fitup_mirrors");

            migrationBuilder.DropTable(
                name: "fitup_mounts");

            migrationBuilder.DropTable(
                name: "fitup_specs");
        }
    }
}
