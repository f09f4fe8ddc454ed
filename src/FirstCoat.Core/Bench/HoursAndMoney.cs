using System.Text.Json.Nodes;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using static FirstCoat.Core.Bench.BenchCalculations;

namespace FirstCoat.Core.Bench;

/// <summary>Hours, learning, money and options in the bench's form.</summary>
internal static class HoursAndMoney
{
    private static readonly Dictionary<string, MinuteRounding> Roundings = new()
    {
        ["none"] = MinuteRounding.None,
        ["nearest6"] = MinuteRounding.Nearest6,
        ["up15"] = MinuteRounding.Up15,
    };
    private static readonly Dictionary<string, LabourKind> Kinds = Enum.GetValues<LabourKind>()
        .ToDictionary(k => k.ToString().ToLowerInvariant());
    private static readonly Dictionary<string, Verdict> Verdicts = Enum.GetValues<Verdict>()
        .ToDictionary(k => k.ToString().ToLowerInvariant());
    private static readonly Dictionary<string, ContractKind> Contracts = new()
    {
        ["time-and-materials"] = ContractKind.TimeAndMaterials,
        ["fixed"] = ContractKind.Fixed,
        ["capped"] = ContractKind.Capped,
        ["progress"] = ContractKind.Progress,
    };
    private static readonly Dictionary<string, ChangeStatus> Statuses = Enum.GetValues<ChangeStatus>()
        .ToDictionary(k => k.ToString().ToLowerInvariant());

    public static IReadOnlyDictionary<string, Func<Question, JsonNode>> All { get; } =
        new Dictionary<string, Func<Question, JsonNode>>
        {
            ["labour.minutes"] = Minutes,
            ["labour.overlaps"] = Overlaps,
            ["labour.cost"] = Cost,
            ["progress.earnedValue"] = Earned,
            ["progress.planComplete"] = Complete,
            ["learning.trades"] = q => Learn(q, "trades", "trade", "estimate"),
            ["learning.foundWork"] = Found,
            ["learning.leadTimes"] = q => Learn(q, "suppliers", "supplier", "quoted"),
            ["learning.repeat"] = Repeat,
            ["money.statement"] = StatementOf,
            ["money.deposit"] = DepositOf,
            ["money.tooling"] = ToolingOf,
            ["money.storage"] = StorageOf,
            ["options.rank"] = Rank,
            ["options.breakEven"] = BreakEven,
            ["options.donors"] = Donors,
        };

    private static JsonObject Minutes(Question q)
    {
        var minutes = LabourMinutes.Between(q.Instant("start").ToInstant(), q.Instant("stop").ToInstant());
        return new()
        {
            ["minutes"] = minutes,
            ["rounded"] = LabourMinutes.Round(minutes, q.Choice("rounding", Roundings)),
        };
    }

    private static JsonObject StorageOf(Question q)
    {
        var charge = Storage.Of(q.Date("notice"), q.Date("until"), q.Whole("freeDays"), q.Decimal("perDay"));
        return new() { ["days"] = charge.Days, ["amount"] = Amount(charge.Amount) };
    }

    private static List<WorkedEntry> Entries(
        Question q,
        IReadOnlyDictionary<string, (decimal Cost, decimal Billing)>? people
    )
    {
        var entries = q.List("entries")
            .Select(e =>
            {
                var (start, person) = (e.Instant("start"), e.Text("person"));
                Refusal.When(
                    people is not null && !people.ContainsKey(person),
                    "person",
                    $"There is no rate for {person}."
                );
                var (cost, billing) = people?[person] ?? (0, 0);
                var stop = e.Instant("stop").ToInstant();
                LabourMinutes.CheckStretch(start.ToInstant(), stop);
                bool? billed = e.Has("billed") ? e.Flag("billed") : null;
                return new WorkedEntry(
                    e.Text("id"),
                    person,
                    start.ToInstant(),
                    stop,
                    start.Date,
                    e.Choice("kind", Kinds),
                    cost,
                    billing,
                    billed
                );
            })
            .ToList();
        Refusal.When(entries.GroupBy(e => e.Id).Any(g => g.Count() > 1), "id", "Two entries carry the same id.");
        return entries;
    }

    private static JsonObject Overlaps(Question q) =>
        new()
        {
            ["pairs"] = Array(LabourCost.Overlaps(Entries(q, null)), p => new JsonArray(p.First, p.Second, p.Minutes)),
        };

    private static JsonObject Cost(Question q)
    {
        var people = q.Members("people")
            .ToDictionary(
                p => p.Key,
                p =>
                {
                    var (cost, billing) = (p.Value.Decimal("costRate"), p.Value.Decimal("billRate"));
                    Refusal.When(cost < 0, "costRate", "A rate cannot be negative.");
                    Refusal.When(billing < 0, "billRate", "A rate cannot be negative.");
                    return (cost, billing);
                }
            );
        OvertimeRule? overtime = null;
        if (q.Has("overtime"))
        {
            var rule = q.Object("overtime");
            var (hours, multiplier) = (rule.Decimal("dailyHours"), rule.Decimal("multiplier"));
            Refusal.When(hours < 0 || hours * 60 % 1 != 0, "dailyHours", "Daily hours must come to whole minutes.");
            Refusal.When(multiplier < 1, "multiplier", "Overtime costs at least the normal rate.");
            overtime = new((int)(hours * 60), multiplier);
        }

        var result = LabourCost.Of(Entries(q, people), q.Choice("rounding", Roundings), q.Flag("roundPay"), overtime);
        return new()
        {
            ["lines"] = Array(result.Lines, l => new JsonObject
            {
                ["id"] = l.Id,
                ["paid"] = l.Paid,
                ["overtime"] = l.Overtime,
                ["billed"] = l.Billed,
                ["cost"] = Amount(l.Cost),
                ["billing"] = Amount(l.Billing),
            }),
            ["paid"] = result.Paid,
            ["overtime"] = result.Overtime,
            ["billed"] = result.Billed,
            ["cost"] = Amount(result.Cost),
            ["billing"] = Amount(result.Billing),
            ["margin"] = Amount(result.Margin),
            ["paidByKind"] = Map(result.PaidByKind, k => k.Key.ToString().ToLowerInvariant(), k => k.Value),
        };
    }

    private static JsonObject Earned(Question q)
    {
        var stages = q.List("stages")
            .Select(s => new StageValue(
                s.Text("name"),
                s.Number("bac"),
                s.Number("pv"),
                s.Number("ev"),
                s.Number("ac")
            ))
            .ToList();
        JsonObject Indices(EarnedIndices i) =>
            new()
            {
                ["cpi"] = i.Cpi,
                ["spi"] = i.Spi,
                ["eacByIndex"] = i.AtIndex,
                ["eacAtBudget"] = i.AtBudget,
            };
        var each = Array(stages, s =>
        {
            var o = Indices(EarnedValue.Of(s));
            o.Insert(0, "name", s.Name);
            return o;
        });
        var (sum, indices) = EarnedValue.Total(stages);
        var total = Indices(indices);
        foreach (
            var (name, value, at) in new[]
            {
                ("bac", sum.Budget, 0),
                ("pv", sum.Planned, 1),
                ("ev", sum.Earned, 2),
                ("ac", sum.Spent, 3),
            }
        )
        {
            total.Insert(at, name, value);
        }

        return new() { ["stages"] = each, ["total"] = total };
    }

    private static JsonObject Complete(Question q)
    {
        var items = q.List("items")
            .Select(i => new WeekItem(
                i.Text("id"),
                i.Flag("committed"),
                i.Has("doneOn") ? i.Date("doneOn") : null,
                i.TextOrNull("reason")
            ))
            .ToList();
        var week = PlanComplete.Of(q.Date("weekStart"), items);
        return new()
        {
            ["committed"] = week.Committed,
            ["done"] = week.Done,
            ["extra"] = week.Extra,
            ["percent"] = week.Percent,
            ["reasons"] = Array(week.Reasons, r => new JsonArray(r.Reason, r.Times)),
        };
    }

    private static JsonObject Learn(Question q, string names, string name, string estimate)
    {
        var records = q.List("records")
            .Select(r => (Name: r.Text(name), Actual: r.Number("actual"), Estimate: r.Number(estimate)))
            .ToList();
        _ = Learning.Bias(records.Select(r => (r.Actual, r.Estimate)), estimate);
        var all = q.List(names).Select(n => n.Json.ToString()).Concat(records.Select(r => r.Name)).Distinct();
        return Map(
            all,
            n => n,
            n =>
            {
                var l = Learning.Bias(records.Where(r => r.Name == n).Select(r => (r.Actual, r.Estimate)), estimate);
                return new JsonObject
                {
                    ["count"] = l.Count,
                    ["mean"] = l.Mean,
                    ["sd"] = l.Sd,
                    ["multiplier"] = l.Multiplier,
                    ["predictiveSd"] = l.PredictiveSd,
                    ["p50"] = l.P50,
                    ["p80"] = l.P80,
                    ["p90"] = l.P90,
                };
            }
        );
    }

    private static JsonObject Found(Question q)
    {
        var records = q.List("records")
            .Select(r => (Planned: r.Number("plannedH"), Found: r.Number("foundH")))
            .ToList();
        records.ForEach(r => FoundWork.Share(r.Planned, r.Found));
        return new() { ["share"] = FoundWork.Share(records.Sum(r => r.Planned), records.Sum(r => r.Found)) };
    }

    private static JsonObject Repeat(Question q)
    {
        var l = Learning.Repeat(q.List("pairs").Select(p => (p.Number("first"), p.Number("second"))).ToList());
        return new()
        {
            ["count"] = l.Count,
            ["mean"] = l.Mean,
            ["sd"] = l.Sd,
            ["factor"] = l.Multiplier,
            ["p80"] = l.P80,
        };
    }

    private static JsonObject StatementOf(Question q)
    {
        var s = Statement.Of(ReadStatement(q));
        return new()
        {
            ["lines"] = Array(s.Lines, l => new JsonObject
            {
                ["id"] = l.Id,
                ["net"] = Amount(l.Net),
                ["tax"] = Amount(l.Tax),
            }),
            ["notBilled"] = Array(s.NotBilled, n => new JsonArray(n.Id, n.Why)),
            ["net"] = Amount(s.Net),
            ["taxByCategory"] = Map(
                s.TaxByCategory.OrderBy(t => t.Key, StringComparer.Ordinal),
                t => t.Key,
                t => Amount(t.Value)
            ),
            ["tax"] = Amount(s.Tax),
            ["gross"] = Amount(s.Gross),
            ["retention"] = Amount(s.Retention),
            ["paid"] = Amount(s.Paid),
            ["balance"] = Amount(s.Balance),
            ["changesApproved"] = Amount(s.ChangesApproved),
            ["changesPending"] = Amount(s.ChangesPending),
            ["limit"] = s.Limit is { } limit ? Amount(limit) : null,
        };
    }

    private static Withdrawal Leaving(Question q)
    {
        var committed = q.List("committed")
            .Select(c => new CostItem(c.Text("id"), c.Decimal("amount"), null, c.TextOrNull("tax") ?? "parts"))
            .ToList();
        var fee = q.Has("fee") ? q.Object("fee") : (Question?)null;
        return new(committed, fee?.Decimal("amount") ?? 0, fee?.TextOrNull("tax") ?? "labour");
    }

    private static StatementInput ReadStatement(Question q)
    {
        var contract = q.Object("contract");
        var kind = contract.Choice("kind", Contracts);
        var retention = q.Has("retention") ? q.Object("retention") : (Question?)null;
        CostItem CostOf(Question c, string field, string category) =>
            new(c.Text("id"), c.Decimal(field), c.TextOrNull("changeOrder"), c.TextOrNull("tax") ?? category);
        var withdrawal = q.Has("withdrawal") ? q.Object("withdrawal") : (Question?)null;
        Question? consumables = q.Has("consumables") ? q.Object("consumables") : null;
        return new()
        {
            Contract = new(
                kind,
                contract.DecimalOrNull(kind == ContractKind.Capped ? "cap" : "price"),
                contract
                    .List("stages")
                    .Select(s => new ContractStage(
                        s.Has("name") ? s.Text("name") : s.Text("id"),
                        s.Decimal("share"),
                        s.Decimal("done", 0)
                    ))
                    .ToList(),
                withdrawal?.Decimal("done", 100) ?? 100,
                retention?.Decimal("percent", 0) ?? 0,
                retention?.Flag("released") ?? false
            ),
            ContractCategory = contract.TextOrNull("tax") ?? "labour",
            TaxRates = q.Members("taxRates").ToDictionary(t => t.Key, t => t.Value.AsDecimal()),
            PartTiers = q.Has("partTiers")
                ? q.List("partTiers").Select(t => new PartTier(t.DecimalOrNull("upTo"), t.Decimal("percent"))).ToList()
                : [new(null, 0)],
            OutsideMarkup = q.Decimal("outsideMarkup", 0),
            Labour = q.List("labour")
                .Select(l => new LabourItem(
                    l.Text("id"),
                    l.Whole("minutes"),
                    l.Decimal("rate"),
                    l.Has("kind") ? l.Choice("kind", Kinds) : LabourKind.Billable,
                    l.TextOrNull("changeOrder"),
                    l.TextOrNull("tax") ?? "labour"
                ))
                .ToList(),
            Parts = q.List("parts")
                .Select(p => new PartItem(
                    p.Text("id"),
                    p.Decimal("qty"),
                    p.Decimal("unitCost"),
                    p.Flag("clientSupplied"),
                    p.TextOrNull("changeOrder"),
                    p.TextOrNull("tax") ?? "parts"
                ))
                .ToList(),
            Outside = q.List("outside").Select(o => CostOf(o, "cost", "outside")).ToList(),
            ConsumablesPercent = consumables?.Decimal("percent"),
            ConsumablesCap = consumables?.DecimalOrNull("cap"),
            Changes = q.List("changeOrders")
                .Select(c => new ChangeItem(
                    c.Text("id"),
                    c.Decimal("amount"),
                    c.Choice("status", Statuses),
                    c.Decimal("done", 100),
                    c.TextOrNull("tax") ?? "labour"
                ))
                .ToList(),
            Withdrawal = withdrawal is { } leaving ? Leaving(leaving) : null,
            Payments = q.List("payments").Select(p => p.AsDecimal()).ToList(),
        };
    }

    private static JsonObject DepositOf(Question q)
    {
        List<DatedAmount> Moves(string field) =>
            q.List(field).Select(m => new DatedAmount(m.Date("date"), m.Decimal("amount"))).ToList();
        var cover = Deposit.Cover(q.Decimal("balance"), Moves("charges"), Moves("deposits"));
        return new()
        {
            ["alreadyOut"] = cover.AlreadyOut,
            ["runsOut"] = cover.RunsOut is { } day ? NodaTime.Text.LocalDatePattern.Iso.Format(day) : null,
            ["leftBefore"] = Amount(cover.LeftBefore),
            ["topUpNeeded"] = Amount(cover.TopUpNeeded),
            ["end"] = Amount(cover.End),
        };
    }

    private static JsonObject ToolingOf(Question q)
    {
        var (margin, sets) = Tooling.BreakEven(q.Decimal("tooling"), q.Decimal("price"), q.Decimal("unitCost"));
        return new() { ["margin"] = Amount(margin), ["sets"] = sets };
    }

    private static RepairOption Option(Question q) =>
        new(
            q.Text("id"),
            q.Choice("verdict", Verdicts),
            q.Decimal("hours"),
            q.Decimal("rate"),
            q.Decimal("material", 0),
            q.Decimal("part", 0),
            q.Decimal("freight", 0),
            q.Decimal("leadDays", 0),
            q.Decimal("delayPerDay", 0),
            q.Decimal("riskPercent", 0),
            q.TextOrNull("barred")
        );

    private static JsonObject Rank(Question q)
    {
        var options = q.List("options").Select(Option).ToList();
        var ranked = RepairOptions.Rank(options, q.Flag("structural"));
        return new()
        {
            ["totals"] = Map(options, o => o.Id, o => Amount(o.Total)),
            ["ranking"] = Array(ranked.Ranking, o => o.Id),
            ["barred"] = Map(ranked.Barred, b => b.Option.Id, b => b.Why),
        };
    }

    private static JsonObject BreakEven(Question q)
    {
        var (option, against) = (Option(q.Object("option")), Option(q.Object("against")));
        return new()
        {
            ["hours"] = (double?)RepairOptions.BreakEvenHours(option, against),
            ["against"] = Amount(against.Total),
        };
    }

    private static JsonObject Donors(Question q)
    {
        var bodies = q.Members("bodies");
        Refusal.When(bodies.Count != 2, "bodies", "Compare exactly two bodies.");
        var zones = bodies.SelectMany(b => b.Value.Members("zones").Select(z => z.Key)).Distinct().ToList();
        var totals = bodies
            .Select(b =>
            {
                var own = b.Value.Members("zones").ToDictionary(z => z.Key, z => z.Value);
                return RepairOptions.Total(
                    new(
                        b.Key,
                        b.Value.Decimal("purchase"),
                        b.Value.Decimal("freight"),
                        zones
                            .Select(z =>
                                own.TryGetValue(z, out var zone)
                                && zone.Json.ValueKind == System.Text.Json.JsonValueKind.Object
                                    ? new DonorZone(
                                        z,
                                        zone.Flag("structural"),
                                        zone.Has("options") ? zone.List("options").Select(Option).ToList() : null
                                    )
                                    : new DonorZone(z, false, null)
                            )
                            .ToList()
                    )
                );
            })
            .ToList();
        var (a, b) = (totals[0], totals[1]);
        var known = a.Total is not null && b.Total is not null;
        string? Cheaper(string zone) =>
            a.Choices.TryGetValue(zone, out var x) && b.Choices.TryGetValue(zone, out var y)
                ? Lower(x.Total, y.Total)
                : null;
        string Lower(decimal first, decimal second) =>
            first < second ? a.Name
            : second < first ? b.Name
            : "tie";
        return new()
        {
            ["totals"] = Map(totals, t => t.Name, t => t.Total is { } total ? Amount(total) : null),
            ["notKnown"] = Map(totals, t => t.Name, t => Array(t.NotKnown, n => n)),
            ["verdicts"] = Map(
                totals,
                t => t.Name,
                t => Map(t.Choices, c => c.Key, c => c.Value.Verdict.ToString().ToLowerInvariant())
            ),
            ["better"] = known ? Lower(a.Total!.Value, b.Total!.Value) : null,
            ["difference"] = known ? Amount(Math.Abs(a.Total!.Value - b.Total!.Value)) : null,
            ["zones"] = Array(zones, z => new JsonArray(z, Cheaper(z))),
        };
    }
}
