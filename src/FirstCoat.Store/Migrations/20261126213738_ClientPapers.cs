using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class ClientPapers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "not_done_why",
                table: "survey_findings",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "let_go",
                table: "builds_decisions",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<Guid>(
                name: "paper_id",
                table: "builds_decisions",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "accepted_at",
                table: "builds",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "money_papers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    words = table.Column<string>(type: "jsonb", nullable: false),
                    lines = table.Column<string>(type: "jsonb", nullable: false),
                    decision_id = table.Column<Guid>(type: "uuid", nullable: true),
                    sent_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    sent_by = table.Column<string>(type: "text", nullable: true),
                    page = table.Column<string>(type: "text", nullable: true),
                    answer = table.Column<string>(type: "jsonb", nullable: true),
                    withdrawn_why = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_money_papers", x => x.id);
                    table.ForeignKey(
                        name: "fk_money_papers_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "access_codes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    paper_id = table.Column<Guid>(type: "uuid", nullable: false),
                    code_hash = table.Column<string>(type: "text", nullable: false),
                    sent_to = table.Column<string>(type: "text", nullable: false),
                    sent_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    tried = table.Column<int>(type: "integer", nullable: false),
                    used_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_codes", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_codes_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_access_codes_money_papers_paper_id",
                        column: x => x.paper_id,
                        principalTable: "money_papers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_access_codes_build_id",
                table: "access_codes",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_codes_paper_id",
                table: "access_codes",
                column: "paper_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_codes_seq",
                table: "access_codes",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_money_papers_build_id",
                table: "money_papers",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_money_papers_build_id_kind_number",
                table: "money_papers",
                columns: new[] { "build_id", "kind", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_money_papers_seq",
                table: "money_papers",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "access_codes");

            migrationBuilder.DropTable(
                name: "money_papers");

            migrationBuilder.DropColumn(
                name: "not_done_why",
                table: "survey_findings");

            migrationBuilder.DropColumn(
                name: "let_go",
                table: "builds_decisions");

            migrationBuilder.DropColumn(
                name: "paper_id",
                table: "builds_decisions");

            migrationBuilder.DropColumn(
                name: "accepted_at",
                table: "builds");
        }
    }
}
