using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Overview;
using FirstCoat.Store.Shop;

namespace FirstCoat.Server.Rooms;

/// <summary>The shop room.</summary>
public static class ShopEndpoints
{
    public sealed record TaxView(decimal Labour, decimal Parts, decimal Outside, decimal Materials);

    public sealed record SettingsBody(
        [property: StringLength(100)] string Name,
        [property: StringLength(100)] string Place,
        [property: StringLength(40)] string Phone,
        [property: StringLength(200)] string Address,
        [property: StringLength(3)] string Currency,
        [property: StringLength(60)] string TimeZone,
        UnitSystem Units,
        int PlanWidthMm,
        int PlanDepthMm,
        TaxView TaxRates,
        List<PartTier> PartTiers,
        decimal OutsideMarkup,
        decimal MaterialsMarkup,
        decimal ConsumablesPercent,
        decimal? ConsumablesCap,
        int StorageFreeDays,
        decimal StoragePerDay,
        MinuteRounding Rounding,
        decimal OvertimeAfterHours,
        decimal OvertimeMultiplier,
        decimal DelayPerDay,
        List<SheetStock> Sheets,
        List<DayShift> Week,
        uint? Version
    );

    /// <param name="Cost">Only for the manager.</param>
    public sealed record RateView(LocalDate From, decimal? Cost, decimal Billing);

    /// <param name="Rates">Not for technicians.</param>
    /// <param name="Terms">Pace, own hours, kept times; for the manager.</param>
    public sealed record PersonView(
        Guid Id,
        string Name,
        List<Trade> Trades,
        bool Active,
        List<RateView>? Rates,
        List<Absence> Absences,
        PersonTerms? Terms,
        uint Version
    );

    public sealed record StationView(
        Guid Id,
        string Name,
        StationKind Kind,
        int Count,
        int XMm,
        int YMm,
        int WidthMm,
        int DepthMm,
        int? DoorHeightMm,
        bool Walled,
        StationTerms Terms,
        bool PastInspection,
        uint Version
    );

    public sealed record SupplierView(
        Guid Id,
        string Name,
        string What,
        List<IsoDayOfWeek> FreightDays,
        List<IsoDayOfWeek> WorkDays,
        SupplierTerms Terms,
        uint Version
    );

    public sealed record ClosedDayView(LocalDate Date, string Reason);

    /// <param name="Jobs">Work that is nobody's build.</param>
    /// <param name="Always">What never goes on together in any shop.</param>
    public sealed record ShopView(
        SettingsBody Settings,
        List<PersonView> People,
        List<StationView> Stations,
        List<SupplierView> Suppliers,
        List<ClosedDayView> ClosedDays,
        PlanRules Plan,
        List<AirClash> Always,
        List<StationKind> VehiclePlaces,
        ShopLayout Layout,
        List<ShopRack> Racks,
        List<string> Jobs
    );

    public sealed record LayoutBody(ShopLayout Layout, int PlanWidthMm, int PlanDepthMm, uint? Version);

    public sealed record RacksBody(List<ShopRack> Racks, uint? Version);

    public sealed record JobsBody(List<string> Jobs, uint? Version);

    /// <param name="Away">The manager has put the list away.</param>
    public sealed record FirstThingsView(bool Away, List<FirstThing> Things);

    public sealed record AwayBody(bool Away);

    /// <param name="Text">The file: a heading, then a row each; commas, semicolons or tabs between.</param>
    /// <param name="Keep">False: a trial that keeps nothing.</param>
    public sealed record ImportBody(
        ImportKind Kind,
        [property: StringLength(1_000_000)] string Text,
        Guid? BuildId,
        bool Keep
    );

    public sealed record PersonBody(
        [property: StringLength(100)] string Name,
        List<Trade> Trades,
        bool Active,
        uint? Version
    );

    public sealed record RateBody(LocalDate From, decimal Cost, decimal Billing);

    public sealed record AbsencesBody(List<Absence> Absences);

    public sealed record StationBody(
        [property: StringLength(60)] string Name,
        StationKind Kind,
        int Count,
        int XMm,
        int YMm,
        int WidthMm,
        int DepthMm,
        int? DoorHeightMm,
        bool Walled,
        uint? Version
    )
    {
        /// <summary>A new one is made so many times, side by side, each with a number behind its name.</summary>
        public int Copies { get; init; } = 1;
    }

    public sealed record SupplierBody(
        [property: StringLength(100)] string Name,
        [property: StringLength(200)] string What,
        List<IsoDayOfWeek> FreightDays,
        uint? Version
    )
    {
        /// <summary>None: Monday to Friday.</summary>
        public List<IsoDayOfWeek> WorkDays { get; init; } = [];

        /// <summary>Closed days, and the hours in which they work here.</summary>
        public SupplierTerms Terms { get; init; } = new();
    }

    public sealed record PersonTermsBody(PersonTerms Terms, uint? Version);

    public sealed record StationTermsBody(StationTerms Terms, uint? Version);

    public sealed record PlanRulesBody(PlanRules Plan, uint? Version);

    public sealed record ClosedDayBody(Guid Id, [property: StringLength(100)] string Reason);

    public static void MapShop(this RouteGroupBuilder api)
    {
        api.MapGet("/shop", Look).RequireAuthorization(Policies.Anyone).WithName("getShop");
        var shop = api.MapGroup("/shop").RequireAuthorization(Policies.Manager);
        shop.MapPut("/settings", async (SettingsBody b, ShopDesk desk, CancellationToken cancel) => Saved.From(
                    await desk.SaveSettings(
                        s =>
                        {
                            (s.Name, s.Place, s.Phone, s.Address, s.Currency, s.TimeZone, s.Units) = (
                                b.Name.Trim(),
                                b.Place.Trim(),
                                b.Phone.Trim(),
                                b.Address.Trim(),
                                b.Currency,
                                b.TimeZone,
                                b.Units
                            );
                            (s.PlanWidthMm, s.PlanDepthMm, s.PartTiers, s.OutsideMarkup, s.MaterialsMarkup) = (
                                b.PlanWidthMm,
                                b.PlanDepthMm,
                                b.PartTiers,
                                b.OutsideMarkup,
                                b.MaterialsMarkup
                            );
                            s.TaxRates = new()
                            {
                                [TaxCategory.Labour] = b.TaxRates.Labour,
                                [TaxCategory.Parts] = b.TaxRates.Parts,
                                [TaxCategory.Outside] = b.TaxRates.Outside,
                                [TaxCategory.Materials] = b.TaxRates.Materials,
                            };
                            (s.StorageFreeDays, s.StoragePerDay) = (b.StorageFreeDays, b.StoragePerDay);
                            (
                                s.ConsumablesPercent,
                                s.ConsumablesCap,
                                s.Rounding,
                                s.OvertimeAfterHours,
                                s.OvertimeMultiplier,
                                s.DelayPerDay,
                                s.Sheets,
                                s.Week
                            ) = (
                                b.ConsumablesPercent,
                                b.ConsumablesCap,
                                b.Rounding,
                                b.OvertimeAfterHours,
                                b.OvertimeMultiplier,
                                b.DelayPerDay,
                                b.Sheets,
                                b.Week
                            );
                        },
                        b.Version,
                        cancel
                    )
                ))
            .WithName("saveSettings");
        shop.MapPut("/people/{id:guid}", async (Guid id, PersonBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.PutPerson(id, b.Name, b.Trades, b.Active, b.Version, cancel))
            )
            .WithName("putPerson");
        shop.MapPut("/people/{id:guid}/rates", async (Guid id, RateBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetRate(id, new(b.From, b.Cost, b.Billing), cancel))
            )
            .WithName("setRate");
        shop.MapPut(
                "/people/{id:guid}/absences",
                async (Guid id, AbsencesBody b, ShopDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.SetAbsences(id, b.Absences, cancel))
            )
            .WithName("setAbsences");
        shop.MapPut("/stations/{id:guid}", async (Guid id, StationBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.PutStation(
                        id,
                        s =>
                            (s.Name, s.Kind, s.Count, s.XMm, s.YMm, s.WidthMm, s.DepthMm, s.DoorHeightMm, s.Walled) = (
                                b.Name.Trim(),
                                b.Kind,
                                b.Count,
                                b.XMm,
                                b.YMm,
                                b.WidthMm,
                                b.DepthMm,
                                b.DoorHeightMm,
                                b.Walled
                            ),
                        b.Version,
                        cancel,
                        b.Copies
                    )
                )
            )
            .WithName("putStation");
        shop.MapPut("/suppliers/{id:guid}", async (Guid id, SupplierBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.PutSupplier(id, b.Name, b.What, b.FreightDays, b.WorkDays, b.Terms, b.Version, cancel)
                )
            )
            .WithName("putSupplier");
        shop.MapPut(
                "/people/{id:guid}/terms",
                async (Guid id, PersonTermsBody b, ShopDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.SetPersonTerms(id, b.Terms, b.Version, cancel))
            )
            .WithName("setPersonTerms");
        shop.MapPut(
                "/stations/{id:guid}/terms",
                async (Guid id, StationTermsBody b, ShopDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.SetStationTerms(id, b.Terms, b.Version, cancel))
            )
            .WithName("setStationTerms");
        shop.MapPut("/plan-rules", async (PlanRulesBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetPlanRules(b.Plan, b.Version, cancel))
            )
            .WithName("setPlanRules");
        shop.MapDelete("/stations/{id:guid}", async (Guid id, ShopDesk desk, CancellationToken cancel) =>
            {
                await desk.RemoveStation(id, cancel);
                return Results.NoContent();
            })
            .WithName("removeStation");
        shop.MapPut("/layout", async (LayoutBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetLayout(b.Layout, b.PlanWidthMm, b.PlanDepthMm, b.Version, cancel))
            )
            .WithName("setLayout");
        shop.MapPut("/racks", async (RacksBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetRacks(b.Racks, b.Version, cancel))
            )
            .WithName("setRacks");
        shop.MapPut("/jobs", async (JobsBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetJobs(b.Jobs, b.Version, cancel))
            )
            .WithName("setJobs");
        shop.MapGet("/first-things", async (ShopDesk desk, ShopDb db, CancellationToken cancel) =>
                new FirstThingsView(
                    (await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel))?.FirstThingsAway ?? false,
                    await desk.FirstThingsOf(cancel)
                )
            )
            .WithName("getFirstThings");
        shop.MapPut("/first-things", async (AwayBody b, ShopDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.PutFirstThingsAway(b.Away, cancel))
            )
            .WithName("putFirstThingsAway");
        api.MapPost("/imports", async (ImportBody b, ImportDesk desk, CurrentActor current, CancellationToken cancel) =>
            {
                Refusal.When(
                    b.Kind is ImportKind.People or ImportKind.Suppliers && !current.Actor.IsManager,
                    "kind",
                    "People and suppliers are the manager's."
                );
                return await desk.Bring(b.Kind, b.Text, b.BuildId, b.Keep, cancel);
            })
            .RequireAuthorization(Policies.Desk)
            .WithName("bringFile");
        shop.MapPut(
                "/closed-days/{date}",
                async (DateOnly date, ClosedDayBody b, ShopDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Close(b.Id, LocalDate.FromDateOnly(date), b.Reason, cancel))
            )
            .WithName("closeDay");
        shop.MapDelete("/closed-days/{date}", async (DateOnly date, ShopDesk desk, CancellationToken cancel) =>
            {
                await desk.Reopen(LocalDate.FromDateOnly(date), cancel);
                return Results.NoContent();
            })
            .WithName("reopenDay");
    }

    private static async Task<ShopView> Look(ShopDb db, ShopClock clock, CurrentActor current, CancellationToken cancel)
    {
        var s = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel)
            ?? throw new Refusal("shop", "The shop has not been set up yet.");
        var (manager, desk) = (current.Actor.IsManager, current.Actor.IsDesk);
        var today = clock.Now.InZone(DateTimeZoneProviders.Tzdb[s.TimeZone]).Date;
        decimal Tax(TaxCategory c) => s.TaxRates.GetValueOrDefault(c);
        return new(
            new(
                s.Name,
                s.Place,
                s.Phone,
                s.Address,
                s.Currency,
                s.TimeZone,
                s.Units,
                s.PlanWidthMm,
                s.PlanDepthMm,
                desk
                    ? new(
                        Tax(TaxCategory.Labour),
                        Tax(TaxCategory.Parts),
                        Tax(TaxCategory.Outside),
                        Tax(TaxCategory.Materials)
                    )
                    : new(0, 0, 0, 0),
                desk ? s.PartTiers : [],
                desk ? s.OutsideMarkup : 0,
                desk ? s.MaterialsMarkup : 0,
                desk ? s.ConsumablesPercent : 0,
                desk ? s.ConsumablesCap : null,
                desk ? s.StorageFreeDays : 0,
                desk ? s.StoragePerDay : 0,
                s.Rounding,
                s.OvertimeAfterHours,
                s.OvertimeMultiplier,
                desk ? s.DelayPerDay : 0,
                desk ? s.Sheets : [],
                s.Week,
                s.Version
            ),
            (await db.People.AsNoTracking().OrderBy(p => p.Name).ToListAsync(cancel))
                .Select(p => new PersonView(
                    p.Id,
                    p.Name,
                    p.Trades,
                    p.Active,
                    desk
                        ? p.Rates.Select(r => new RateView(r.From, manager ? r.Cost : null, r.Billing)).ToList()
                        : null,
                    manager ? p.Absences : p.Absences.Select(a => a with { Reason = "" }).ToList(),
                    manager ? p.Terms : null,
                    p.Version
                ))
                .ToList(),
            (await db.Stations.AsNoTracking().OrderBy(x => x.Name).ToListAsync(cancel))
                .Select(x => new StationView(
                    x.Id,
                    x.Name,
                    x.Kind,
                    x.Count,
                    x.XMm,
                    x.YMm,
                    x.WidthMm,
                    x.DepthMm,
                    x.DoorHeightMm,
                    x.Walled,
                    x.Terms,
                    x.Terms.PastInspection(today),
                    x.Version
                ))
                .ToList(),
            await db
                .Suppliers.AsNoTracking()
                .OrderBy(x => x.Name)
                .Select(x => new SupplierView(x.Id, x.Name, x.What, x.FreightDays, x.WorkDays, x.Terms, x.Version))
                .ToListAsync(cancel),
            await db
                .ClosedDays.AsNoTracking()
                .OrderBy(d => d.Date)
                .Select(d => new ClosedDayView(d.Date, d.Reason))
                .ToListAsync(cancel),
            s.Plan,
            [.. PlanRules.Always],
            [.. Enum.GetValues<StationKind>().Where(k => k.IsForVehicles())],
            s.Layout,
            s.Racks,
            s.Jobs
        );
    }
}
