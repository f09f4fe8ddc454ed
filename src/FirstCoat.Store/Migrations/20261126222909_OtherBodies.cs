using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class OtherBodies : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "survey_bodies",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    year = table.Column<int>(type: "integer", nullable: true),
                    seen_on = table.Column<LocalDate>(type: "date", nullable: true),
                    held_until = table.Column<LocalDate>(type: "date", nullable: true),
                    purchase = table.Column<decimal>(type: "numeric", nullable: false),
                    freight = table.Column<decimal>(type: "numeric", nullable: false),
                    zones = table.Column<string>(type: "jsonb", nullable: false),
                    spans = table.Column<string>(type: "jsonb", nullable: false),
                    identity = table.Column<string>(type: "text", nullable: false),
                    decision_id = table.Column<Guid>(type: "uuid", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_bodies", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_bodies_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_survey_bodies_build_id",
                table: "survey_bodies",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_bodies_seq",
                table: "survey_bodies",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "survey_bodies");
        }
    }
}
