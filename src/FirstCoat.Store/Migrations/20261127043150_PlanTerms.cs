using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class PlanTerms : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "work_days",
                table: "shop_suppliers",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "terms",
                table: "shop_stations",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "plan",
                table: "shop_settings",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "terms",
                table: "shop_people",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "template_key",
                table: "sequence_operations",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "terms",
                table: "sequence_operations",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<Guid>(
                name: "measured_by",
                table: "parts_lines",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "terms",
                table: "builds",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.CreateTable(
                name: "plan_baselines",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    why = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    finish = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    rows = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_baselines", x => x.id);
                    table.ForeignKey(
                        name: "fk_plan_baselines_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "plan_contentions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    first = table.Column<Guid>(type: "uuid", nullable: false),
                    second = table.Column<Guid>(type: "uuid", nullable: false),
                    turned = table.Column<bool>(type: "boolean", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_contentions", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "plan_what_ifs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    changes = table.Column<string>(type: "jsonb", nullable: false),
                    adopted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    adopted_by = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_what_ifs", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_plan_baselines_build_id",
                table: "plan_baselines",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_plan_baselines_seq",
                table: "plan_baselines",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_contentions_seq",
                table: "plan_contentions",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_what_ifs_seq",
                table: "plan_what_ifs",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "plan_baselines");

            migrationBuilder.DropTable(
                name: "plan_contentions");

            migrationBuilder.DropTable(
                name: "plan_what_ifs");

            migrationBuilder.DropColumn(
                name: "work_days",
                table: "shop_suppliers");

            migrationBuilder.DropColumn(
                name: "terms",
                table: "shop_stations");

            migrationBuilder.DropColumn(
                name: "plan",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "terms",
                table: "shop_people");

            migrationBuilder.DropColumn(
                name: "template_key",
                table: "sequence_operations");

            migrationBuilder.DropColumn(
                name: "terms",
                table: "sequence_operations");

            migrationBuilder.DropColumn(
                name: "measured_by",
                table: "parts_lines");

            migrationBuilder.DropColumn(
                name: "terms",
                table: "builds");
        }
    }
}
