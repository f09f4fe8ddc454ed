using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace FirstCoat.Store.Migrations
{
    /// <inheritdoc />
    public partial class Start : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence(
                name: "recorded");

            migrationBuilder.CreateTable(
                name: "access_accounts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    password_hash = table.Column<string>(type: "text", nullable: true),
                    security_stamp = table.Column<string>(type: "text", nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true),
                    phone_number = table.Column<string>(type: "text", nullable: true),
                    phone_number_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    two_factor_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    lockout_end = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    lockout_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    access_failed_count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_accounts", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "access_audit",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityAlwaysColumn),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    of = table.Column<Guid>(type: "uuid", nullable: false),
                    action = table.Column<string>(type: "text", nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_audit", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "access_keys",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    friendly_name = table.Column<string>(type: "text", nullable: true),
                    xml = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_keys", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "access_roles",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_roles", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "builds_clients",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    email = table.Column<string>(type: "text", nullable: false),
                    phone = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_builds_clients", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_closed_days",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    date = table.Column<LocalDate>(type: "date", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_closed_days", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_people",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    trades = table.Column<string>(type: "jsonb", nullable: false),
                    active = table.Column<bool>(type: "boolean", nullable: false),
                    rates = table.Column<string>(type: "jsonb", nullable: false),
                    absences = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_people", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_settings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                    phone = table.Column<string>(type: "text", nullable: false),
                    currency = table.Column<string>(type: "text", nullable: false),
                    time_zone = table.Column<string>(type: "text", nullable: false),
                    units = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    plan_width_mm = table.Column<int>(type: "integer", nullable: false),
                    plan_depth_mm = table.Column<int>(type: "integer", nullable: false),
                    tax_rates = table.Column<string>(type: "jsonb", nullable: false),
                    part_tiers = table.Column<string>(type: "jsonb", nullable: false),
                    outside_markup = table.Column<decimal>(type: "numeric", nullable: false),
                    materials_markup = table.Column<decimal>(type: "numeric", nullable: false),
                    consumables_percent = table.Column<decimal>(type: "numeric", nullable: false),
                    consumables_cap = table.Column<decimal>(type: "numeric", nullable: true),
                    rounding = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    overtime_after_hours = table.Column<decimal>(type: "numeric", nullable: false),
                    overtime_multiplier = table.Column<decimal>(type: "numeric", nullable: false),
                    week = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_settings", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_stations",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                    x_mm = table.Column<int>(type: "integer", nullable: false),
                    y_mm = table.Column<int>(type: "integer", nullable: false),
                    width_mm = table.Column<int>(type: "integer", nullable: false),
                    depth_mm = table.Column<int>(type: "integer", nullable: false),
                    door_height_mm = table.Column<int>(type: "integer", nullable: true),
                    walled = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_stations", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_suppliers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    freight_days = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_suppliers", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "access_account_claims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_account_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_account_claims_access_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "access_accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "access_account_logins",
                columns: table => new
                {
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    provider_key = table.Column<string>(type: "text", nullable: false),
                    provider_display_name = table.Column<string>(type: "text", nullable: true),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_account_logins", x => new { x.login_provider, x.provider_key });
                    table.ForeignKey(
                        name: "fk_access_account_logins_access_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "access_accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "access_account_tokens",
                columns: table => new
                {
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_account_tokens", x => new { x.user_id, x.login_provider, x.name });
                    table.ForeignKey(
                        name: "fk_access_account_tokens_access_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "access_accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "access_account_roles",
                columns: table => new
                {
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    role_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_account_roles", x => new { x.user_id, x.role_id });
                    table.ForeignKey(
                        name: "fk_access_account_roles_access_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "access_accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_access_account_roles_access_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "access_roles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "access_role_claims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    role_id = table.Column<Guid>(type: "uuid", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_role_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_role_claims_access_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "access_roles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "builds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    status = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    vehicle = table.Column<string>(type: "jsonb", nullable: false),
                    brief = table.Column<string>(type: "jsonb", nullable: false),
                    contract = table.Column<string>(type: "jsonb", nullable: false),
                    estimate = table.Column<string>(type: "jsonb", nullable: false),
                    template = table.Column<string>(type: "text", nullable: false),
                    priority = table.Column<int>(type: "integer", nullable: false),
                    fill_in = table.Column<bool>(type: "boolean", nullable: false),
                    station_id = table.Column<Guid>(type: "uuid", nullable: true),
                    away_at = table.Column<string>(type: "text", nullable: false),
                    opened_on = table.Column<LocalDate>(type: "date", nullable: false),
                    left_at = table.Column<string>(type: "text", nullable: false),
                    first_move = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_builds", x => x.id);
                    table.ForeignKey(
                        name: "fk_builds_builds_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "builds_clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_builds_shop_stations_station_id",
                        column: x => x.station_id,
                        principalTable: "shop_stations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "access_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_hash = table.Column<string>(type: "text", nullable: false),
                    expires_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_access_links_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "builds_decisions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    question = table.Column<string>(type: "text", nullable: false),
                    detail = table.Column<string>(type: "text", nullable: false),
                    @for = table.Column<string>(name: "for", type: "character varying(40)", maxLength: 40, nullable: false),
                    options = table.Column<string>(type: "jsonb", nullable: false),
                    holds = table.Column<string>(type: "jsonb", nullable: false),
                    due_on = table.Column<LocalDate>(type: "date", nullable: false),
                    adds = table.Column<decimal>(type: "numeric", nullable: true),
                    answer = table.Column<string>(type: "text", nullable: true),
                    settled_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    settled_by = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_builds_decisions", x => x.id);
                    table.ForeignKey(
                        name: "fk_builds_decisions_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "builds_payments",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    on = table.Column<LocalDate>(type: "date", nullable: false),
                    amount = table.Column<decimal>(type: "numeric", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_builds_payments", x => x.id);
                    table.ForeignKey(
                        name: "fk_builds_payments_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "outside_jobs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    supplier_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    title = table.Column<string>(type: "text", nullable: false),
                    pieces = table.Column<string>(type: "jsonb", nullable: false),
                    quoted_days = table.Column<int>(type: "integer", nullable: false),
                    quoted = table.Column<decimal>(type: "numeric", nullable: false),
                    billed = table.Column<decimal>(type: "numeric", nullable: true),
                    sent_on = table.Column<LocalDate>(type: "date", nullable: true),
                    promised_on = table.Column<LocalDate>(type: "date", nullable: true),
                    back_on = table.Column<LocalDate>(type: "date", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outside_jobs", x => x.id);
                    table.ForeignKey(
                        name: "fk_outside_jobs_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_outside_jobs_shop_suppliers_supplier_id",
                        column: x => x.supplier_id,
                        principalTable: "shop_suppliers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "parts_lines",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    name = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<decimal>(type: "numeric", nullable: false),
                    unit_cost = table.Column<decimal>(type: "numeric", nullable: false),
                    unit_price = table.Column<decimal>(type: "numeric", nullable: true),
                    supplier_id = table.Column<Guid>(type: "uuid", nullable: true),
                    client_supplied = table.Column<bool>(type: "boolean", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    ordered_on = table.Column<LocalDate>(type: "date", nullable: true),
                    expected_on = table.Column<LocalDate>(type: "date", nullable: true),
                    received_on = table.Column<LocalDate>(type: "date", nullable: true),
                    fitted_on = table.Column<LocalDate>(type: "date", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parts_lines", x => x.id);
                    table.ForeignKey(
                        name: "fk_parts_lines_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_parts_lines_shop_suppliers_supplier_id",
                        column: x => x.supplier_id,
                        principalTable: "shop_suppliers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "parts_materials",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    name = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<decimal>(type: "numeric", nullable: false),
                    unit = table.Column<string>(type: "text", nullable: false),
                    unit_cost = table.Column<decimal>(type: "numeric", nullable: false),
                    on = table.Column<LocalDate>(type: "date", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parts_materials", x => x.id);
                    table.ForeignKey(
                        name: "fk_parts_materials_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "photos",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hash = table.Column<string>(type: "text", nullable: false),
                    thumb_hash = table.Column<string>(type: "text", nullable: false),
                    width = table.Column<int>(type: "integer", nullable: false),
                    height = table.Column<int>(type: "integer", nullable: false),
                    taken_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    caption = table.Column<string>(type: "text", nullable: false),
                    stage = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    panel = table.Column<string>(type: "text", nullable: true),
                    client_may_see = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_photos", x => x.id);
                    table.ForeignKey(
                        name: "fk_photos_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "reports",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    covers_from = table.Column<long>(type: "bigint", nullable: false),
                    covers_to = table.Column<long>(type: "bigint", nullable: false),
                    text = table.Column<string>(type: "jsonb", nullable: false),
                    published = table.Column<string>(type: "text", nullable: true),
                    published_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    published_by = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_reports", x => x.id);
                    table.ForeignKey(
                        name: "fk_reports_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "sequence_operations",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    stage = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    trade = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    budget_minutes = table.Column<int>(type: "integer", nullable: false),
                    station = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    panels = table.Column<string>(type: "jsonb", nullable: false),
                    coat = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    held = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    without_stop = table.Column<bool>(type: "boolean", nullable: false),
                    gate = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    hazard = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    clock_minutes = table.Column<int>(type: "integer", nullable: false),
                    after = table.Column<string>(type: "jsonb", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    stated_share = table.Column<decimal>(type: "numeric", nullable: true),
                    done_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    done_by = table.Column<string>(type: "text", nullable: true),
                    signatures = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sequence_operations", x => x.id);
                    table.ForeignKey(
                        name: "fk_sequence_operations_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "survey_panel_events",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    panel = table.Column<string>(type: "text", nullable: false),
                    zone = table.Column<string>(type: "text", nullable: true),
                    fact = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    coat = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    held = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_panel_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_panel_events_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "labour_entries",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    start = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    stop = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    replaces = table.Column<Guid>(type: "uuid", nullable: true),
                    replaced_by = table.Column<Guid>(type: "uuid", nullable: true),
                    @void = table.Column<bool>(name: "void", type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_labour_entries", x => x.id);
                    table.ForeignKey(
                        name: "fk_labour_entries_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_labour_entries_sequence_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "sequence_operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_labour_entries_shop_people_person_id",
                        column: x => x.person_id,
                        principalTable: "shop_people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_access_account_claims_user_id",
                table: "access_account_claims",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_account_logins_user_id",
                table: "access_account_logins",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_account_roles_role_id",
                table: "access_account_roles",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "access_accounts",
                column: "normalized_email");

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "access_accounts",
                column: "normalized_user_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_access_audit_of",
                table: "access_audit",
                column: "of");

            migrationBuilder.CreateIndex(
                name: "ix_access_links_build_id",
                table: "access_links",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_access_links_seq",
                table: "access_links",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_access_links_token_hash",
                table: "access_links",
                column: "token_hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_access_role_claims_role_id",
                table: "access_role_claims",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "RoleNameIndex",
                table: "access_roles",
                column: "normalized_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_builds_client_id",
                table: "builds",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_builds_number",
                table: "builds",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_builds_station_id",
                table: "builds",
                column: "station_id");

            migrationBuilder.CreateIndex(
                name: "ix_builds_decisions_build_id",
                table: "builds_decisions",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_builds_decisions_seq",
                table: "builds_decisions",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_builds_payments_build_id",
                table: "builds_payments",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_builds_payments_seq",
                table: "builds_payments",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_labour_entries_build_id",
                table: "labour_entries",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_labour_entries_operation_id",
                table: "labour_entries",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_labour_entries_person_id_start",
                table: "labour_entries",
                columns: new[] { "person_id", "start" });

            migrationBuilder.CreateIndex(
                name: "ix_labour_entries_replaces",
                table: "labour_entries",
                column: "replaces",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_labour_entries_seq",
                table: "labour_entries",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "one_running_timer",
                table: "labour_entries",
                column: "person_id",
                unique: true,
                filter: "stop is null");

            migrationBuilder.CreateIndex(
                name: "ix_outside_jobs_build_id",
                table: "outside_jobs",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_outside_jobs_seq",
                table: "outside_jobs",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outside_jobs_supplier_id",
                table: "outside_jobs",
                column: "supplier_id");

            migrationBuilder.CreateIndex(
                name: "ix_parts_lines_build_id",
                table: "parts_lines",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_parts_lines_seq",
                table: "parts_lines",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_parts_lines_supplier_id",
                table: "parts_lines",
                column: "supplier_id");

            migrationBuilder.CreateIndex(
                name: "ix_parts_materials_build_id",
                table: "parts_materials",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_parts_materials_seq",
                table: "parts_materials",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_photos_build_id",
                table: "photos",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_photos_seq",
                table: "photos",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_reports_build_id",
                table: "reports",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_reports_build_id_number",
                table: "reports",
                columns: new[] { "build_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_reports_seq",
                table: "reports",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sequence_operations_build_id",
                table: "sequence_operations",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_shop_closed_days_date",
                table: "shop_closed_days",
                column: "date",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_panel_events_build_id",
                table: "survey_panel_events",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_panel_events_seq",
                table: "survey_panel_events",
                column: "seq",
                unique: true);

            // Every change is audited in its own transaction: the trail itself tells all servers that something changed.
            migrationBuilder.Sql("""
                create function tell_change() returns trigger language plpgsql as $$
                begin
                    perform pg_notify('shop_changed', new.what || ':' || new."of"::text);
                    return null;
                end $$;
                create trigger tell_change after insert on access_audit for each row execute function tell_change();
                create function keep_audit() returns trigger language plpgsql as $$
                begin
                    raise exception 'the audit trail is never altered';
                end $$;
                create trigger keep_audit before update or delete on access_audit for each row execute function keep_audit();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "access_account_claims");

            migrationBuilder.DropTable(
                name: "access_account_logins");

            migrationBuilder.DropTable(
                name: "access_account_roles");

            migrationBuilder.DropTable(
                name: "access_account_tokens");

            migrationBuilder.DropTable(
                name: "access_audit");

            migrationBuilder.DropTable(
                name: "access_keys");

            migrationBuilder.DropTable(
                name: "access_links");

            migrationBuilder.DropTable(
                name: "access_role_claims");

            migrationBuilder.DropTable(
                name: "builds_decisions");

            migrationBuilder.DropTable(
                name: "builds_payments");

            migrationBuilder.DropTable(
                name: "labour_entries");

            migrationBuilder.DropTable(
                name: "outside_jobs");

            migrationBuilder.DropTable(
                name: "parts_lines");

            migrationBuilder.DropTable(
                name: "parts_materials");

            migrationBuilder.DropTable(
                name: "photos");

            migrationBuilder.DropTable(
                name: "reports");

            migrationBuilder.DropTable(
                name: "shop_closed_days");

            migrationBuilder.DropTable(
                name: "shop_settings");

            migrationBuilder.DropTable(
                name: "survey_panel_events");

            migrationBuilder.DropTable(
                name: "access_accounts");

            migrationBuilder.DropTable(
                name: "access_roles");

            migrationBuilder.DropTable(
                name: "sequence_operations");

            migrationBuilder.DropTable(
                name: "shop_people");

            migrationBuilder.DropTable(
                name: "shop_suppliers");

            migrationBuilder.DropTable(
                name: "builds");

            migrationBuilder.DropTable(
                name: "builds_clients");

            migrationBuilder.DropTable(
                name: "shop_stations");

            migrationBuilder.DropSequence(
                name: "recorded");
        }
    }
}
