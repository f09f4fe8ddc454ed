using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Arrivals : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "builds_arrivals",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    came_on = table.Column<LocalDate>(type: "date", nullable: false),
                    @as = table.Column<string>(name: "as", type: "character varying(40)", maxLength: 40, nullable: false),
                    on_whose = table.Column<string>(type: "text", nullable: false),
                    serial = table.Column<int>(type: "integer", nullable: true),
                    breaks = table.Column<string>(type: "jsonb", nullable: false),
                    odometer = table.Column<int>(type: "integer", nullable: true),
                    keys = table.Column<int>(type: "integer", nullable: false),
                    fluids = table.Column<string>(type: "jsonb", nullable: false),
                    battery = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    storage = table.Column<string>(type: "text", nullable: false),
                    promised = table.Column<string>(type: "jsonb", nullable: false),
                    came_unasked = table.Column<string>(type: "jsonb", nullable: false),
                    stand_ins = table.Column<string>(type: "jsonb", nullable: false),
                    to_undo = table.Column<string>(type: "jsonb", nullable: false),
                    hazards = table.Column<string>(type: "jsonb", nullable: false),
                    heights = table.Column<string>(type: "jsonb", nullable: true),
                    round = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_builds_arrivals", x => x.id);
                    table.ForeignKey(
                        name: "fk_builds_arrivals_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_builds_arrivals_build_id",
                table: "builds_arrivals",
                column: "build_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_builds_arrivals_seq",
                table: "builds_arrivals",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "builds_arrivals");
        }
    }
}
