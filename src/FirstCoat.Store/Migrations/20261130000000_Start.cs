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
            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateSequence(
                name: "recorded");

            migrationBuilder.CreateTable(
                name: "access_accounts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    closed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    word_until = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
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
                name: "overview_finds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: true),
                    label = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    detail = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    text = table.Column<string>(type: "character varying(600)", maxLength: 600, nullable: false),
                    for_desk = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_overview_finds", x => x.id);
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
                name: "plan_turns",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    turns = table.Column<string>(type: "jsonb", nullable: false),
                    accepted_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    late_before = table.Column<double>(type: "double precision", nullable: false),
                    late_after = table.Column<double>(type: "double precision", nullable: false),
                    undone = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_turns", x => x.id);
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
                    terms = table.Column<string>(type: "jsonb", nullable: false),
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
                    address = table.Column<string>(type: "text", nullable: false),
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
                    storage_free_days = table.Column<int>(type: "integer", nullable: false),
                    storage_per_day = table.Column<decimal>(type: "numeric", nullable: false),
                    rounding = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    overtime_after_hours = table.Column<decimal>(type: "numeric", nullable: false),
                    overtime_multiplier = table.Column<decimal>(type: "numeric", nullable: false),
                    delay_per_day = table.Column<decimal>(type: "numeric", nullable: false),
                    sheets = table.Column<string>(type: "jsonb", nullable: false),
                    first_things_away = table.Column<bool>(type: "boolean", nullable: false),
                    layout = table.Column<string>(type: "jsonb", nullable: false),
                    racks = table.Column<string>(type: "jsonb", nullable: false),
                    jobs = table.Column<string>(type: "jsonb", nullable: false),
                    plan = table.Column<string>(type: "jsonb", nullable: false),
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
                    terms = table.Column<string>(type: "jsonb", nullable: false),
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
                    work_days = table.Column<string>(type: "jsonb", nullable: false),
                    terms = table.Column<string>(type: "jsonb", nullable: false),
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
                name: "labour_shop_time",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    start = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    stop = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    void_why = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_labour_shop_time", x => x.id);
                    table.ForeignKey(
                        name: "fk_labour_shop_time_shop_people_person_id",
                        column: x => x.person_id,
                        principalTable: "shop_people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "builds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    return_of = table.Column<Guid>(type: "uuid", nullable: true),
                    status = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    vehicle = table.Column<string>(type: "jsonb", nullable: false),
                    brief = table.Column<string>(type: "jsonb", nullable: false),
                    contract = table.Column<string>(type: "jsonb", nullable: false),
                    estimate = table.Column<string>(type: "jsonb", nullable: false),
                    accepted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    history = table.Column<string>(type: "jsonb", nullable: false),
                    template = table.Column<string>(type: "text", nullable: false),
                    priority = table.Column<int>(type: "integer", nullable: false),
                    fill_in = table.Column<bool>(type: "boolean", nullable: false),
                    terms = table.Column<string>(type: "jsonb", nullable: false),
                    station_id = table.Column<Guid>(type: "uuid", nullable: true),
                    away_at = table.Column<string>(type: "text", nullable: false),
                    opened_on = table.Column<LocalDate>(type: "date", nullable: false),
                    notice_on = table.Column<LocalDate>(type: "date", nullable: true),
                    left_on = table.Column<LocalDate>(type: "date", nullable: true),
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
                    takes_out = table.Column<string>(type: "jsonb", nullable: false),
                    holds = table.Column<string>(type: "jsonb", nullable: false),
                    due_on = table.Column<LocalDate>(type: "date", nullable: false),
                    adds = table.Column<decimal>(type: "numeric", nullable: true),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    paper_id = table.Column<Guid>(type: "uuid", nullable: true),
                    let_go = table.Column<string>(type: "jsonb", nullable: false),
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
                    sent_as = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
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
                    measured_by = table.Column<Guid>(type: "uuid", nullable: true),
                    bag_id = table.Column<Guid>(type: "uuid", nullable: true),
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
                name: "plan_forecast_nights",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    on = table.Column<LocalDate>(type: "date", nullable: false),
                    p50 = table.Column<LocalDate>(type: "date", nullable: false),
                    p80 = table.Column<LocalDate>(type: "date", nullable: false),
                    p90 = table.Column<LocalDate>(type: "date", nullable: false),
                    kept = table.Column<decimal>(type: "numeric(4,3)", precision: 4, scale: 3, nullable: true),
                    holds_kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    holds = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_forecast_nights", x => x.id);
                    table.ForeignKey(
                        name: "fk_plan_forecast_nights_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
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
                    sent_to = table.Column<string>(type: "text", nullable: false),
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
                    template_key = table.Column<string>(type: "text", nullable: false),
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
                    terms = table.Column<string>(type: "jsonb", nullable: false),
                    removed = table.Column<bool>(type: "boolean", nullable: false),
                    stated_share = table.Column<decimal>(type: "numeric", nullable: true),
                    stated_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    done_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    done_by = table.Column<string>(type: "text", nullable: true),
                    signatures = table.Column<string>(type: "jsonb", nullable: false),
                    earlier_signatures = table.Column<string>(type: "jsonb", nullable: false),
                    out_of_order_why = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
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
                    not_done_why = table.Column<string>(type: "text", nullable: true),
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
                    out_by = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    blocks_hanging = table.Column<bool>(type: "boolean", nullable: true),
                    flag = table.Column<string>(type: "jsonb", nullable: true),
                    takes_back = table.Column<Guid>(type: "uuid", nullable: true),
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
                name: "teardown_assemblies",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    build_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    side = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    back_with = table.Column<Guid>(type: "uuid", nullable: true),
                    steps = table.Column<string>(type: "jsonb", nullable: false),
                    states = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    seq = table.Column<long>(type: "bigint", nullable: false, defaultValueSql: "nextval('recorded')"),
                    recorded_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    recorded_by = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_teardown_assemblies", x => x.id);
                    table.ForeignKey(
                        name: "fk_teardown_assemblies_builds_build_id",
                        column: x => x.build_id,
                        principalTable: "builds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

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
                    flag = table.Column<string>(type: "jsonb", nullable: true),
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
                name: "ix_builds_arrivals_build_id",
                table: "builds_arrivals",
                column: "build_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_builds_arrivals_seq",
                table: "builds_arrivals",
                column: "seq",
                unique: true);

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
                name: "ix_labour_shop_time_person_id_start",
                table: "labour_shop_time",
                columns: new[] { "person_id", "start" });

            migrationBuilder.CreateIndex(
                name: "ix_labour_shop_time_seq",
                table: "labour_shop_time",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "one_running_shop_time",
                table: "labour_shop_time",
                column: "person_id",
                unique: true,
                filter: "stop is null");

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
                name: "ix_overview_finds_build_id",
                table: "overview_finds",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_overview_finds_kind",
                table: "overview_finds",
                column: "kind");

            migrationBuilder.CreateIndex(
                name: "ix_overview_finds_text",
                table: "overview_finds",
                column: "text")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

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
                name: "ix_plan_forecast_nights_build_id_on",
                table: "plan_forecast_nights",
                columns: new[] { "build_id", "on" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_turns_seq",
                table: "plan_turns",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plan_what_ifs_seq",
                table: "plan_what_ifs",
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
                name: "ix_survey_bodies_build_id",
                table: "survey_bodies",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_bodies_seq",
                table: "survey_bodies",
                column: "seq",
                unique: true);

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

            migrationBuilder.CreateIndex(
                name: "ix_survey_panel_events_build_id",
                table: "survey_panel_events",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_panel_events_seq",
                table: "survey_panel_events",
                column: "seq",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_teardown_assemblies_build_id",
                table: "teardown_assemblies",
                column: "build_id");

            migrationBuilder.CreateIndex(
                name: "ix_teardown_assemblies_seq",
                table: "teardown_assemblies",
                column: "seq",
                unique: true);

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

            migrationBuilder.CreateIndex(
                name: "panels_against_a_rule",
                table: "survey_panel_events",
                column: "build_id",
                filter: "flag is not null");

            migrationBuilder.CreateIndex(
                name: "hours_against_a_rule",
                table: "labour_entries",
                column: "build_id",
                filter: "flag is not null");

            migrationBuilder.CreateIndex(
                name: "hours_of_a_day",
                table: "labour_entries",
                column: "start");

            migrationBuilder.CreateIndex(
                name: "changes_of_a_time",
                table: "access_audit",
                column: "at");

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
                name: "access_codes");

            migrationBuilder.DropTable(
                name: "access_keys");

            migrationBuilder.DropTable(
                name: "access_links");

            migrationBuilder.DropTable(
                name: "access_prints");

            migrationBuilder.DropTable(
                name: "access_role_claims");

            migrationBuilder.DropTable(
                name: "access_sessions");

            migrationBuilder.DropTable(
                name: "access_wrong_answers");

            migrationBuilder.DropTable(
                name: "builds_arrivals");

            migrationBuilder.DropTable(
                name: "builds_decisions");

            migrationBuilder.DropTable(
                name: "builds_payments");

            migrationBuilder.DropTable(
                name: "labour_entries");

            migrationBuilder.DropTable(
                name: "labour_shop_time");

            migrationBuilder.DropTable(
                name: "outside_jobs");

            migrationBuilder.DropTable(
                name: "overview_finds");

            migrationBuilder.DropTable(
                name: "parts_lines");

            migrationBuilder.DropTable(
                name: "parts_materials");

            migrationBuilder.DropTable(
                name: "photos");

            migrationBuilder.DropTable(
                name: "plan_baselines");

            migrationBuilder.DropTable(
                name: "plan_contentions");

            migrationBuilder.DropTable(
                name: "plan_forecast_nights");

            migrationBuilder.DropTable(
                name: "plan_turns");

            migrationBuilder.DropTable(
                name: "plan_what_ifs");

            migrationBuilder.DropTable(
                name: "reports");

            migrationBuilder.DropTable(
                name: "shop_closed_days");

            migrationBuilder.DropTable(
                name: "shop_settings");

            migrationBuilder.DropTable(
                name: "survey_bodies");

            migrationBuilder.DropTable(
                name: "survey_findings");

            migrationBuilder.DropTable(
                name: "survey_looks");

            migrationBuilder.DropTable(
                name: "survey_marks");

            migrationBuilder.DropTable(
                name: "survey_panel_events");

            migrationBuilder.DropTable(
                name: "teardown_assemblies");

            migrationBuilder.DropTable(
                name: "teardown_moves");

            migrationBuilder.DropTable(
                name: "access_roles");

            migrationBuilder.DropTable(
                name: "access_accounts");

            migrationBuilder.DropTable(
                name: "money_papers");

            migrationBuilder.DropTable(
                name: "sequence_operations");

            migrationBuilder.DropTable(
                name: "shop_people");

            migrationBuilder.DropTable(
                name: "shop_suppliers");

            migrationBuilder.DropTable(
                name: "teardown_bags");

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
