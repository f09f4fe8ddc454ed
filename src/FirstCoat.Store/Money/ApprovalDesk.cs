using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Money;

/// <summary>What a client does behind a private link: reads papers, asks for a code at the known address, answers with
/// it.</summary>
public sealed class ApprovalDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PapersDesk papers,
    ClientLetters letters,
    ShopSecrets secrets
) : Desk(db, clock, current)
{
    private const string WrongCode = "This code does not fit. Look at the last letter from us, or ask for a new code.";

    /// <summary>The papers that went to the client, newest first; null when the link opens nothing.</summary>
    public async Task<List<ClientPaper>?> Behind(string token, CancellationToken cancel)
    {
        var link = await Link(token, cancel);
        return link is null
            ? null
            : await Db
                .Papers.AsNoTracking()
                .Where(p => p.BuildId == link.BuildId && p.SentAt != null && p.WithdrawnWhy == null)
                .OrderByDescending(p => p.Seq)
                .ToListAsync(cancel);
    }

    /// <summary>Sends a code for one paper to the client's known address.</summary>
    /// <returns>The address with its middle hidden; null when the link or the paper opens nothing.</returns>
    public async Task<string?> SendCode(string token, Guid paperId, CancellationToken cancel)
    {
        if (await Link(token, cancel) is not { } link || await Open(link, paperId, cancel) is not { } paper)
        {
            return null;
        }

        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        await Alone(paper, cancel);
        var build = await Build(link.BuildId, cancel);
        var client = await Find<Client>(build.ClientId, "client", cancel);
        Refusal.When(
            client.Email.Length == 0,
            "email",
            "We know no address of yours. Please sign on paper, or call us."
        );
        await StillGood(paper, cancel);
        await RefuseTooManyWrong(paper, cancel);
        var windowStart = Clock.Now - ApprovalCode.PerWindow;
        Refusal.When(
            await Db.ApprovalCodes.CountAsync(c => c.PaperId == paperId && c.SentAt > windowStart, cancel)
                >= ApprovalCode.PerPaper,
            "code",
            "Enough codes for now: use the last one, or wait an hour."
        );
        var code = ApprovalCode.New();
        Db.Add(
            new ApprovalCode
            {
                Id = Guid.CreateVersion7(),
                BuildId = build.Id,
                LinkId = link.Id,
                PaperId = paperId,
                CodeHash = ApprovalCode.Hash(code, paperId, token, secrets.Hashing),
                SentTo = client.Email,
                SentAt = Clock.Now,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Save(cancel);
        var shop = await Shop(cancel);
        await letters.Write(
            client,
            shop,
            $"Your code for {paper.Name.ToLowerInvariant()}",
            $"Code: {code}\n\nIt answers {paper.Name.ToLowerInvariant()} for your {build.Title}, once, within {ApprovalCode.Life.TotalMinutes:0} minutes. If you did not ask for it, do nothing.",
            cancel
        );
        await all.CommitAsync(cancel);
        return Hidden(client.Email);
    }

    /// <summary>Answers a paper with a code. A code that is wrong, late, used, or made for another link or paper does
    /// nothing, and all look alike.</summary>
    /// <returns>Null when the link or the paper opens nothing.</returns>
    public async Task<ClientPaper?> Answer(
        string token,
        Guid paperId,
        string code,
        bool yes,
        string name,
        List<string> choices,
        CancellationToken cancel
    )
    {
        if (await Link(token, cancel) is not { } link || await Open(link, paperId, cancel) is not { } paper)
        {
            return null;
        }

        Refusal.Text(name, "name", 100);
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        await Alone(paper, cancel);
        await StillGood(paper, cancel);
        await RefuseTooManyWrong(paper, cancel);
        var last = await Db
            .ApprovalCodes.Where(c => c.PaperId == paperId && c.LinkId == link.Id)
            .OrderByDescending(c => c.Seq)
            .FirstOrDefaultAsync(cancel);
        if (last?.Try(ApprovalCode.Hash(code.Trim(), paperId, token, secrets.Hashing), Clock.Now) != true)
        {
            await CountWrong(link, paper, cancel);
            await all.CommitAsync(cancel);
            throw new Refusal("code", WrongCode);
        }

        var answered = await papers.Answer(
            paperId,
            new(yes, name, Clock.Now, AnswerWay.Code, choices, $"code to {last.SentTo}"),
            cancel
        );
        await all.CommitAsync(cancel);
        return answered;
    }

    /// <summary>Codes and answers of one paper come one after another, however many are sent at once; what was read
    /// before is read again.</summary>
    private async Task Alone(ClientPaper paper, CancellationToken cancel)
    {
        await Db.Database.ExecuteSqlAsync($"select 1 from money_papers where id = {paper.Id} for update", cancel);
        await Db.Entry(paper).ReloadAsync(cancel);
    }

    private async Task<int> WrongLately(ClientPaper paper, CancellationToken cancel)
    {
        var since = Clock.Now - WrongAnswer.Window;
        return await Db.WrongAnswers.CountAsync(w => w.PaperId == paper.Id && w.RecordedAt > since, cancel);
    }

    private async Task RefuseTooManyWrong(ClientPaper paper, CancellationToken cancel) =>
        Refusal.When(
            await WrongLately(paper, cancel) >= WrongAnswer.Most,
            "code",
            "Too many codes that did not fit: this paper takes none until tomorrow. Please sign on paper, or call us."
        );

    /// <summary>Counts an answer that did not fit; when the day's measure is full the shop is told.</summary>
    private async Task CountWrong(PrivateLink link, ClientPaper paper, CancellationToken cancel)
    {
        Db.Add(
            new WrongAnswer
            {
                Id = Guid.CreateVersion7(),
                BuildId = paper.BuildId,
                PaperId = paper.Id,
                LinkId = link.Id,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Save(cancel);
        if (await WrongLately(paper, cancel) == WrongAnswer.Most)
        {
            Db.Add(
                new Decision
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = paper.BuildId,
                    Question = $"{WrongAnswer.Most} wrong codes for {paper.Name.ToLowerInvariant()} in a day",
                    Detail =
                        "Somebody who holds the private link keeps trying codes. The paper takes no code until tomorrow. Call the client; where it was not them, close the link on the build's Client page.",
                    For = DecisionFor.Manager,
                    Options = ["It was the client", "The link is closed"],
                    DueOn = await Today(cancel),
                    RecordedAt = Clock.Now,
                    RecordedBy = Actor.AccountId,
                }
            );
            await Save(cancel);
        }
    }

    private async Task<PrivateLink?> Link(string token, CancellationToken cancel)
    {
        var hash = PrivateLink.Hash(token);
        var link = await Db.PrivateLinks.AsNoTracking().SingleOrDefaultAsync(l => l.TokenHash == hash, cancel);
        return link?.IsLive(Clock.Now) == true ? link : null;
    }

    private Task<ClientPaper?> Open(PrivateLink link, Guid paper, CancellationToken cancel) =>
        Db.Papers.SingleOrDefaultAsync(
            p => p.Id == paper && p.BuildId == link.BuildId && p.SentAt != null && p.WithdrawnWhy == null,
            cancel
        );

    private async Task StillGood(ClientPaper paper, CancellationToken cancel)
    {
        Refusal.When(
            paper.Answer is not null,
            "id",
            paper.Answer is { } a ? $"{a.Name} has answered this already." : ""
        );
        Refusal.When(
            paper.Kind == PaperKind.Estimate && paper.Words.AnswerBy < await Today(cancel),
            "id",
            "This estimate was good until its date. Please ask us for a new one."
        );
    }

    private static string Hidden(string email)
    {
        var at = email.IndexOf('@', StringComparison.Ordinal);
        return at < 1 ? "your address" : $"{email[0]}…{email[at..]}";
    }
}
