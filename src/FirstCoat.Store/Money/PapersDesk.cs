using System.Security.Cryptography;
using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Money;

/// <summary>A paper with what its silence costs.</summary>
/// <param name="Days">By how many days its wait moves the likely finish of the worst-hit build.</param>
/// <param name="PerWeek">What a week of waiting costs.</param>
public sealed record WaitingPaper(ClientPaper Paper, decimal Days, decimal PerWeek);

/// <summary>Commands of the money room for what the client must agree to: estimates and change orders.</summary>
public sealed class PapersDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanDesk plan,
    MoneyDesk money,
    SequenceDesk sequence,
    ClientLetters letters
) : Desk(db, clock, current)
{
    /// <summary>One number after another for a build's papers.</summary>
    private const long NumberTurn = 0x4643_5041_5045;

    /// <summary>Days within which an answer is asked for where nobody said otherwise.</summary>
    private const int UsualDays = 7;

    private static readonly EstimateTotals Nothing = new(0, 0, 0, 0);

    /// <summary>All papers of a build, oldest first.</summary>
    public async Task<List<WaitingPaper>> Look(Guid buildId, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        var papers = await Db
            .Papers.AsNoTracking()
            .Where(p => p.BuildId == buildId)
            .OrderBy(p => p.Seq)
            .ToListAsync(cancel);
        var advice = papers.Any(p => p.IsOpen && p.DecisionId is not null) ? await plan.Advise(cancel) : null;
        var (today, delay) = (await Today(cancel), (await Shop(cancel)).DelayPerDay);
        return papers
            .Select(p =>
                advice?.Decisions.FirstOrDefault(d => d.Decision.Id == p.DecisionId) is { } wait && p.IsOpen
                    ? new WaitingPaper(p, wait.Days ?? 0, wait.CostPerWeek(today, delay))
                    : new(p, 0, 0)
            )
            .ToList();
    }

    /// <summary>Starts an estimate with the shop's usual words; asked again with the same id it returns what is
    /// there.</summary>
    public async Task<ClientPaper> DraftEstimate(Guid buildId, Guid id, CancellationToken cancel)
    {
        if (await Again<ClientPaper>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        Refusal.When(
            build.AcceptedAt is not null,
            "id",
            "An estimate has been accepted already; what comes now is a change order."
        );
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        var before = await Numbered(buildId, PaperKind.Estimate, cancel);
        Refusal.When(before.Any(p => p.State == PaperState.Draft), "id", "There is a draft already: finish that one.");
        var words = before.LastOrDefault()?.Words
            ?? UsualWords.Estimate(build.Title, await Goods(build, cancel), await Shop(cancel));
        var paper = Make(
            build,
            id,
            PaperKind.Estimate,
            before,
            words with
            {
                AnswerBy = (await Today(cancel)).PlusDays(30),
            }
        );
        Db.Add(paper);
        await Save(cancel);
        await turn.CommitAsync(cancel);
        return paper;
    }

    /// <summary>Starts a change order that the client or the shop asks for; asked again with the same id it returns
    /// what is there.</summary>
    public async Task<ClientPaper> DraftChange(
        Guid buildId,
        Guid id,
        string title,
        string reason,
        CancellationToken cancel
    )
    {
        if (await Again<ClientPaper>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        Refusal.When(build.AcceptedAt is null, "id", "Nothing has been agreed yet: put it into the estimate.");
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        var paper = await NewChange(build, id, title, reason, cancel);
        await Save(cancel);
        await turn.CommitAsync(cancel);
        return paper;
    }

    /// <summary>Changes the words of a draft.</summary>
    public async Task<ClientPaper> Edit(Guid id, PaperWords words, uint? version, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        Expect(paper, version);
        var seen = await Db
            .Photos.Where(p => p.BuildId == paper.BuildId && p.ClientMaySee)
            .Select(p => p.Id)
            .ToListAsync(cancel);
        Refusal.When(words.Photos.Except(seen).Any(), "photos", "A photo that the client may not see cannot go out.");
        words.Check();
        paper.Edit(words with { Choices = await Priced(paper.BuildId, words.Choices, cancel) });
        await Save(cancel);
        return paper;
    }

    /// <summary>Adds a line to a change order that is a draft, changes one, or takes it out when it adds
    /// nothing.</summary>
    public async Task<ClientPaper> PutLine(Guid id, PaperLine line, uint? version, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        Expect(paper, version);
        var there = paper.Lines.FirstOrDefault(l => l.Id == line.Id);
        Refusal.When(
            there?.FindingId is not null,
            "id",
            "This line follows from its finding: change the verdict there."
        );
        Refusal.When(
            line.FindingId is not null || line.Parts.Count > 0,
            "findingId",
            "A finding comes in with its verdict."
        );
        var own = await sequence.Of(paper.BuildId, cancel);
        Refusal.When(
            line.Operations.Except(own.Select(o => o.Id)).Any(),
            "operations",
            "It can only hold operations of its own build."
        );
        paper.Put(await Priced(line, own, cancel));
        await HoldTracked(paper, cancel);
        await Save(cancel);
        return paper;
    }

    /// <summary>
    /// Puts what a finding's verdict adds into the open draft of a build whose estimate has been accepted, within the
    /// transaction of the caller; a line of the same finding becomes the new sum.
    /// </summary>
    internal async Task Propose(
        Build build,
        Finding finding,
        string place,
        VerdictWork work,
        IReadOnlyList<Guid> operations,
        IReadOnlyList<Guid> parts,
        CancellationToken cancel
    )
    {
        var open = await Db
            .Papers.Where(p =>
                p.BuildId == build.Id && p.Kind == PaperKind.ChangeOrder && p.Answer == null && p.WithdrawnWhy == null
            )
            .OrderBy(p => p.Seq)
            .ToListAsync(cancel);
        var mine = open.FirstOrDefault(p => p.Lines.Any(l => l.FindingId == finding.Id));
        Refusal.When(
            mine?.State == PaperState.Sent,
            "verdict",
            mine is null ? "" : $"{mine.Name} asks the client about this finding: take it back first."
        );
        if (mine is null && work.Adds == Nothing && operations.Count == 0)
        {
            return;
        }

        var paper = mine
            ?? open.FirstOrDefault(p => p.State == PaperState.Draft)
            ?? await NewChange(build, Guid.CreateVersion7(), "What came to light", "", cancel);
        var before = paper.Lines.FirstOrDefault(l => l.FindingId == finding.Id);
        // A client reads it: the shop's L and R are written out.
        place =
            place.StartsWith("L ", StringComparison.Ordinal) ? $"Left {place[2..]}"
            : place.StartsWith("R ", StringComparison.Ordinal) ? $"Right {place[2..]}"
            : place;
        var text = Words.Shortened($"{place}: {finding.Choice.ToString()!.ToLowerInvariant()}", 200);
        paper.Put(
            new(
                before?.Id ?? Guid.CreateVersion7(),
                finding.Id,
                text,
                (before?.Minutes ?? 0) + work.AddsMinutes,
                (before?.Adds ?? Nothing).Plus(work.Adds),
                [.. operations],
                [.. parts]
            )
        );
        var note =
            finding.Note.Length > 0
                ? $"{place}: {finding.Note}."
                : $"{place}: found on {(await Today(cancel)).ToString("d MMM", System.Globalization.CultureInfo.InvariantCulture)}.";
        var seen = finding.PhotoId is { } p && await Db.Photos.AnyAsync(x => x.Id == p && x.ClientMaySee, cancel);
        if (before is null)
        {
            var reason = $"{paper.Words.Reason} {note}".Trim();
            paper.Edit(
                paper.Words with
                {
                    Reason = reason.Length > 1000 ? paper.Words.Reason : reason,
                    Photos =
                        seen && paper.Words.Photos.Count < 12
                            ? [.. paper.Words.Photos.Union([finding.PhotoId!.Value])]
                            : paper.Words.Photos,
                }
            );
        }

        await HoldTracked(paper, cancel);
    }

    /// <summary>The page as the client will see it, or sees it.</summary>
    public async Task<PaperPage> Page(Guid id, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        if (paper.Page is { } stored)
        {
            return Read(stored);
        }

        var page = await Compose(paper, cancel);
        return page with { Seen = Print(page) };
    }

    /// <summary>Tells one page from another: the same as long as nothing that the client would read has
    /// changed.</summary>
    private static string Print(PaperPage page) =>
        Convert.ToHexStringLower(
            SHA256.HashData(
                JsonSerializer.SerializeToUtf8Bytes(page with { Seen = null, From = "" }, StoreJson.Options)
            )
        )[..16];

    /// <summary>Reads a stored page.</summary>
    public static PaperPage Read(string stored) => JsonSerializer.Deserialize<PaperPage>(stored, StoreJson.Options)!;

    /// <summary>Freezes the page and asks the client: by a letter with a new private link to the known address, or on
    /// paper that is handed over. An earlier estimate that is still out is taken back.</summary>
    /// <param name="seen">The page that was looked at; null: whoever calls has just composed it.</param>
    /// <exception cref="StaleVersion">It is another page by now.</exception>
    public async Task<ClientPaper> Send(Guid id, string? seen, SentWay way, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        Refusal.When(paper.State != PaperState.Draft, "id", $"{paper.Name} has gone to the client already.");
        var build = await Build(paper.BuildId, cancel);
        var (client, shop) = (await Find<Client>(build.ClientId, "client", cancel), await Shop(cancel));
        Refusal.When(
            paper.Words.AnswerBy < await Today(cancel),
            "answerBy",
            "The day by which the answer is needed has passed."
        );
        Refusal.When(
            way == SentWay.Letter && client.Email.Length == 0,
            "email",
            $"We know no e-mail address of {client.Name}: enter one, or print the page and hand it over."
        );
        var words = paper.Words with { Choices = await Priced(build.Id, paper.Words.Choices, cancel) };
        var page = await Compose(paper, cancel);
        if (seen is not null && seen != Print(page))
        {
            throw new StaleVersion();
        }

        paper.Send(JsonSerializer.Serialize(page, StoreJson.Options), words, way, Actor.Name, Clock.Now);
        foreach (
            var older in await Db
                .Papers.Where(p =>
                    p.BuildId == build.Id
                    && p.Id != id
                    && p.Kind == PaperKind.Estimate
                    && paper.Kind == PaperKind.Estimate
                    && p.SentAt != null
                    && p.Answer == null
                    && p.WithdrawnWhy == null
                )
                .ToListAsync(cancel)
        )
        {
            older.Withdraw($"{paper.Name} took its place");
        }

        await HoldTracked(paper, cancel);
        // A letter that cannot be written leaves the paper a draft.
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        await Save(cancel);
        if (way == SentWay.Letter)
        {
            var what =
                paper.Kind == PaperKind.Estimate
                    ? $"here is our estimate for your {build.Title}: {paper.Words.Title}."
                    : $"on your {build.Title} something has changed, and we need your answer before we go on: {paper.Words.Title}.";
            await letters.WriteWithLink(
                build,
                client,
                shop,
                $"{paper.Name} for your {build.Title}",
                what,
                $"/papers/{paper.Id}",
                $"Please answer by {paper.Words.AnswerBy:d MMMM yyyy}.",
                cancel
            );
            await Save(cancel);
        }

        await all.CommitAsync(cancel);
        return paper;
    }

    /// <summary>Notes an answer that came on paper.</summary>
    public Task<ClientPaper> AnswerOnPaper(
        Guid id,
        bool yes,
        string name,
        List<string> choices,
        string note,
        CancellationToken cancel
    ) => Answer(id, new(yes, name, Clock.Now, AnswerWay.Paper, choices, Refusal.Text(note, "note", 200)), cancel);

    /// <summary>Notes the client's answer and does what follows from it, all or nothing.</summary>
    internal async Task<ClientPaper> Answer(Guid id, PaperAnswer answer, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        var build = await Build(paper.BuildId, cancel);
        paper.Take(answer);
        if (paper.Kind == PaperKind.Estimate && answer.Yes)
        {
            build.Accept(Agreed(paper), answer.At);
        }
        else if (answer.Yes)
        {
            build.Estimate = build.Estimate.Plus(paper.Adds);
        }
        else
        {
            await TakeOut(paper, "declined by the client", cancel);
        }

        await SettleTracked(paper, answer.Yes ? "Approved" : "Declined", answer.Name, cancel);
        await using var all = await Whole(cancel);
        await Save(cancel);
        if (answer.Yes)
        {
            await Bring(paper, cancel);
        }

        if (answer.Yes)
        {
            await plan.KeepBaseline(build.Id, $"{paper.Name} accepted", cancel);
        }

        await all.Commit(cancel);
        return paper;
    }

    /// <summary>Takes a paper back; what nobody has begun of a change order goes out of the sequence.</summary>
    public async Task<ClientPaper> Withdraw(Guid id, string why, CancellationToken cancel)
    {
        var paper = await Find<ClientPaper>(id, "paper", cancel);
        paper.Withdraw(why);
        await TakeOut(paper, $"{paper.Name.ToLowerInvariant()} was taken back", cancel);
        await SettleTracked(paper, "Taken back", Actor.Name, cancel);
        await Save(cancel);
        return paper;
    }

    /// <summary>What was agreed to becomes work: its operations and parts come into the sequence, what it takes out
    /// goes.</summary>
    private async Task Bring(ClientPaper paper, CancellationToken cancel)
    {
        var brings = paper
            .Taken.Select(c => (c.Text, c.Work, Line: (PaperLine?)null))
            .Concat(paper.Lines.Select(l => (l.Text, l.Work, Line: (PaperLine?)l)))
            .Where(b => b.Work is not null)
            .ToList();
        foreach (var (text, work, line) in brings)
        {
            var made = WorkOfChange.Into(
                await sequence.Of(paper.BuildId, cancel),
                paper.BuildId,
                text,
                work!,
                Guid.CreateVersion7
            );
            Db.AddRange(made);
            if (work!.Parts > 0)
            {
                var part = new PartLine
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = paper.BuildId,
                    Name = Words.Shortened(text, 200),
                    UnitPrice = work.Parts,
                    OperationId = made.FirstOrDefault(o => o.Kind == OperationKind.Work)?.Id,
                    RecordedAt = Clock.Now,
                    RecordedBy = Actor.AccountId,
                };
                Db.Add(part);
                line?.Parts.Add(part.Id);
            }

            line?.Operations.AddRange(made.Select(o => o.Id));
            await Save(cancel);
            await sequence.TakeOutNotBegun(work.Leaves, cancel);
            await Save(cancel);
        }

        if (brings.Exists(b => b.Line is not null))
        {
            Db.Entry(paper).Property(p => p.Lines).IsModified = true;
            await Save(cancel);
        }
    }

    /// <summary>Choices with what they add and by how many days they move the planned finish, by the sequence as it
    /// stands.</summary>
    private async Task<List<PaperChoice>> Priced(Guid buildId, List<PaperChoice> choices, CancellationToken cancel)
    {
        if (choices.TrueForAll(c => c.Work is null))
        {
            return choices;
        }

        var (own, rates, shop) = (await sequence.Of(buildId, cancel), await Rates(cancel), await Shop(cancel));
        var priced = new List<PaperChoice>();
        foreach (var c in choices)
        {
            if (c.Work is not { } work)
            {
                priced.Add(c);
                continue;
            }

            await CheckLeaves(work.Leaves, own, cancel);
            var adds = work.Price(rates, shop.ConsumablesPercent, own.Where(o => work.Leaves.Contains(o.Id)));
            var days = await plan.DaysWith(buildId, ops => Changed(ops, buildId, c.Text, work), cancel);
            // More work is never sooner, less never later, however the plan turns.
            var shown =
                days is not { } d ? (decimal?)null
                : work.Leaves.Count == 0 ? Math.Max(0, d)
                : work.HasWork() || work.OutsideDays > 0 ? d
                : Math.Min(0, d);
            priced.Add(
                c with
                {
                    Adds = adds.Total,
                    ByKind = adds,
                    Days = shown is { } by ? (int)Math.Round(by, MidpointRounding.AwayFromZero) : null,
                }
            );
        }

        return priced;
    }

    /// <summary>A line with its hours and money: of the operations that wait for it where it names some, else of the
    /// hours entered.</summary>
    private async Task<PaperLine> Priced(PaperLine line, List<Operation> own, CancellationToken cancel)
    {
        var work = line.Work ?? new(0, null, null, 0, 0, 0, 0, []);
        work.Check();
        await CheckLeaves(work.Leaves, own, cancel);
        var (rates, shop) = (await Rates(cancel), await Shop(cancel));
        var waits = own.Where(o => line.Operations.Contains(o.Id)).ToList();
        Refusal.When(
            waits.Count > 0 && work.HasWork(),
            "minutes",
            "The hours are those of the work that waits for the answer; leave the hours empty."
        );
        Refusal.When(
            waits.Exists(o => work.Leaves.Contains(o.Id)),
            "leaves",
            "What waits for the answer is not taken out by it."
        );
        var left = own.Where(o => work.Leaves.Contains(o.Id)).ToList();
        var adds = work.Price(rates, shop.ConsumablesPercent, left);
        var labour = waits.Sum(o => AddedWork.Hours(o.BudgetMinutes, o.Trade, rates));
        return line with
        {
            Minutes = work.Minutes + waits.Sum(o => o.BudgetMinutes) - left.Sum(o => o.BudgetMinutes),
            Adds = adds.Plus(new(labour, 0, 0, Cents.Round(labour * shop.ConsumablesPercent / 100))),
            Work = work.IsNothing() ? null : work,
        };
    }

    private async Task CheckLeaves(List<Guid> leaves, List<Operation> own, CancellationToken cancel)
    {
        Refusal.When(
            leaves.Exists(l => own.TrueForAll(o => o.Id != l)),
            "leaves",
            "It can only take out operations of its own build."
        );
        var begun = leaves.Except(await sequence.NotBegun(leaves, cancel)).ToList();
        Refusal.When(
            begun.Count > 0,
            "leaves",
            $"{own.Find(o => begun.Contains(o.Id))?.Name} has been begun and stays."
        );
        Refusal.When(
            own.Exists(o => leaves.Contains(o.Id) && o.IsForGood),
            "leaves",
            "A check that has no override stays in the sequence."
        );
    }

    private async Task<IReadOnlyDictionary<Trade, decimal>> Rates(CancellationToken cancel) =>
        TradeRates.On(await Today(cancel), await Db.People.AsNoTracking().ToListAsync(cancel));

    /// <summary>The sequence as it would be with added work in it, for the plan alone.</summary>
    private static List<Operation> Changed(List<Operation> operations, Guid build, string name, AddedWork work)
    {
        var left = operations.Where(o => !work.Leaves.Contains(o.Id)).ToList();
        foreach (var gone in operations.Where(o => work.Leaves.Contains(o.Id)))
        {
            foreach (var next in left.Where(o => o.After.Any(a => a.Operation == gone.Id)))
            {
                next.After =
                [
                    .. next
                        .After.Where(a => a.Operation != gone.Id)
                        .Concat(gone.After.Where(a => !work.Leaves.Contains(a.Operation)))
                        .DistinctBy(a => a.Operation),
                ];
            }
        }

        return [.. left, .. WorkOfChange.Into(left, build, name, work, Guid.CreateVersion7)];
    }

    /// <summary>What the client agreed to, by kind of cost: as the page says, with what was chosen.</summary>
    private static EstimateTotals Agreed(ClientPaper paper)
    {
        var page = Read(paper.Page!);
        var figures = page.Figures!;
        decimal Of(CostKind kind) => figures.Goods.Where(g => g.Kind == kind).Sum(g => g.Likely);
        var work = new EstimateTotals(
            figures.Rows.Sum(r => r.Likely) + figures.Done,
            Of(CostKind.Parts),
            Of(CostKind.Outside),
            Of(CostKind.Materials)
        );
        return paper.Taken.Aggregate(work.ScaledTo(page.Totals.Net), (sum, c) => sum.Plus(c.Totals()));
    }

    private async Task<List<ClientPaper>> Numbered(Guid buildId, PaperKind kind, CancellationToken cancel)
    {
        await Turn(NumberTurn, cancel);
        return await Db
            .Papers.Where(p => p.BuildId == buildId && p.Kind == kind)
            .OrderBy(p => p.Number)
            .ToListAsync(cancel);
    }

    private ClientPaper Make(Build build, Guid id, PaperKind kind, List<ClientPaper> before, PaperWords words)
    {
        words.Check();
        return new()
        {
            Id = id,
            BuildId = build.Id,
            Kind = kind,
            Number = before.Count + 1,
            Words = words,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
    }

    private async Task<ClientPaper> NewChange(
        Build build,
        Guid id,
        string title,
        string reason,
        CancellationToken cancel
    )
    {
        var before = await Numbered(build.Id, PaperKind.ChangeOrder, cancel);
        var paper = Make(
            build,
            id,
            PaperKind.ChangeOrder,
            before,
            new(
                Refusal.Text(title, "title", 120),
                reason.Trim(),
                [],
                [],
                [],
                [],
                [],
                (await Today(cancel)).PlusDays(UsualDays),
                null
            )
        );
        Db.Add(paper);
        return paper;
    }

    /// <summary>The open question that holds a change order's operations: the manager's until it is sent, then the
    /// client's.</summary>
    private async Task HoldTracked(ClientPaper paper, CancellationToken cancel)
    {
        if (paper.Kind != PaperKind.ChangeOrder)
        {
            return;
        }

        var decision = paper.DecisionId is { } known ? await Db.Decisions.FindAsync([known], cancel) : null;
        if (decision is null)
        {
            decision = new()
            {
                Id = Guid.CreateVersion7(),
                BuildId = paper.BuildId,
                Question = paper.Name,
                PaperId = paper.Id,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            paper.DecisionId = decision.Id;
            Db.Add(decision);
        }

        var sent = paper.State == PaperState.Sent;
        var question = sent
            ? $"{paper.Words.Title} ({paper.Name.ToLowerInvariant()})"
            : $"{paper.Name} is not sent yet: {paper.Words.Title}";
        decision.Question = Words.Shortened(question, 200);
        (decision.Detail, decision.For, decision.DueOn) = (
            paper.Words.Reason,
            sent ? DecisionFor.Client : DecisionFor.Manager,
            paper.Words.AnswerBy
        );
        (decision.Adds, decision.Holds, decision.PhotoId) = (
            paper.Adds.Total,
            paper.Operations.Distinct().ToList(),
            paper.Words.Photos.Select(p => (Guid?)p).FirstOrDefault()
        );
    }

    private async Task SettleTracked(ClientPaper paper, string answer, string by, CancellationToken cancel)
    {
        if (paper.DecisionId is { } id && await Db.Decisions.FindAsync([id], cancel) is { IsOpen: true } decision)
        {
            decision.Settle(answer, by, Clock.Now);
        }
    }

    /// <summary>Takes what came in with a change order out again where nobody has begun; its findings say why they
    /// stand unmended.</summary>
    private async Task TakeOut(ClientPaper paper, string why, CancellationToken cancel)
    {
        foreach (var line in paper.Lines.Where(l => l.FindingId is not null))
        {
            var booked = await Db
                .TimeEntries.Where(e => line.Operations.Contains(e.OperationId) && e.ReplacedBy == null && !e.Void)
                .Select(e => e.OperationId)
                .Distinct()
                .ToListAsync(cancel);
            var open = await Db
                .Operations.Where(o => line.Operations.Contains(o.Id) && o.DoneAt == null && !booked.Contains(o.Id))
                .Select(o => o.Id)
                .ToListAsync(cancel);
            var found = await Db.Findings.FindAsync([line.FindingId!.Value], cancel);
            if (found is { Structural: true } && paper.Answer is { Yes: false })
            {
                await HoldWhatRestsOn(paper, found, open, cancel);
            }

            // What was agreed before stands again: also what it allowed for the place.
            await sequence.TakeOut(
                paper.BuildId,
                line.FindingId!.Value,
                open,
                putBack: open.Count == line.Operations.Count,
                cancel
            );

            var parts = await Db
                .Parts.Where(p => line.Parts.Contains(p.Id) && p.State == PartState.Needed)
                .ToListAsync(cancel);
            Db.Parts.RemoveRange(parts);
            found?.NotDone(why, open, parts.Select(p => p.Id).ToList());
        }
    }

    /// <summary>A client's no to a structural repair is taken, and what would rest on it waits for the manager: it is
    /// not built over.</summary>
    private async Task HoldWhatRestsOn(ClientPaper paper, Finding finding, List<Guid> repairs, CancellationToken cancel)
    {
        var build = await Build(paper.BuildId, cancel);
        var place = SurveyPlaces.Of(build.Vehicle, []).FirstOrDefault(p => p.Key == finding.Place)?.Name
            ?? finding.Place;
        var rests = (await sequence.Of(build.Id, cancel))
            .Where(o => !o.IsDone && !repairs.Contains(o.Id) && o.After.Any(a => repairs.Contains(a.Operation)))
            .Select(o => o.Id)
            .ToList();
        Db.Add(
            new Decision
            {
                Id = Guid.CreateVersion7(),
                BuildId = build.Id,
                Question = Words.Shortened($"The client said no to a structural repair: {place}", 200),
                Detail =
                    "What rests on it waits. Talk with the client and with whoever inspects vehicles where you are before it is built over; what is decided stands on the report.",
                For = DecisionFor.Manager,
                Options = ["It is repaired after all", "Work on the rest goes on", "The build ends here"],
                Holds = rests,
                DueOn = (await Today(cancel)).PlusDays(UsualDays),
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
    }

    private async Task<List<PaperGoods>> Goods(Build build, CancellationToken cancel)
    {
        var facts = await Db.BillFactsOf(build, await Shop(cancel), await Today(cancel), cancel);
        var known = (await money.Outlook(facts, [], cancel)).Work;
        return UsualWords.Goods(
            build.Estimate,
            new(0, known.Of(CostKind.Parts), known.Of(CostKind.Outside), known.Of(CostKind.Materials)),
            EstimateScope.Of(facts)
        );
    }

    private async Task<PaperPage> Compose(ClientPaper paper, CancellationToken cancel)
    {
        var (build, shop) = (await Build(paper.BuildId, cancel), await Shop(cancel));
        var client = await Find<Client>(build.ClientId, "client", cancel);
        var w = paper.Words;
        var photos = await Db
            .Photos.AsNoTracking()
            .Where(p => w.Photos.Contains(p.Id) && p.ClientMaySee)
            .ToListAsync(cancel);
        var facts = await Db.BillFactsOf(build, shop, await Today(cancel), cancel);
        var agreement = facts.Agreement;
        var likely = await plan.Likely(build.Id, cancel);
        PaperFigures? figures = null;
        decimal? days = null;
        PaperTotals totals;
        var notIncluded = w.NotIncluded;
        var findings = new Dictionary<Guid, int>();
        if (paper.Kind == PaperKind.Estimate)
        {
            var scope = EstimateScope.Of(facts);
            var outlook = await money.Outlook(facts, scope.Told(w.Goods), cancel);
            var f = outlook.Work;
            var most = agreement.Limit ?? decimal.MaxValue;
            figures = new(f.Rows, f.Goods, Math.Min(f.Low, most), Math.Min(f.High, most), f.Hours)
            {
                Done = f.Done,
                DoneHours = f.DoneHours,
                Work = f.Likely,
                Above = Math.Max(0, f.Likely - most),
            };
            totals = PaperTotals.Of(outlook.AtEnd, shop);
            notIncluded = [.. scope.NotIncluded(w.Goods), .. w.NotIncluded];
        }
        else
        {
            days = await DaysOf(paper, cancel);
            var ids = paper.Lines.Select(l => l.FindingId).OfType<Guid>().ToList();
            findings = await Db
                .Findings.AsNoTracking()
                .Where(f => ids.Contains(f.Id))
                .ToDictionaryAsync(f => f.Id, f => f.Number, cancel);
            totals = PaperTotals.Of(
                agreement.Kind is ContractKind.Fixed or ContractKind.Progress
                    ? new(paper.Adds.Total, 0, 0, 0)
                    : paper.Adds,
                shop
            );
        }

        var before = paper.Kind == PaperKind.ChangeOrder ? agreement : null;
        return new(
            paper.Id,
            paper.Kind,
            paper.Number,
            shop.Name,
            shop.Place,
            shop.Phone,
            shop.Currency,
            Actor.Name,
            client.Name,
            await Today(cancel),
            w.AnswerBy,
            build.Number,
            build.Title,
            build.Vehicle.ColourHex,
            w.Title,
            w.Reason,
            figures,
            paper
                .Lines.Select(l => new PaperPageLine(
                    l.Text,
                    l.FindingId is { } f && findings.TryGetValue(f, out var n) ? n : null,
                    l.Minutes,
                    l.Adds.Labour,
                    l.Adds.Total - l.Adds.Labour,
                    l.Adds.Total
                ))
                .ToList(),
            totals,
            before?.Net,
            likely,
            days,
            w.Deposit,
            notIncluded,
            (await Priced(build.Id, w.Choices, cancel))
                .Select(c => new PaperPageChoice(c.Letter, c.Text, c.Adds, c.Days))
                .ToList(),
            w.Terms,
            w.Photos.Select(id => photos.SingleOrDefault(p => p.Id == id))
                .OfType<Core.Photos.Photo>()
                .Select(PagePhoto.Of)
                .ToList()
        )
        {
            InTenBy = await plan.InTenBy(build.Id, cancel),
            Price = new(
                build.Contract.Kind,
                before is { Kind: ContractKind.Capped } ? before.Limit : build.Contract.Price,
                (build.Contract.Stages ?? []).Select(s => new PaperStage(s.Name, s.SharePercent)).ToList(),
                build.Contract.RetentionPercent
            )
            {
                CapAfter = before is { Kind: ContractKind.Capped } ? before.LimitWith(totals.Net) : null,
            },
        };
    }

    /// <summary>By how many days a change order moves the planned finish: with what waits for it, and what it
    /// brings.</summary>
    private async Task<decimal> DaysOf(ClientPaper paper, CancellationToken cancel)
    {
        var waits = await plan.DaysOf(paper.BuildId, paper.Operations.ToHashSet(), paper.DecisionId, cancel);
        var brings = paper.Lines.Where(l => l.Work is not null).ToList();
        var adds = paper.Lines.TrueForAll(l => l.Minutes >= 0 && l.Work?.Leaves.Count is null or 0);
        var moved =
            brings.Count == 0
                ? waits
                : waits
                    + await plan.DaysWith(
                        paper.BuildId,
                        ops => brings.Aggregate(ops, (all, l) => Changed(all, paper.BuildId, l.Text, l.Work!)),
                        cancel
                    )
                    ?? 0;
        return adds ? Math.Max(0, moved) : moved;
    }
}
