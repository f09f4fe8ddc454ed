using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Acknowledgements : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "labour_acknowledgements",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hazard = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    work = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    caution = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_labour_acknowledgements", x => x.id);
                    table.ForeignKey(
                        name: "fk_labour_acknowledgements_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_labour_acknowledgements_shop_people_person_id",
                        column: x => x.person_id,
                        principalTable: "shop_people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_labour_acknowledgements_build_id",
                table: "labour_acknowledgements",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_labour_acknowledgements_person_id_build_id",
                table: "labour_acknowledgements",
                columns: new[] { "person_id", "build_id" });

            migrationBuilder.CreateIndex(
                name: "ix_labour_acknowledgements_seq",
                table: "labour_acknowledgements",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "labour_acknowledgements");
        }
    }
}
