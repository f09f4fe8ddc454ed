using FirstCoat.Server.Backups;
using FirstCoat.Store;
using FirstCoat.Store.Migrations;
using Npgsql;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>A shop of before the changes of shape became one goes on as if it had begun with it.</summary>
public sealed class EarlierShapesTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Columns, indexes, constraints, functions and triggers, one a line. A column that was added later kept
    /// the value that filled it as its default: every insert names it, so no default is compared.</summary>
    private const string Shape = """
        select 'column ' || table_name || '.' || column_name || ' ' || data_type || ' '
            || coalesce(character_maximum_length::text, '') || ' ' || is_nullable || ' '
            || case when column_default like 'nextval%' then column_default else '' end || ' '
            || coalesce(identity_generation, '')
        from information_schema.columns where table_schema = 'public'
        union all select indexdef from pg_indexes where schemaname = 'public'
        union all select conrelid::regclass || ' ' || conname || ' ' || pg_get_constraintdef(oid)
        from pg_constraint where connamespace = 'public'::regnamespace
        union all select pg_get_triggerdef(oid) from pg_trigger where not tgisinternal
        union all select prosrc from pg_proc where pronamespace = 'public'::regnamespace and prolang <> 13
            and proname not in (select p.proname from pg_depend d join pg_proc p on p.oid = d.objid
                where d.deptype = 'e' and d.classid = 'pg_proc'::regclass)
        """;

    [Fact]
    public async Task The_backup_of_the_first_day_becomes_the_shape_of_a_new_shop()
    {
        await using var place = await Restored();
        await BringOn(place.Connection);
        var fresh = await TemplateDatabase.Clone();
        (await Lines(place.Connection, Shape)).ShouldBe(await Lines(fresh, Shape));
        (await Lines(place.Connection, Changes)).ShouldBe(await Lines(fresh, Changes));
        await TemplateDatabase.Drop(fresh);
    }

    [Fact]
    public async Task A_shop_that_stands_at_the_last_change_goes_on_with_its_data_as_it_is()
    {
        await using var place = await Restored();
        await BringOn(place.Connection);
        var was = await Tables(place.Connection);
        await Execute(
            place.Connection,
            "delete from \"__EFMigrationsHistory\" where migration_id <= '20261130000000_Start';"
                + string.Concat(
                    EarlierShapes
                        .Known.SkipLast(1)
                        .Select(k => $"insert into \"__EFMigrationsHistory\" values ('{k}', '10.0.12');")
                )
        );
        await BringOn(place.Connection);
        (await Tables(place.Connection)).ShouldBe(was);
        await BringOn(place.Connection);
        (await Tables(place.Connection)).ShouldBe(was);
    }

    [Fact]
    public async Task A_station_with_a_count_becomes_as_many_places_and_its_vehicles_stand_in_them_one_by_one()
    {
        await using var place = await Restored();
        await Execute(
            place.Connection,
            """
            update shop_stations set name = 'Bay', kind = 'Bay', count = 3, x_mm = 1000, y_mm = 0, width_mm = 12000,
                depth_mm = 4500, door_height_mm = 2600;
            update builds set station_id = (select id from shop_stations), status = 'Open';
            insert into builds select (jsonb_populate_record(b, jsonb_build_object('id', gen_random_uuid(),
                'number', b.number + 1))).* from builds b;
            insert into shop_stations select (jsonb_populate_record(s, jsonb_build_object('id', gen_random_uuid(),
                'name', 'Benches', 'kind', 'Bench'))).* from shop_stations s;
            insert into shop_stations select (jsonb_populate_record(s, jsonb_build_object('id', gen_random_uuid(),
                'name', 'Yard', 'kind', 'Yard'))).* from shop_stations s where s.kind = 'Bay';
            update sequence_operations set terms = jsonb_set(terms, '{body}', '"beside"');
            """
        );
        await BringOn(place.Connection);
        (
            await Lines(
                place.Connection,
                "select name || ' ' || count || ' ' || x_mm || ' ' || width_mm || ' ' || door_height_mm from shop_stations"
            )
        ).ShouldBe([
            "Bay 1 1 1000 4000 2600",
            "Bay 2 1 5000 4000 2600",
            "Bay 3 1 9000 4000 2600",
            "Benches 3 1000 12000 2600",
            "Yard 3 1000 12000 2600",
        ]);
        (
            await Lines(
                place.Connection,
                "select row_number() over (order by number) || ' in ' || s.name from builds b join shop_stations s on s.id = b.station_id"
            )
        ).ShouldBe(["1 in Bay 1", "2 in Bay 2"]);
        (
            await Lines(
                place.Connection,
                "select distinct (coalesce(station, '') in ('Bay', 'Prep', 'Booth', 'Blast', 'Jig', 'Lift')) || ' ' || (terms ->> 'body') from sequence_operations"
            )
        ).ShouldBe(["false beside", "true onBody"]);
    }

    private const string Changes = "select migration_id from \"__EFMigrationsHistory\"";

    private static async Task<EmptyPlace> Restored()
    {
        var place = await EmptyPlace.Make();
        await BackupReader.Restore(
            Path.Combine(AppContext.BaseDirectory, "Backups", "2026-11-29.tar"),
            place.Connection,
            place.Settings,
            Cancel
        );
        return place;
    }

    private static async Task BringOn(string connection)
    {
        await using var db = new ShopDb(StoreSetup.Options(connection), new(TimeProvider.System), new(), new());
        await EarlierShapes.BringOn(db, Cancel);
        await db.Database.MigrateAsync(Cancel);
    }

    private static async Task<List<SavedTable>> Tables(string connection)
    {
        await using var database = new NpgsqlConnection(connection);
        await database.OpenAsync(Cancel);
        await using var reading = await database.BeginTransactionAsync(Cancel);
        return await ShopTables.Of(database, Cancel);
    }

    private static async Task Execute(string connection, string statements)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(statements);
        await command.ExecuteNonQueryAsync(Cancel);
    }

    private static async Task<List<string>> Lines(string connection, string question)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(question);
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        var lines = new List<string>();
        while (await reader.ReadAsync(Cancel))
        {
            lines.Add(reader.GetString(0));
        }

        return [.. lines.Order(StringComparer.Ordinal)];
    }
}
