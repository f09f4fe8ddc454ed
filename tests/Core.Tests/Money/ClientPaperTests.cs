using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using NodaTime;

namespace FirstCoat.Core.Tests.Money;

/// <summary>Estimates and change orders: what stands still once it is sent, who answers, how often.</summary>
public sealed class ClientPaperTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 3, 2, 9, 0);

    private static PaperWords Words(string title = "Floor", string reason = "Found under the seal") =>
        new(title, reason, [], [], [new("A", "Bare first", 100, 5)], [], [], new(2026, 3, 9), null);

    private static ClientPaper Paper(PaperKind kind = PaperKind.ChangeOrder) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            Kind = kind,
            Number = 2,
            Words = Words(),
        };

    private static PaperLine Line(Guid? id = null, decimal labour = 840, params Guid[] operations) =>
        new(id ?? Guid.CreateVersion7(), null, "New pan", 840, new(labour, 145, 0, 32), [.. operations], []);

    private static void Sent(ClientPaper paper) => paper.Send("{}", paper.Words, SentWay.Letter, "Sunniva", Now);

    private static PaperAnswer Yes(params string[] choices) =>
        new(true, "Ottilie Brandvold", Now, AnswerWay.Code, [.. choices], "");

    [Fact]
    public void What_was_sent_stands_still_and_is_answered_once()
    {
        var paper = Paper();
        paper.Put(Line());
        Sent(paper);
        paper.State.ShouldBe(PaperState.Sent);
        paper.Change.ShouldBe(ChangeStatus.Pending);
        Should.Throw<Refusal>(() => paper.Edit(Words("Another"))).Message.ShouldContain("has gone to the client");
        Should.Throw<Refusal>(() => paper.Put(Line()));
        Should.Throw<Refusal>(() => Sent(paper));
        Should.Throw<Refusal>(() => paper.Take(Yes("C"))).Field.ShouldBe("choices");
        paper.Take(Yes("A"));
        paper.Change.ShouldBe(ChangeStatus.Approved);
        Should
            .Throw<Refusal>(() => paper.Take(Yes() with { Yes = false }))
            .Message.ShouldContain("Ottilie Brandvold has answered");
        Should.Throw<Refusal>(() => paper.Withdraw("no"));
    }

    [Fact]
    public void A_line_is_replaced_by_its_id_and_one_of_nothing_goes_out()
    {
        var paper = Paper();
        var (id, work) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        paper.Put(Line(id, 840, work));
        paper.Put(Line(labour: 60));
        paper.Adds.ShouldBe(new EstimateTotals(900, 290, 0, 64));
        paper.Operations.ShouldBe([work]);
        paper.Put(new(id, null, "New pan", 0, new(0, 0, 0, 0), [], []));
        paper.Adds.Total.ShouldBe(237m);
        Should.Throw<Refusal>(() => paper.Put(Line(labour: 0.005m))).Field.ShouldBe("adds");
    }

    [Fact]
    public void A_change_order_needs_a_reason_and_a_line_and_an_estimate_takes_its_lines_from_the_sequence()
    {
        Should.Throw<Refusal>(() => Sent(Paper())).Field.ShouldBe("lines");
        var paper = Paper();
        paper.Put(Line());
        paper.Edit(Words(reason: " "));
        Should.Throw<Refusal>(() => Sent(paper)).Field.ShouldBe("reason");
        Should.Throw<Refusal>(() => Paper(PaperKind.Estimate).Put(Line()));
        Should.Throw<Refusal>(() => Paper().Take(Yes())).Message.ShouldContain("is not with the client");
    }

    [Fact]
    public void A_withdrawn_paper_is_no_longer_asked()
    {
        var paper = Paper();
        paper.Put(Line());
        Sent(paper);
        paper.Withdraw("priced anew");
        (paper.State, paper.Change).ShouldBe((PaperState.Withdrawn, ChangeStatus.Declined));
        Should.Throw<Refusal>(() => paper.Take(Yes()));
    }

    [Theory]
    [InlineData("title")]
    [InlineData("choices")]
    [InlineData("deposit")]
    [InlineData("answerBy")]
    public void Words_that_cannot_be_name_their_field(string field)
    {
        var words = field switch
        {
            "title" => Words(" "),
            "choices" => Words() with { Choices = [new("A", "One", 1, 0), new("A", "Two", 1, 0)] },
            "deposit" => Words() with { Deposit = 0.005m },
            _ => Words() with { AnswerBy = new(1066, 10, 14) },
        };
        Should.Throw<Refusal>(words.Check).Field.ShouldBe(field);
    }

    private static readonly byte[] Secret = [.. Enumerable.Range(1, 32).Select(i => (byte)i)];

    private static ApprovalCode Code(string code, Guid paper, string token) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            LinkId = Guid.Empty,
            PaperId = paper,
            CodeHash = ApprovalCode.Hash(code, paper, token, Secret),
            SentTo = "o@example.org",
            SentAt = Now,
        };

    [Fact]
    public void A_code_works_once_for_its_paper_and_link_and_not_after_its_time()
    {
        var (paper, other) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        Code("012345", paper, "t").Try(ApprovalCode.Hash("012345", other, "t", Secret), Now).ShouldBeFalse();
        Code("012345", paper, "t").Try(ApprovalCode.Hash("012345", paper, "u", Secret), Now).ShouldBeFalse();
        Code("012345", paper, "t")
            .Try(ApprovalCode.Hash("012345", paper, "t", Secret), Now + ApprovalCode.Life)
            .ShouldBeFalse("it is late");
        Code("012345", paper, "t")
            .Try(ApprovalCode.Hash("012345", paper, "t", [.. Secret.Reverse()]), Now)
            .ShouldBeFalse("another server's secret");
        var code = Code("012345", paper, "t");
        code.Try(ApprovalCode.Hash("012345", paper, "t", Secret), Now + ApprovalCode.Life - Duration.FromSeconds(1))
            .ShouldBeTrue();
        code.Try(ApprovalCode.Hash("012345", paper, "t", Secret), Now).ShouldBeFalse("it is used");
        ApprovalCode.New().ShouldMatch("^[0-9]{6}$");
    }

    [Fact]
    public void Five_wrong_tries_end_a_code()
    {
        var code = Code("012345", Guid.Empty, "t");
        for (var i = 0; i < ApprovalCode.Tries; i++)
        {
            code.Try(ApprovalCode.Hash("999999", Guid.Empty, "t", Secret), Now).ShouldBeFalse();
        }

        code.Try(ApprovalCode.Hash("012345", Guid.Empty, "t", Secret), Now).ShouldBeFalse();
    }

    [Fact]
    public void Goods_start_from_the_larger_of_what_was_thought_and_what_is_priced()
    {
        var rows = UsualWords.Goods(
            new(1000, 500, 0, 100),
            new(0, 620, 0, 130),
            new EstimateScope("3 of 5 priced", "no quote yet", [], [], [], 620, 0)
        );
        rows.Select(r => (r.Kind, r.Likely, r.RestsOn))
            .ShouldBe([
                (CostKind.Parts, 620m, "3 of 5 priced"),
                (CostKind.Materials, 130m, "booked, and by the hours"),
            ]);
        rows.ShouldAllBe(r => r.Low < r.Likely && r.Likely < r.High);
    }
}
