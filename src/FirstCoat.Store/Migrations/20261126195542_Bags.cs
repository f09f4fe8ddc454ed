using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Bags : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "teardown_bags",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    code = table.Column<int>(type: "integer", nullable: false),
                    side = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    from = table.Column<string>(type: "text", nullable: false),
                    pieces = table.Column<string>(type: "jsonb", nullable: false),
                    fasteners = table.Column<string>(type: "jsonb", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    pattern_for = table.Column<Guid>(type: "uuid", nullable: true),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    no_photo = table.Column<bool>(type: "boolean", nullable: false),
                    off_by = table.Column<string>(type: "text", nullable: false),
                    off_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_teardown_bags", x => x.id);
                    table.ForeignKey(
                        name: "fk_teardown_bags_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "teardown_moves",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    bag_id = table.Column<Guid>(type: "uuid", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_teardown_moves", x => x.id);
                    table.ForeignKey(
                        name: "fk_teardown_moves_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_teardown_moves_teardown_bags_bag_id",
                        column: x => x.bag_id,
                        principalTable: "teardown_bags",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_teardown_bags_build_id",
                table: "teardown_bags",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_teardown_bags_code",
                table: "teardown_bags",
                column: "code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_teardown_bags_seq",
                table: "teardown_bags",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_teardown_moves_bag_id",
                table: "teardown_moves",
                column: "bag_id");

            migrationBuilder.CreateIndex(
                name: "ix_teardown_moves_build_id",
                table: "teardown_moves",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_teardown_moves_seq",
                table: "teardown_moves",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "teardown_moves");

            migrationBuilder.DropTable(
                name: "teardown_bags");
        }
    }
}
