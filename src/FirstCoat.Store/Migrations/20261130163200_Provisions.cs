using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Provisions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "sequence_provisions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    what = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    where = table.Column<string>(type: "character varying(160)", maxLength: 160, nullable: false),
                    made_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    made_by = table.Column<string>(type: "text", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sequence_provisions", x => x.id);
                    table.ForeignKey(
                        name: "fk_sequence_provisions_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_sequence_provisions_sequence_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "sequence_operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_sequence_provisions_build_id",
                table: "sequence_provisions",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_sequence_provisions_operation_id",
                table: "sequence_provisions",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_sequence_provisions_seq",
                table: "sequence_provisions",
                column: "seq",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "sequence_provisions");
        }
    }
}
