using System.Globalization;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>Makes the planner's problem from what the shop has recorded.</summary>
internal sealed class ShopProblem
{
    /// <summary>Ids of what the shop does not list as an operation begin with these.</summary>
    private const string HeldSince = "held ",
        AwaySince = "away ",
        Ordered = "part ";

    /// <summary>Months ahead for which a monthly pace is told.</summary>
    private const int MonthsAhead = 60;

    /// <summary>The working week of a supplier who gave no days.</summary>
    private static readonly IsoDayOfWeek[] WorkingDays =
    [
        IsoDayOfWeek.Monday,
        IsoDayOfWeek.Tuesday,
        IsoDayOfWeek.Wednesday,
        IsoDayOfWeek.Thursday,
        IsoDayOfWeek.Friday,
    ];

    private readonly PlanFacts _f;
    private readonly IReadOnlyList<Decision> _open;
    private readonly ILookup<Guid, Operation> _operations;
    private readonly AirSpaces _air;
    private readonly IReadOnlyDictionary<Trade, decimal> _rates;
    private readonly HashSet<string> _things;
    private readonly ILookup<Guid?, OutsideJob> _away;
    private readonly ILookup<Guid?, PartLine> _parts;
    private readonly ILookup<Guid, PartLine> _partsOf;
    private readonly Dictionary<Guid, Supplier> _suppliers;

    public ShopProblem(PlanFacts facts, IReadOnlyList<Decision> open)
    {
        (_f, _open) = (facts, open);
        _operations = facts.Operations.ToLookup(o => o.BuildId);
        _air = new(facts.Stations);
        _rates = TradeRates.On(Today, facts.People);
        _things = facts.Shop.Plan.Things.Select(t => t.Name).ToHashSet();
        _away = facts.Jobs.Where(j => j.IsAway).ToLookup(j => j.OperationId);
        (_parts, _partsOf) = (facts.Parts.ToLookup(p => p.OperationId), facts.Parts.ToLookup(p => p.BuildId));
        _suppliers = facts.Suppliers.ToDictionary(s => s.Id);
    }

    private LocalDate Today => _f.Calendar.Local(_f.Now).Date;

    public PlanProblem Make() =>
        new(
            _f.Now,
            _f.Calendar,
            [.. _f.People.Select(Person)],
            [.. _f.Stations.OrderBy(s => s.Name, StringComparer.Ordinal).Select(Station)],
            [
                .. _f.Builds.OrderBy(b => b.FillIn).ThenBy(b => b.Priority).ThenBy(b => b.Number).Select(Build),
                .. _f.Paused.Where(b => b.StationId is not null).OrderBy(b => b.Number).Select(Standing),
            ]
        )
        {
            Turns = _f.Turns,
            FoundShare = _f.FoundShare,
            Suppliers = [.. _f.Suppliers.Select(Supplier)],
            Moves = new(_f.Shop.Plan.MoveMinutes, _f.Shop.Plan.MoveHands, _f.Shop.Plan.MoveHandsNotRolling),
            Stock = [.. _f.Shop.Plan.Things.Select(t => new PlanStock(t.Name, t.Count))],
            Crowds =
            [
                .. _f.Shop.Plan.Crowds.Select(c => new CrowdRule(c.Work.ToString(), c.Closes.ToString(), c.Count)),
            ],
            Air =
            [
                .. _f
                    .Shop.Plan.Clashes()
                    .Select(a => new AirRule(a.One.ToString(), a.Other.ToString(), a.Why, a.OnOneVehicle)),
            ],
        };

    private PlanPerson Person(Person p) =>
        new(
            p.Id.ToString(),
            p.ShortName,
            p.Trades.Select(t => t.ToString()).ToHashSet(),
            new(p.Absences.Select(a => new Span(_f.Calendar.Minute(a.From), _f.Calendar.Minute(a.To))))
        )
        {
            Pace = (double)p.Terms.Pace,
            Hours =
            [
                .. p
                    .Terms.Hours.OrderBy(h => h.From)
                    .Select(h => new PlanHours(
                        Midnight(h.From),
                        new(WorkWeek.From(h.Week), _f.Calendar.Closed, _f.Calendar.Zone)
                    )),
            ],
            NotGiven = p.Terms.NotGiven.Select(k => k.ToString()).ToHashSet(),
            Slots =
            [
                .. p
                    .Terms.Slots.Where(s => _f.Builds.Any(b => b.Id == s.BuildId))
                    .Select(s => new PlanSlot(s.Day, Minutes(s.From), Minutes(s.To), s.BuildId.ToString())),
            ],
        };

    private static int Minutes(LocalTime at) => at.Hour * 60 + at.Minute;

    private long Midnight(LocalDate day) => _f.Calendar.Minute(day.AtMidnight());

    private PlanStation Station(Station s) =>
        new(s.Kind.ToString(), s.Count)
        {
            Id = s.Id.ToString(),
            Name = s.Name,
            Door = s.DoorHeightMm is { } height ? new(height, _f.Shop.Plan.DoorMarginMm) : null,
            Closed = [.. Closures(s)],
            // One that is still to run out is renewed in time, so far as anybody knows.
            Inspection =
                s.Terms.InspectedUntil is { } last && !s.Terms.PastInspection(Today)
                    ? new(
                        Midnight(last.PlusDays(1)),
                        $"{s.Name}: {s.Terms.InspectedWhat()}, which runs out on {Day(last)}"
                    )
                    : null,
        };

    /// <summary>A vehicle on which nobody works: it stands where it stands.</summary>
    private static PlanBuild Standing(Build b) =>
        new(b.Id.ToString(), $"{b.Number}", []) { StandsAt = b.StationId.ToString() };

    private IEnumerable<PlanClosure> Closures(Station s)
    {
        foreach (var c in s.Terms.Closed.Where(c => c.To is null || c.To >= Today))
        {
            yield return new(
                Midnight(c.From),
                c.To is { } to ? Midnight(to.PlusDays(1)) : null,
                s.Count,
                c.Why.Length > 0 ? $"{s.Name}: {c.Why}" : $"{s.Name} is closed"
            );
        }

        if (s.Terms.InspectedUntil is { } last && s.Terms.PastInspection(Today))
        {
            yield return new(
                Midnight(last.PlusDays(1)),
                null,
                s.Count,
                $"{s.Name}: {s.Terms.InspectedWhat()} ran out on {Day(last)}"
            );
        }
    }

    private static string Day(LocalDate day) => day.ToString("d MMM uuuu", CultureInfo.InvariantCulture);

    private PlanSupplier Supplier(Supplier s)
    {
        var days = s.WorkDays.Count > 0 ? s.WorkDays : [.. WorkingDays];
        var closed = s
            .Terms.Closed.SelectMany(c =>
                Enumerable.Range(0, Period.DaysBetween(c.From, c.To) + 1).Select(i => c.From.PlusDays(i))
            )
            .ToList();
        WorkCalendar On(IEnumerable<IsoDayOfWeek> week, int from, int to) =>
            new(WorkWeek.Of(week.Select(d => (d, from, to, (IReadOnlyList<(int, int)>)[]))), closed, _f.Calendar.Zone);
        return new(s.Id.ToString(), s.Name, On(days, 0, 1440))
        {
            Visits = s.Terms is { VisitsFrom: { } from, VisitsTo: { } to }
                ? On(days, Minutes(from), Minutes(to))
                : null,
            OpensForThem = s.Terms.OpensForThem,
            Freight =
                s.FreightDays.Count > 0
                    ? new(
                        WorkWeek.Of(s.FreightDays.Select(d => (d, 0, 1440, (IReadOnlyList<(int, int)>)[]))),
                        [],
                        _f.Calendar.Zone
                    )
                    : null,
        };
    }

    private PlanBuild Build(Build b)
    {
        var all = _operations[b.Id].ToDictionary(o => o.Id);
        var open = all.Values.Where(o => !o.IsDone).OrderBy(o => o.Position).ToList();
        var held =
            open.Count == 0
                ? []
                : all
                    .Values.Where(o =>
                        o.IsDone && o.Terms.Hold is { } h && all.TryGetValue(h.Until, out var until) && !until.IsDone
                    )
                    .Select(Held)
                    .ToList();
        var orders = Orders(b, all).ToList();
        var operations = Costed(
            open.Select(o => Work(b, o, all, orders)).ToList(),
            _f.Covers.GetValueOrDefault(b.Id)?.Ahead
        );
        var away = open.Where(o => o.Terms.Body == BodyUse.TakesAway)
            .Select(o => (Operation: o, Job: JobOf(o)))
            .Where(x => x.Job?.PromisedOn is not null)
            .Select(x => Away(x.Operation, x.Job!))
            .ToList();
        return new(b.Id.ToString(), $"{b.Number}", [.. held, .. away, .. operations, .. orders.Select(x => x.Order)])
        {
            Rank = b.Priority,
            FillIn = b.FillIn,
            Weight = b.Terms.Weight,
            Due = b.Brief.Promised is { } promised ? Midnight(promised.PlusDays(1)) : null,
            Covered =
                b.Terms.Spending is { } pace && pace.Limits(Today)
                    ? Covered(pace, _f.Covers.GetValueOrDefault(b.Id) ?? new(0, 0))
                    : null,
            SideLocks =
            [
                .. open.Where(o => o.Terms.ClosedUntil is { } c && all.TryGetValue(c, out var other) && !other.IsDone)
                    .GroupBy(o => o.Terms.ClosedUntil!.Value)
                    .Select(g => new PlanSideLock(g.Key.ToString(), [.. g.Select(o => o.Id.ToString())])),
            ],
            OneAtATime =
            [
                .. open.Where(o => o.Terms.OneAtATime.Length > 0)
                    .GroupBy(o => o.Terms.OneAtATime)
                    .Where(g => g.Count() > 1)
                    .Select(g => g.Select(o => o.Id.ToString()).ToList()),
            ],
            Support = SupportNow(b, all.Values),
            StandsAt = _f.Stations.Any(s => s.Id == b.StationId) ? b.StationId.ToString() : null,
            HeightMm =
                _f.Heights.GetValueOrDefault(b.Id)?.BodyMm - all.Values.Where(o => o.IsDone).Sum(o => o.Terms.LowersMm),
            KeptFreeMm = _f.Heights.GetValueOrDefault(b.Id)?.KeptFreeMm,
        };
    }

    /// <summary>The operations with their share of what the client has still to pay, so that plan and money page never
    /// differ in it.</summary>
    private static List<PlanOperation> Costed(List<PlanOperation> operations, decimal? ahead)
    {
        if (ahead is not { } all || operations.Sum(o => o.Cost) == 0)
        {
            return operations;
        }

        return
        [
            .. operations.Zip(Cents.Split(Math.Max(0, all), [.. operations.Select(o => o.Cost)]), (o, cost) =>
                o with
                {
                    Cost = cost,
                }
            ),
        ];
    }

    /// <summary>As finished work left it, else as it was at the start.</summary>
    private PlanSupport? SupportNow(Build b, IEnumerable<Operation> operations) =>
        (
            operations.Where(o => o is { IsDone: true, Terms.Sets: not null }).MaxBy(o => o.DoneAt)?.Terms.Sets
            ?? b.Terms.Support
        )
            is { } state
            ? Support(b.Id, state)
            : null;

    /// <summary>A dolly that was measured with the vehicle counts instead of the shop's usual one.</summary>
    private PlanSupport Support(Guid build, SupportState state)
    {
        var facts = _f.Shop.Plan.Of(state);
        var dolly =
            facts.LiftMm > 0 && _f.Heights.GetValueOrDefault(build) is { DollyMm: > 0 and var measured }
                ? measured
                : facts.LiftMm;
        return new(Words(state), facts.Rolls, dolly);
    }

    private static string Words(SupportState state) =>
        state switch
        {
            SupportState.OwnChassis => "its own chassis",
            SupportState.Jig => "the jig",
            SupportState.Cart => "the cart",
            SupportState.Rotisserie => "the rotisserie",
            _ => "its wheels",
        };

    /// <summary>More than any build costs.</summary>
    private const decimal NoLimit = 1_000_000_000;

    /// <summary>What may be spent in all by when, from now on.</summary>
    private List<PlanCover> Covered(SpendingPace pace, CoverSoFar soFar)
    {
        if (pace.PaysFrom is { } pays && pays > Today)
        {
            var (paid, again) = (Math.Max(0, soFar.InHand), Midnight(pays));
            var usual = pace.PerMonth is null ? [new(_f.Now, NoLimit)] : Covered(new(pace.PerMonth, false), soFar);
            return
            [
                .. usual.Where(c => c.From < again).Select(c => c with { InAll = Math.Min(c.InAll, paid) }),
                usual.Last(c => c.From <= again) with
                {
                    From = again,
                },
                .. usual.Where(c => c.From > again),
            ];
        }

        var most = pace.AsFarAsPaid ? Math.Max(0, soFar.InHand) : decimal.MaxValue;
        if (pace.PerMonth is not { } month)
        {
            return [new(_f.Now, most)];
        }

        var (covers, inAll, first) = (
            new List<PlanCover>(),
            Math.Max(0, month - soFar.ThisMonth),
            new LocalDate(Today.Year, Today.Month, 1)
        );
        covers.Add(new(_f.Now, Math.Min(most, inAll)));
        for (var i = 1; i <= MonthsAhead && inAll < most; i++)
        {
            inAll += month;
            covers.Add(new(Midnight(first.PlusMonths(i)), Math.Min(most, inAll)));
        }

        return covers;
    }

    /// <summary>A place that the build holds since work that is done.</summary>
    private PlanOperation Held(Operation o) =>
        new()
        {
            Id = HeldSince + o.Id,
            Name = $"holds since {o.Name}",
            Minutes = 0,
            Body = o.Terms.Body,
            Hold = new(o.Terms.Hold!.Station.ToString(), o.Terms.Hold.Until.ToString()),
            UnderWay = true,
        };

    /// <summary>A body that is away until its supplier's promise.</summary>
    private PlanOperation Away(Operation o, OutsideJob job) =>
        new()
        {
            Id = AwaySince + o.Id,
            Name = job.Title,
            Minutes = Math.Max(0, HereAt(job) - _f.Now),
            Body = BodyUse.TakesAway,
            UnderWay = true,
        };

    private OutsideJob? JobOf(Operation o) => _away[o.Id].FirstOrDefault();

    private long HereAt(OutsideJob job) => Midnight(_suppliers[job.SupplierId].HereOn(job.PromisedOn!.Value));

    /// <summary>Orders that wait for a measurement, each with the operation that waits for it.</summary>
    private IEnumerable<(Guid For, PlanOperation Order)> Orders(Build b, Dictionary<Guid, Operation> all)
    {
        foreach (
            var part in _partsOf[b.Id]
                .Where(p =>
                    p.ExpectedOn is null
                    && p.OrderedOn is null
                    && p.OperationId is not null
                    && p.MeasuredBy is { } m
                    && all.TryGetValue(m, out var measuring)
                    && !measuring.IsDone
                )
        )
        {
            var lead = part.SupplierId is { } s && _f.LeadTimes.TryGetValue(s, out var known) ? known : new(14, 21, 0);
            yield return (
                part.OperationId!.Value,
                new()
                {
                    Id = Ordered + part.Id,
                    Name = $"{part.Name}: ordered once {all[part.MeasuredBy!.Value].Name} has measured",
                    Minutes = (long)Math.Ceiling(lead.Likely) * 1440,
                    High = Math.Max(lead.Likely, lead.High) * 1440,
                    Low = lead.Likely * lead.Likely / Math.Max(lead.Likely, lead.High) * 1440,
                    After = [new(part.MeasuredBy.Value.ToString(), 0)],
                    WaitsAs = WaitKind.Measurement,
                }
            );
        }
    }

    private PlanOperation Work(
        Build b,
        Operation o,
        Dictionary<Guid, Operation> all,
        List<(Guid For, PlanOperation Order)> orders
    )
    {
        var (t, job) = (o.Terms, JobOf(o));
        var sent = job is not null && o.Kind == OperationKind.Outside;
        var likely = o.Kind == OperationKind.Work ? o.BudgetMinutes : o.ClockMinutes;
        var trade = o.Kind == OperationKind.Work ? o.Trade : null;
        var with = trade is null ? [] : t.With;
        var hands = 1 + with.Sum(w => w.Count);
        // Hours are of all hands together, as they are booked: two get through them in half the time.
        // Who comes to us works a day of ours for each of their days.
        var here = o is { Kind: OperationKind.Outside, Station: not null };
        var minutes =
            o.Kind == OperationKind.Work ? (o.LeftMinutes(_f.WorkedSince.GetValueOrDefault(o.Id)) + hands - 1) / hands
            : sent ? 0
            : here ? (int)((long)o.ClockMinutes * _f.Calendar.Week.LongestDay / 1440)
            : o.ClockMinutes;
        var running = _f.Running.ContainsKey(o.Id);
        var begun = running || o.EarnedMinutes > 0 || _f.LastPerson.ContainsKey(o.Id);
        var left = likely == 0 ? 0 : (double)minutes / likely;
        return new()
        {
            Id = o.Id.ToString(),
            Name = o.Name,
            Stage = o.Stage.ToString(),
            Minutes = minutes,
            Low = t.LowMinutes * left,
            High = t.HighMinutes * left,
            Trade = trade?.ToString(),
            With = [.. with.Select(w => new PlanHands(w.Trade.ToString(), w.Count))],
            Person = o.PersonId is { } named && Has(named, o) ? named.ToString() : null,
            GoesOn = GoesOn(o),
            Begun = begun,
            UnderWay = running,
            Preferred = [.. t.Preferred.Select(p => p.ToString())],
            Kinds = o.Kinds.Select(k => k.ToString()).ToHashSet(),
            Space = _air.Of(o),
            // What somebody is at now is done where the vehicle stands, and so is what asks for a kind of place that
            // the shop does not have.
            Station =
                running && t.Body == BodyUse.OnBody && _f.Stations.FirstOrDefault(x => x.Id == b.StationId) is { } stood
                    ? stood.Kind.ToString()
                : o.Station is { } kind && _f.Stations.Any(x => x.Kind == kind) ? kind.ToString()
                : null,
            At = t.PinnedAt?.ToString(),
            Hold =
                t.Hold is { } h && all.TryGetValue(h.Until, out var until) && !until.IsDone
                    ? new(h.Station.ToString(), h.Until.ToString())
                    : null,
            Uses = [.. t.Uses.Where(u => _things.Contains(u.Name)).Select(u => new PlanStock(u.Name, u.Count))],
            // Longer than any shift cannot go without a stop: then it is planned like other work.
            WithoutStop = o.WithoutStop && minutes <= _f.Calendar.LongestShift,
            ThroughBreak = true,
            Supplier = o.Kind == OperationKind.Outside && !sent ? t.SupplierId?.ToString() : null,
            Here = here && !sent,
            Batch = t.Batch.Length > 0 && o.Kind == OperationKind.Outside && !sent ? t.Batch : null,
            After = running
                ? []
                :
                [
                    .. o
                        .After.Where(a => all.ContainsKey(a.Operation))
                        .Select(a => Link(a, all[a.Operation], begun))
                        .OfType<PlanLink>(),
                    .. Owed(o, all),
                    .. orders.Where(x => x.For == o.Id).Select(x => new PlanLink(x.Order.Id, 0)),
                ],
            // What somebody is at has begun, whatever stood against it.
            Waits = running ? [] : [.. Waits(o, all, job)],
            Deadline = t.Deadline is { } d ? Midnight(d.PlusDays(1)) : null,
            Cost = trade is { } of ? Cost(of, minutes, with) : 0,
            Needs = [.. t.Needs.Select(Words)],
            Forbids = [.. t.Forbids.Select(Words)],
            Sets = t.Sets is { } sets ? Support(b.Id, sets) : null,
            LowersMm = t.LowersMm,
            // It comes out in a few minutes, and whoever begins is told: the plan takes it that it is out, and says so.
            Assumes = running
                ? []
                :
                [
                    .. Gatekeeper
                        .Stopping(o, _f.Metal.GetValueOrDefault(o.BuildId) ?? [])
                        .Select(m => $"if out by then: {m.What}"),
                ],
            Body =
                sent ? BodyUse.Beside
                : t.Sets is not null || t.LowersMm > 0 ? BodyUse.OnBody
                : t.Body,
        };
    }

    /// <summary>What should have come before work that somebody is at now comes before what follows that
    /// work.</summary>
    private List<PlanLink> Owed(Operation o, Dictionary<Guid, Operation> all)
    {
        var own = o.After.Select(a => a.Operation).ToHashSet();
        var owed = new List<PlanLink>();
        var running = new Queue<Guid>(o.After.Where(a => !a.FromStart).Select(a => a.Operation));
        while (running.TryDequeue(out var at))
        {
            foreach (var link in _f.Running.ContainsKey(at) && all.TryGetValue(at, out var begun) ? begun.After : [])
            {
                if (all.TryGetValue(link.Operation, out var before) && !before.IsDone && own.Add(before.Id))
                {
                    owed.Add(new(before.Id.ToString(), 0));
                    running.Enqueue(before.Id);
                }
            }
        }

        return owed;
    }

    /// <summary>Whoever is at it, else whoever worked on it last.</summary>
    private string? GoesOn(Operation o) =>
        _f.Running.TryGetValue(o.Id, out var now) && Has(now, o) ? now.ToString()
        : _f.LastPerson.TryGetValue(o.Id, out var last) && Has(last, o) ? last.ToString()
        : null;

    private bool Has(Guid person, Operation o) =>
        _f.People.Any(x => x.Id == person && o.Trade is { } t && x.Trades.Contains(t));

    /// <summary>What it comes to at the trades' rates, tax included, as cover is counted.</summary>
    private decimal Cost(Trade trade, int minutes, IReadOnlyList<OperationHands> with)
    {
        var perHour = _rates.GetValueOrDefault(trade) + with.Sum(w => w.Count * _rates.GetValueOrDefault(w.Trade));
        return Cents.Round(minutes * perHour / 60 * (1 + _f.Shop.TaxRates.GetValueOrDefault(TaxCategory.Labour) / 100));
    }

    /// <param name="begun">Whether hours were logged or a share was stated already: then it began in its windows, or
    /// what they ask for was seen to.</param>
    private static PlanLink? Link(OperationLink a, Operation before, bool begun)
    {
        var window = begun ? null : a.AtMostMinutes;
        if (before.DoneAt is { } at)
        {
            // A wait on the clock after what is done is a date; a window and a wait in working time are still to be
            // reckoned.
            var reckoned = window is not null || (a.Working && a.LagMinutes > 0);
            return reckoned
                ? new(before.Id.ToString(), a.Working ? a.LagMinutes : 0)
                {
                    Working = a.Working,
                    AtMost = window,
                    Lapse = Lapse(a),
                    DoneAt = Minute(at),
                }
                : null;
        }

        return new(before.Id.ToString(), a.LagMinutes)
        {
            FromStart = a.FromStart,
            Working = a.Working,
            AtMost = window,
            Lapse = Lapse(a),
        };
    }

    private static PlanLapse? Lapse(OperationLink a) =>
        a.Lapse is { } l ? new(l.Name, l.Minutes, l.Trade.ToString()) : null;

    private static long Minute(Instant at) => at.ToUnixTimeSeconds() / 60;

    private IEnumerable<PlanWait> Waits(Operation o, Dictionary<Guid, Operation> all, OutsideJob? job)
    {
        if ((o.Terms.PinnedOn ?? o.Terms.NotBefore) is { } day && day > Today)
        {
            yield return new(WaitKind.NotBefore, Midnight(day), $"not before {Day(day)}");
        }

        foreach (var link in o.After.Where(a => a is { LagMinutes: > 0, Working: false }))
        {
            if (all.TryGetValue(link.Operation, out var before) && before.DoneAt is { } done)
            {
                yield return new(
                    WaitKind.Cure,
                    Minute(done) + link.LagMinutes,
                    $"{before.Name} cures",
                    before.Id.ToString()
                );
            }
        }

        if (
            o.Kind == OperationKind.Cure
            && o.After.Select(a => all.GetValueOrDefault(a.Operation)).All(b => b?.DoneAt is not null)
            && o.After.Count > 0
        )
        {
            // It cures since its coat was done, not since now.
            yield return new(
                WaitKind.Cure,
                o.After.Max(a => Minute(all[a.Operation].DoneAt!.Value)),
                "cures",
                o.Id.ToString()
            );
        }

        if (job?.PromisedOn is not null)
        {
            var supplier = _suppliers[job.SupplierId];
            yield return new(WaitKind.Outside, HereAt(job), $"{job.Title} at {supplier.Name}", job.Id.ToString())
            {
                Supplier = supplier.Id.ToString(),
            };
        }

        foreach (var part in _parts[o.Id].Where(p => p.ExpectedOn is not null))
        {
            yield return new(WaitKind.Part, Midnight(part.ExpectedOn!.Value), part.Name, part.Id.ToString());
        }

        foreach (var danger in Gatekeeper.Holding(o, _f.Dangers.GetValueOrDefault(o.BuildId) ?? []))
        {
            // A day that has passed says nothing any more: it is not settled, and nobody knows until when.
            yield return new(
                WaitKind.Danger,
                danger.ExpectedOn >= Today ? Midnight(danger.ExpectedOn.Value.PlusDays(1)) : null,
                Gatekeeper.Unsettled(danger),
                danger.Id.ToString()
            );
        }

        foreach (var decision in _open.Where(d => d.Stops(o.Id)))
        {
            yield return new(
                WaitKind.Decision,
                Midnight(decision.DueOn.PlusDays(1)),
                decision.Question,
                decision.Id.ToString()
            );
        }
    }
}

/// <summary>What a reason points at, in the shop's own ids.</summary>
public static class ShopReference
{
    /// <summary>The operation behind what only the plan knows: the one that took a place, that sent a body away, that
    /// measures for an order.</summary>
    /// <param name="measured">The measuring operation by part.</param>
    public static string? Of(string? reference, IReadOnlyDictionary<Guid, Guid> measured)
    {
        if (
            reference is null
            || reference.IndexOf(' ', StringComparison.Ordinal) is not (> 0 and var at)
            || !Guid.TryParse(reference[(at + 1)..], out var id)
        )
        {
            return reference;
        }

        return measured.TryGetValue(id, out var measuring) ? measuring.ToString() : id.ToString();
    }
}
