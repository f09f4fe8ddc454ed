using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class LockedDoors : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "address",
                table: "shop_settings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Instant>(
                name: "closed_at",
                table: "access_accounts",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "word_until",
                table: "access_accounts",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "access_prints",
                columns: table => new
                {
                    of = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    print = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_prints", x => new { x.of, x.what });
                });

            migrationBuilder.CreateTable(
                name: "access_sessions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: false),
                    started_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ends_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    device = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_sessions", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_sessions_access_accounts_account_id",
                        column: x => x.account_id,
                        principalTable: "access_accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "access_wrong_answers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    paper_id = table.Column<Guid>(type: "uuid", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_wrong_answers", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_wrong_answers_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_access_wrong_answers_money_papers_paper_id",
                        column: x => x.paper_id,
                        principalTable: "money_papers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_access_sessions_account_id",
                table: "access_sessions",
                column: "account_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_wrong_answers_build_id",
                table: "access_wrong_answers",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_wrong_answers_paper_id_recorded_at",
                table: "access_wrong_answers",
                columns: new[] { "paper_id", "recorded_at" });

            migrationBuilder.CreateIndex(
                name: "ix_access_wrong_answers_seq",
                table: "access_wrong_answers",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "access_prints");

            migrationBuilder.DropTable(
                name: "access_sessions");

            migrationBuilder.DropTable(
                name: "access_wrong_answers");

            migrationBuilder.DropColumn(
                name: "address",
                table: "shop_settings");

            migrationBuilder.DropColumn(
                name: "closed_at",
                table: "access_accounts");

            migrationBuilder.DropColumn(
                name: "word_until",
                table: "access_accounts");
        }
    }
}
