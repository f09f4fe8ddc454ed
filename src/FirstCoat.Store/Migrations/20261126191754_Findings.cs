using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Findings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "delay_per_day",
                table: "shop_settings",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);

            migrationBuilder.AddColumn<string>(
                name: "history",
                table: "builds",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.CreateTable(
                name: "survey_findings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<string>(type: "jsonb", nullable: false),
                    area = table.Column<string>(type: "jsonb", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    probe = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    size_mm = table.Column<int>(type: "integer", nullable: true),
                    structural = table.Column<bool>(type: "boolean", nullable: false),
                    gauge_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    behind = table.Column<Guid>(type: "uuid", nullable: true),
                    found_by = table.Column<string>(type: "text", nullable: false),
                    found_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    options = table.Column<string>(type: "jsonb", nullable: false),
                    choice = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    choice_reason = table.Column<string>(type: "text", nullable: false),
                    chosen_by = table.Column<string>(type: "text", nullable: true),
                    chosen_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    agreed_by = table.Column<string>(type: "text", nullable: true),
                    agreed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    operations = table.Column<string>(type: "jsonb", nullable: false),
                    parts = table.Column<string>(type: "jsonb", nullable: false),
                    in_estimate = table.Column<string>(type: "jsonb", nullable: true),
                    withdrawn_why = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_findings", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_findings_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "survey_looks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    on = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_looks", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_looks_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "survey_marks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<string>(type: "jsonb", nullable: false),
                    result = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    on = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    withdrawn_by = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_marks", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_marks_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_survey_findings_build_id",
                table: "survey_findings",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_findings_build_id_number",
                table: "survey_findings",
                columns: new[] { "build_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_findings_seq",
                table: "survey_findings",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_looks_build_id",
                table: "survey_looks",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_looks_seq",
                table: "survey_looks",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_marks_build_id",
                table: "survey_marks",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_marks_seq",
                table: "survey_marks",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "survey_findings");

            migrationBuilder.DropTable(
                name: "survey_looks");

            migrationBuilder.DropTable(
                name: "survey_marks");

            migrationBuilder.DropColumn(
                name: "delay_per_day",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "history",
                table: "builds");
        }
    }
}
