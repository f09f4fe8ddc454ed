using FirstCoat.Core.Access;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Server.Access;
using FirstCoat.Store.Builds;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Outside;
using FirstCoat.Store.Parts;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Sequence;
using FirstCoat.Store.Shop;

namespace FirstCoat.Server.Demo;

/// <summary>
/// Tells half a year of Kettle Quay Coachworks through the same commands as the screens use, each at its own time.
/// What is finished, worn, earned and due follows from what was recorded; only agreements, hours and deliveries are
/// told.
/// </summary>
/// <param name="photoScale">Of the photos' size: a suite that looks at none of them wants them small.</param>
internal sealed class DemoShop(ServiceProvider services, Instant now, Action<string> say, float photoScale = 1)
{
    private const int Weeks = 26;

    /// <summary>Days before the last of which each evening's forecast is kept.</summary>
    private const int NightsTold = 20;
    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];
    private readonly Random _chance = new(20261014);
    private readonly SetClock _clock = services.GetRequiredService<SetClock>();
    private readonly Dictionary<string, Actor> _actors = [];
    private readonly Dictionary<string, Guid> _people = [];
    private readonly Dictionary<string, Guid> _stations = [];
    private readonly Dictionary<string, Guid> _suppliers = [];
    private readonly Dictionary<int, Guid> _builds = [];

    /// <summary>Minutes that each operation will really take.</summary>
    private readonly Dictionary<Guid, int> _real = [];

    private readonly Dictionary<Guid, int> _spent = [];
    private readonly Dictionary<int, List<Operation>> _known = [];
    private LocalDate _today;

    private Instant Told => Instant.FromDateTimeOffset(_clock.GetUtcNow());

    private LocalDate LastDay => now.InZone(Zone).Date;

    public async Task Tell(CancellationToken cancel)
    {
        _clock.Set(At(LastDay.PlusWeeks(-Weeks), 7, 0));
        await using (var scope = services.CreateAsyncScope())
        {
            await Migrator.Migrate(scope.ServiceProvider, cancel);
        }

        await SetUp(cancel);
        var weeks = new DemoWeeks(this);
        for (_today = LastDay.PlusWeeks(-Weeks); _today <= LastDay; _today = _today.PlusDays(1))
        {
            if (_today.DayOfWeek == IsoDayOfWeek.Monday)
            {
                say(Bar(_today));
            }

            await Morning(cancel);
            if (_today.DayOfWeek == IsoDayOfWeek.Monday && weeks.Tells(_today))
            {
                _clock.Set(At(_today, 7, 45));
                await weeks.Commit(_today, cancel);
            }

            if (_today.DayOfWeek is not (IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday))
            {
                await WorkDay(cancel);
                if (_today.DayOfWeek == IsoDayOfWeek.Friday && weeks.Tells(_today))
                {
                    _clock.Set(At(_today, 18, 0));
                    await weeks.Count(_today, cancel);
                }

                await Night(cancel);
            }
        }

        _today = LastDay;
        _clock.Set(now);
        await new DemoPresent(this).Tell(cancel);
        _clock.Set(now);
    }

    /// <summary>How much of the half year is told: "[######....] week of 6 Jul".</summary>
    private string Bar(LocalDate week)
    {
        const int Wide = 26;
        var told = Wide - (Period.DaysBetween(week, LastDay) + 6) / 7 * Wide / Weeks;
        return $"  [{new string('#', told)}{new string('.', Wide - told)}] week of {week:d MMM}   ";
    }

    internal Guid Person(string user) => _people[user];

    internal Guid Station(string name) => _stations[name];

    internal Guid Supplier(string name) => _suppliers[name];

    internal Guid Build(int number) => _builds[number];

    internal LocalDate Day => LastDay;

    internal float PhotoScale => photoScale;

    internal static Instant At(LocalDate day, int hour, int minute) =>
        Zone.AtLeniently(day.At(new LocalTime(hour, minute))).ToInstant();

    /// <summary>Does something as somebody, at the time the clock shows.</summary>
    internal async Task As(string user, Func<IServiceProvider, Task> act, int? touches = null)
    {
        // What is known of the operations may have changed; hours on one build leave the others known.
        if (touches is { } number)
        {
            _known.Remove(number);
        }
        else
        {
            _known.Clear();
        }

        await using var scope = services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = _actors[user];
        await act(scope.ServiceProvider);
    }

    private async Task<T> Ask<T>(Func<ShopDb, Task<T>> query)
    {
        await using var scope = services.CreateAsyncScope();
        return await query(scope.ServiceProvider.GetRequiredService<ShopDb>());
    }

    internal async Task<List<Operation>> Operations(int number, CancellationToken cancel) =>
        _known.TryGetValue(number, out var known)
            ? known
            : _known[number] = await Ask(db =>
                db.Operations.AsNoTracking()
                    .Where(o => o.BuildId == _builds[number] && !o.Removed)
                    .OrderBy(o => o.Position)
                    .ToListAsync(cancel)
            );

    /// <summary>The forecast of the evening, over the last weeks.</summary>
    private async Task Night(CancellationToken cancel)
    {
        if (
            _today >= LastDay
            || _today < LastDay.PlusDays(-NightsTold)
            || _today.DayOfWeek is IsoDayOfWeek.Tuesday or IsoDayOfWeek.Thursday
        )
        {
            return;
        }

        _clock.Set(At(_today, 19, 0));
        await As("sunniva", s => s.GetRequiredService<PlanDesk>().KeepNight(cancel));
    }

    private async Task SetUp(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
        var desk = scope.ServiceProvider.GetRequiredService<ShopDesk>();
        var accounts = scope.ServiceProvider.GetRequiredService<AccountsDesk>();
        await desk.SaveSettings(
            s =>
            {
                (s.Name, s.Place, s.Phone, s.Currency, s.TimeZone) = (
                    "Kettle Quay Coachworks",
                    "Port Hallow, Isle of Vessay",
                    "0555 200 100",
                    "GBP",
                    Zone.Id
                );
                (s.PlanWidthMm, s.PlanDepthMm) = (25000, 20300);
                s.TaxRates = new()
                {
                    [TaxCategory.Labour] = 20,
                    [TaxCategory.Parts] = 20,
                    [TaxCategory.Outside] = 20,
                    [TaxCategory.Materials] = 20,
                };
                s.PartTiers = [new(100, 30), new(500, 20), new(null, 12)];
                (s.OutsideMarkup, s.MaterialsMarkup, s.ConsumablesPercent, s.ConsumablesCap, s.DelayPerDay) = (
                    10,
                    25,
                    4,
                    900,
                    36
                );
                s.Week = SessionEndpoints.StandardWeek();
                s.FirstThingsAway = true;
            },
            null,
            cancel
        );
        foreach (var p in DemoCast.People)
        {
            var id = _people[p.User] = Guid.CreateVersion7();
            await desk.PutPerson(id, p.Name, [.. p.Trades], true, null, cancel);
            await desk.SetRate(id, new(LastDay.PlusWeeks(-60), p.Cost, p.Billing - 3), cancel);
            await desk.SetRate(id, new(LastDay.PlusWeeks(-12), p.Cost, p.Billing), cancel);
            var role = p.User == "sunniva" ? Roles.Manager : Roles.Technician;
            var account = await accounts.Add(
                Guid.CreateVersion7(),
                p.User,
                DemoCast.Password,
                p.Name,
                role,
                id,
                cancel
            );
            _actors[p.User] = new(account.Id, id, p.Name, role);
        }

        var office = await accounts.Add(
            Guid.CreateVersion7(),
            "iben",
            DemoCast.Password,
            "Iben Strand",
            Roles.Office,
            null,
            cancel
        );
        _actors["iben"] = new(office.Id, null, "Iben Strand", Roles.Office);
        foreach (var s in DemoCast.Stations)
        {
            var id = _stations[s.Name] = Guid.CreateVersion7();
            await desk.PutStation(
                id,
                x =>
                    (x.Name, x.Kind, x.Count, x.XMm, x.YMm, x.WidthMm, x.DepthMm, x.DoorHeightMm, x.Walled) = (
                        s.Name,
                        s.Kind,
                        s.Count,
                        (int)(s.X * 1000),
                        (int)(s.Y * 1000),
                        (int)(s.W * 1000),
                        (int)(s.D * 1000),
                        s.Door,
                        s.Walled
                    ),
                null,
                cancel
            );
        }

        foreach (var s in DemoCast.Suppliers)
        {
            var id = _suppliers[s.Name] = Guid.CreateVersion7();
            await desk.PutSupplier(
                id,
                s.Name,
                s.What,
                [IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday],
                s.Days,
                new(),
                null,
                cancel
            );
        }

        await desk.SetAbsences(
            _people["bram"],
            [new(LastDay.PlusDays(-1).At(new(0, 0)), LastDay.PlusDays(2).At(new(0, 0)), "ferry to the mainland")],
            cancel
        );
        await desk.SetAbsences(
            _people["nessa"],
            [new(LastDay.PlusDays(20).At(new(0, 0)), LastDay.PlusDays(25).At(new(0, 0)), "holiday")],
            cancel
        );
        await desk.SetPlanRules(
            new()
            {
                Things = [new("carrier for skins", 2), new("set of clamps", 6), new("engine hoist", 1)],
                Crowds = [new(WorkKind.Blasting, StationKind.Prep, 1)],
                Ready = [new(StationKind.Blast, 240), new(StationKind.Booth, 90)],
            },
            null,
            cancel
        );
        await desk.SetPersonTerms(
            _people["nessa"],
            new() { Pace = 1.15m, NotGiven = [WorkKind.HotWork, WorkKind.HighVoltage] },
            null,
            cancel
        );
        foreach (
            var (name, terms) in new (string, StationTerms)[]
            {
                (
                    "Booth",
                    new()
                    {
                        InspectedUntil = LastDay.PlusWeeks(40),
                        Inspected = "breathing air, filters",
                        AirSpace = "booth",
                    }
                ),
                (
                    "Blast room",
                    new()
                    {
                        InspectedUntil = LastDay.PlusWeeks(26),
                        Inspected = "air-fed hood, hoses",
                        AirSpace = "blast room",
                    }
                ),
            }
        )
        {
            await desk.SetStationTerms(_stations[name], terms, null, cancel);
        }

        var midwinter = new LocalDate(LastDay.Month > 6 ? LastDay.Year : LastDay.Year - 1, 12, 25);
        foreach (
            var day in Enumerable.Range(0, 8).Select(midwinter.PlusDays).Where(d => d.DayOfWeek < IsoDayOfWeek.Saturday)
        )
        {
            await desk.Close(Guid.CreateVersion7(), day, "midwinter", cancel);
        }
    }

    /// <summary>What the desk does before the hall opens: builds arrive, batches leave and return, parts are ordered,
    /// gates signed.</summary>
    private async Task Morning(CancellationToken cancel)
    {
        foreach (var b in DemoCast.Builds.Where(b => LastDay.PlusWeeks(-b.WeeksAgo) == _today))
        {
            _clock.Set(At(_today, 7, 20));
            await As("sunniva", s => Open(s, b, cancel));
        }

        if (
            _today.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday
            || (_today == LastDay && now < At(_today, 7, 45))
        )
        {
            return;
        }

        _clock.Set(At(_today, 7, 40));
        foreach (var b in DemoCast.Builds.Where(b => _builds.ContainsKey(b.Number)))
        {
            await Gates(b.Number, cancel);
            await SendAndReceive(b, cancel);
        }

        if (_today.DayOfWeek == IsoDayOfWeek.Friday && _today.Day <= 7)
        {
            await Payments(cancel);
        }
    }

    private async Task Open(IServiceProvider s, DemoCast.CastBuild b, CancellationToken cancel)
    {
        var desk = s.GetRequiredService<BuildsDesk>();
        var id = _builds[b.Number] = Guid.CreateVersion7();
        var promised = LastDay.PlusWeeks(b.PromisedInWeeks);
        var cap =
            b.Contract == ContractKind.Capped
                ? new ContractTerms(ContractKind.Capped, 54000)
                : ContractTerms.TimeAndMaterials;
        await desk.Open(
            id,
            new(
                b.Number,
                b.Client,
                $"{string.Concat(b.Client.Where(char.IsAsciiLetter)).ToLowerInvariant()}@clients.example",
                b.Phone,
                new(
                    b.Make,
                    b.Model,
                    b.Year,
                    b.Style,
                    b.Construction,
                    $"{b.Make[0]}{b.Number}-{b.Year}",
                    b.Colour,
                    b.Hex,
                    BodyDimensions.Of(b.Style)
                ),
                new(
                    b.Grade,
                    b.Grade == FinishGrade.Concours ? OriginalityPolicy.Original : OriginalityPolicy.OriginalLook,
                    promised,
                    b.Estimate.Total,
                    b.Template == Templates.SmallWork
                        ? []
                        : [new("rolling", promised.PlusWeeks(-6)), new("drivable", promised.PlusWeeks(-2))]
                ),
                cap,
                b.Estimate,
                b.Template,
                b.Scale,
                Array.IndexOf(DemoCast.Builds, b) + 1,
                b.FillIn,
                null,
                // Only a shell without a chassis of its own is worth the one jig.
                Choices: new(
                    Hold: b.Construction == Construction.Unitary ? SupportState.Jig : SupportState.OwnChassis,
                    Trim: b.Number == 43 ? TrimSchool.Visiting : TrimSchool.InHouse
                )
            ),
            cancel
        );
        await desk.Stand(id, _stations["Yard"], "", cancel);
        if (b.Deposit > 0)
        {
            await desk.Pay(id, Guid.CreateVersion7(), _today, b.Deposit, "deposit", cancel);
        }

        if (b.Number == 37)
        {
            await PaintElsewhere(s.GetRequiredService<SequenceDesk>(), id, cancel);
        }

        var operations = await s.GetRequiredService<SequenceDesk>().Of(id, cancel);
        if (operations.FirstOrDefault(o => o is { Kind: OperationKind.Outside, Station: not null }) is { } visit)
        {
            await s.GetRequiredService<SequenceDesk>()
                .Put(
                    id,
                    visit.Id,
                    o => o.Terms = o.Terms with { SupplierId = _suppliers["Strand Trimmers"] },
                    null,
                    cancel
                );
        }

        if (b.Number == 46 && operations.FirstOrDefault(o => o.Terms.Sets == SupportState.Cart) is { } cart)
        {
            // With its bows on, the open body passes no door on a cart.
            await s.GetRequiredService<SequenceDesk>()
                .Put(
                    id,
                    cart.Id,
                    o => (o.Name, o.Terms) = ("Bows off, on the paint cart", o.Terms with { LowersMm = 640 }),
                    null,
                    cancel
                );
        }

        foreach (var o in operations.Where(o => o.Trade is not null))
        {
            // Rounded to five minutes, as people stop when a thing is done.
            var spread = Math.Exp(
                .22 * (_chance.NextDouble() + _chance.NextDouble() + _chance.NextDouble() - 1.5) / .5
            );
            _real[o.Id] = Math.Max(20, (int)(o.BudgetMinutes * DemoCast.Bias(o.Trade!.Value) * spread / 5) * 5);
        }

        if (b.Template != Templates.SmallWork)
        {
            var parts = s.GetRequiredService<PartsDesk>();
            foreach (var (name, quantity, cost, supplier, operation) in DemoCast.Parts(b.Style))
            {
                var needs = operations.FirstOrDefault(o => o.Name.StartsWith(operation, StringComparison.Ordinal));
                if (needs is not null)
                {
                    await parts.Put(
                        id,
                        Guid.CreateVersion7(),
                        new(name, quantity, cost, null, _suppliers[supplier], false, needs.Id),
                        null,
                        cancel
                    );
                }
            }

            // Vessay Forestry has not answered yet.
            if (b.Number != 45)
            {
                await DemoPapers.Accept(s, id, b.Client, cancel);
            }
        }
    }

    /// <summary>37 is painted by somebody else: its coats become one piece of outside work.</summary>
    private static async Task PaintElsewhere(SequenceDesk desk, Guid build, CancellationToken cancel)
    {
        var operations = await desk.Of(build, cancel);
        var (gate, cure) = (
            operations.Single(o => o.Gate == GateKind.UniformCoat),
            operations.Single(o => o.Name == "Clear cures")
        );
        var away = Guid.CreateVersion7();
        await desk.Put(
            build,
            away,
            o =>
                (o.Name, o.Stage, o.Kind, o.ClockMinutes, o.Position, o.After) = (
                    "Colour outside",
                    Stage.Colour,
                    OperationKind.Outside,
                    24 * 1440,
                    cure.Position,
                    [new(gate.Id, 0)]
                ),
            null,
            cancel
        );
        foreach (var o in operations.Where(o => o.Stage == Stage.Colour && o.Kind == OperationKind.Work))
        {
            await desk.Remove(o.Id, cancel);
        }

        await desk.Put(build, cure.Id, o => o.After = [new(away, 0)], null, cancel);
    }

    private async Task Gates(int number, CancellationToken cancel)
    {
        var operations = (await Operations(number, cancel)).ToDictionary(o => o.Id);
        foreach (
            var gate in operations.Values.Where(o =>
                o.Kind == OperationKind.Gate && !o.IsDone && o.After.All(a => operations[a.Operation].IsDone)
            )
        )
        {
            if (gate.Gate == GateKind.UniformCoat && number == 39 && _today.DayOfWeek != IsoDayOfWeek.Monday)
            {
                continue;
            }

            await new DemoFit(this).BeforeSigning(number, gate, operations, cancel);
            await As("sunniva", s => s.GetRequiredService<SequenceDesk>().Sign(gate.Id, cancel));
            if (Core.Sequence.Gates.Signatures(gate.Gate!.Value) == 2)
            {
                await As("odile", s => s.GetRequiredService<SequenceDesk>().Sign(gate.Id, cancel));
            }
        }

        foreach (
            var cure in operations.Values.Where(o =>
                o.Kind == OperationKind.Cure
                && !o.IsDone
                && o.After.All(a =>
                    operations[a.Operation].DoneAt is { } d
                    && d + Duration.FromMinutes(o.ClockMinutes) <= At(_today, 7, 40)
                )
            )
        )
        {
            await As("sunniva", s => s.GetRequiredService<SequenceDesk>().Finish(cure.Id, "", cancel));
        }
    }

    private async Task SendAndReceive(DemoCast.CastBuild b, CancellationToken cancel)
    {
        var id = _builds[b.Number];
        var operations = (await Operations(b.Number, cancel)).ToDictionary(o => o.Id);
        var jobs = await Ask(db => db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == id).ToListAsync(cancel));
        var ferry = _today.DayOfWeek is IsoDayOfWeek.Tuesday or IsoDayOfWeek.Thursday;
        foreach (
            var o in operations.Values.Where(o =>
                o.Kind == OperationKind.Outside
                && !o.IsDone
                && ferry
                && o.After.All(a => operations[a.Operation].IsDone)
                && jobs.All(j => j.OperationId != o.Id)
            )
        )
        {
            var (supplier, pieces, quoted) = Away(o.Name);
            var job = Guid.CreateVersion7();
            await As("iben", async s =>
            {
                var desk = s.GetRequiredService<OutsideDesk>();
                await desk.Put(
                    id,
                    job,
                    new(
                        o.Name.Replace(" outside", "", StringComparison.Ordinal),
                        _suppliers[supplier],
                        o.Id,
                        pieces,
                        o.ClockMinutes / 1440,
                        quoted,
                        null
                    ),
                    null,
                    cancel
                );
                await desk.Send(job, _today, _today.PlusDays(o.ClockMinutes / 1440), cancel);
            });
            if (o.Name.StartsWith("Colour", StringComparison.Ordinal))
            {
                await As("sunniva", s => s.GetRequiredService<BuildsDesk>().Stand(id, null, supplier, cancel));
            }
        }

        foreach (var job in jobs.Where(j => j.IsAway && ferry))
        {
            // About one in three comes late; which ones follows from the job, not from the day.
            var late = (job.Title[0] + b.Number) % 3 == 0 ? 9 : 0;
            if (_today >= job.PromisedOn!.Value.PlusDays(late))
            {
                await As("iben", async s =>
                {
                    var desk = s.GetRequiredService<OutsideDesk>();
                    await desk.CountIn(job.Id, _today, job.Pieces.Select(p => p.Count).ToList(), cancel);
                    await desk.Put(
                        id,
                        job.Id,
                        new(
                            job.Title,
                            job.SupplierId,
                            job.OperationId,
                            job.Pieces,
                            job.QuotedDays,
                            job.Quoted,
                            Cents.Round(job.Quoted * (late > 0 ? 1.08m : 1m))
                        ),
                        null,
                        cancel
                    );
                });
            }
        }

        await Buy(b, operations, ferry, cancel);
    }

    private async Task Buy(
        DemoCast.CastBuild b,
        Dictionary<Guid, Operation> operations,
        bool ferry,
        CancellationToken cancel
    )
    {
        var id = _builds[b.Number];
        foreach (
            var part in await Ask(db =>
                db.Parts.AsNoTracking().Where(p => p.BuildId == id && p.State < PartState.Received).ToListAsync(cancel)
            )
        )
        {
            var needs = part.OperationId is { } o ? operations.GetValueOrDefault(o) : null;
            var near =
                needs is not null
                && needs
                    .After.Select(a => operations[a.Operation])
                    .All(x => x.IsDone || x.After.All(a => operations[a.Operation].IsDone));
            if (part.State == PartState.Needed && near && _today.DayOfWeek == IsoDayOfWeek.Wednesday)
            {
                await As("iben", async s =>
                {
                    var desk = s.GetRequiredService<PartsDesk>();
                    await desk.Move(part.Id, PartState.Ordered, _today, null, cancel);
                    await desk.Move(
                        part.Id,
                        PartState.Expected,
                        _today.PlusDays(8 + part.Name.Length % 6),
                        null,
                        cancel
                    );
                });
            }
            else if (
                part.State == PartState.Expected
                && ferry
                && _today >= part.ExpectedOn!.Value.PlusDays(part.Name.Length % 3 == 0 ? 4 : 0)
            )
            {
                await As("iben", s =>
                    s.GetRequiredService<PartsDesk>().Move(part.Id, PartState.Received, _today, null, cancel)
                );
            }
        }
    }

    private static (string Supplier, List<OutsidePiece> Pieces, decimal Quoted) Away(string operation) =>
        operation switch
        {
            _ when operation.StartsWith("Engine", StringComparison.Ordinal) => (
                "Wexcombe Machining",
                [new("block", 1), new("head", 1), new("crank and rods", 5)],
                2480
            ),
            _ when operation.StartsWith("Bright", StringComparison.Ordinal) => (
                "Corran Plating",
                [new("bumper blades", 2), new("handles and escutcheons", 9), new("mouldings", 14), new("lamp rims", 6)],
                1360
            ),
            _ => ("Marram Finishers", [new("shell", 1), new("doors and lids", 4)], 4900),
        };

    private async Task Payments(CancellationToken cancel)
    {
        foreach (var b in DemoCast.Builds.Where(b => b.Deposit > 0 && _builds.ContainsKey(b.Number)))
        {
            var id = _builds[b.Number];
            await As("iben", async s =>
            {
                var money = await s.GetRequiredService<Store.Money.MoneyDesk>().Look(id, cancel);
                // Each month most clients fill the account up; the dairy pays late, and 41 quarrelled over one bill.
                var owed = money.Statement.Balance;
                if (owed > 0 && !(b.Number == 38 && _today.Month % 2 == 0))
                {
                    var amount = Cents.Round(
                        b.Number == 41 && _today < LastDay.PlusWeeks(-6) && _today > LastDay.PlusWeeks(-12)
                            ? owed - 640
                            : owed + b.Deposit / 4
                    );
                    await s.GetRequiredService<BuildsDesk>()
                        .Pay(
                            id,
                            Guid.CreateVersion7(),
                            _today,
                            amount,
                            amount < owed ? "640.00 held back: disputes the second blasting" : "on account",
                            cancel
                        );
                }
            });
        }
    }

    /// <summary>Two halves of a day: everybody takes what lags most of what their hands can do.</summary>
    private async Task WorkDay(CancellationToken cancel)
    {
        foreach (var (from, to) in new[] { ((8, 0), (12, 0)), ((12, 30), (16, 30)) })
        {
            var (start, stop) = (At(_today, from.Item1, from.Item2), At(_today, to.Item1, to.Item2));
            if (start > now)
            {
                return;
            }

            var taken = new HashSet<Guid>();
            foreach (var p in DemoCast.People.Where(p => p.Trades.Length > 0))
            {
                if (!(p.User == "bram" && _today >= LastDay.PlusDays(-1)))
                {
                    await Half(p, start.Plus(Duration.FromMinutes(_chance.Next(0, 12))), stop, taken, cancel);
                }
            }
        }
    }

    private async Task Half(
        DemoCast.CastPerson p,
        Instant start,
        Instant stop,
        HashSet<Guid> taken,
        CancellationToken cancel
    )
    {
        var at = start;
        while (at.Plus(Duration.FromMinutes(20)) < stop && at < now)
        {
            var job = await Pick(p, taken, cancel);
            if (job is null)
            {
                return;
            }

            taken.Add(job.Id);
            var number = _builds.Single(x => x.Value == job.BuildId).Key;
            var left = _real[job.Id] - _spent.GetValueOrDefault(job.Id);
            var until = Instant.Min(stop, at.Plus(Duration.FromMinutes(Math.Max(10, left))));
            _clock.Set(at);
            var kind =
                job.Kind == OperationKind.Work && _chance.Next(38) == 0 && _spent.GetValueOrDefault(job.Id) > 60
                    ? LabourKind.Rework
                    : LabourKind.Billable;
            await As(
                p.User,
                s =>
                    s.GetRequiredService<LabourDesk>()
                        .Start(
                            Guid.CreateVersion7(),
                            _people[p.User],
                            job.Id,
                            kind,
                            null,
                            null,
                            cancel,
                            acknowledged: true
                        ),
                number
            );
            if (until > now)
            {
                // The day is told up to now: this clock runs on.
                return;
            }

            _clock.Set(until);
            _spent[job.Id] = _spent.GetValueOrDefault(job.Id) + (int)(until - at).TotalMinutes;
            var done = _spent[job.Id] >= _real[job.Id];
            var share = Math.Min(Operation.MostStated, Math.Round((decimal)_spent[job.Id] / _real[job.Id], 1));
            await As(
                p.User,
                s => s.GetRequiredService<LabourDesk>().Stop(_people[p.User], share, done, null, null, cancel),
                number
            );
            if (done)
            {
                await AfterDone(p, job, cancel);
            }

            at = until;
        }
    }

    private async Task<Operation?> Pick(DemoCast.CastPerson p, HashSet<Guid> taken, CancellationToken cancel)
    {
        Operation? best = null;
        // On the day that is shown everybody has something in hand, ahead of its pace or not.
        var mostLag = _today == LastDay ? -1m : 0m;
        foreach (
            var b in DemoCast.Builds.Where(b =>
                _builds.ContainsKey(b.Number) && !(b.Number == 42 && _today > LastDay.PlusWeeks(-9))
            )
        )
        {
            var operations = await Operations(b.Number, cancel);
            var budget = operations.Sum(o => o.BudgetMinutes);
            var share = budget == 0 ? 1 : operations.Sum(o => o.EarnedMinutes) / budget;
            var age =
                (decimal)Period.DaysBetween(LastDay.PlusWeeks(-b.WeeksAgo), _today)
                / (b.Number == 42 ? 7 * 14 : 7 * b.WeeksAgo);
            var lag = b.Pace * Math.Min(1, age + .02m) - share;
            var byId = operations.ToDictionary(o => o.Id);
            var next = operations.FirstOrDefault(o =>
                o.Kind == OperationKind.Work
                && !o.IsDone
                && !taken.Contains(o.Id)
                && o.Trade is { } t
                && p.Trades.Contains(t)
                && o.After.All(a => Ready(byId[a.Operation], a.LagMinutes))
            );
            if (next is not null && (b.FillIn ? lag / 2 : lag) > mostLag)
            {
                (best, mostLag) = (next, lag);
            }
        }

        return best;
    }

    private bool Ready(Operation before, int lag) =>
        before.DoneAt is { } done && done + Duration.FromMinutes(lag) <= Told;

    /// <summary>Work that nothing before it keeps from being begun.</summary>
    internal async Task<HashSet<Guid>> ReadyIds(CancellationToken cancel)
    {
        var ready = new HashSet<Guid>();
        foreach (var number in _builds.Keys)
        {
            var byId = (await Operations(number, cancel)).ToDictionary(o => o.Id);
            ready.UnionWith(
                byId.Values.Where(o => !o.IsDone && o.After.All(a => Ready(byId[a.Operation], a.LagMinutes)))
                    .Select(o => o.Id)
            );
        }

        return ready;
    }

    private async Task AfterDone(DemoCast.CastPerson p, Operation done, CancellationToken cancel)
    {
        var number = _builds.Single(x => x.Value == done.BuildId).Key;
        if (done.Coat is not null || done.Stage is Stage.Metal or Stage.Teardown or Stage.Driveline)
        {
            var picture = DemoPhotos.Draw(
                done,
                DemoCast.Builds.Single(b => b.Number == number),
                Told.InZone(Zone).LocalDateTime,
                _chance.Next(),
                photoScale
            );
            var id = Guid.CreateVersion7();
            await As(p.User, s =>
                s.GetRequiredService<PhotosDesk>()
                    .Add(
                        done.BuildId,
                        id,
                        new MemoryStream(picture),
                        picture.Length,
                        new(done.Name, done.Stage, done.Panels.Count == 1 ? done.Panels[0] : null, done.Id, false),
                        cancel
                    )
            );
            if (done.Stage != Stage.Teardown)
            {
                await As("iben", s =>
                    s.GetRequiredService<PhotosDesk>()
                        .Describe(
                            id,
                            new(done.Name, done.Stage, done.Panels.Count == 1 ? done.Panels[0] : null, done.Id, true),
                            null,
                            cancel
                        )
                );
            }
        }

        if (done.Coat is Coat.Epoxy or Coat.HighBuild or Coat.Sealer or Coat.Base or Coat.Clear)
        {
            var (name, litres, cost) = done.Coat switch
            {
                Coat.Epoxy => ("Epoxy, mixed", 3.2m, 31.50m),
                Coat.HighBuild => ("High-build, mixed", 2.4m, 28.00m),
                Coat.Sealer => ("Sealer, mixed", 2.1m, 34.20m),
                Coat.Base => ("Base, mixed", 4.4m, 62.80m),
                _ => ("Clear, mixed", 3.6m, 48.90m),
            };
            await As("iben", s =>
                s.GetRequiredService<PartsDesk>()
                    .Book(done.BuildId, Guid.CreateVersion7(), done.Id, name, litres, "l", cost, _today, cancel)
            );
        }

        foreach (
            var part in await Ask(db =>
                db.Parts.AsNoTracking()
                    .Where(x => x.OperationId == done.Id && x.State == PartState.Received)
                    .ToListAsync(cancel)
            )
        )
        {
            await As(p.User, s =>
                s.GetRequiredService<PartsDesk>().Move(part.Id, PartState.Fitted, _today, null, cancel)
            );
        }
    }
}
