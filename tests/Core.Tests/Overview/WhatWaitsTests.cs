using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Overview;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using NodaTime;

namespace FirstCoat.Core.Tests.Overview;

/// <summary>The small figures of a build: each is there for its cause and gone with it.</summary>
public sealed class WhatWaitsTests
{
    private static readonly LocalDate Today = new(2026, 10, 13);
    private static readonly Instant Now = Instant.FromUtc(2026, 10, 13, 8, 0);

    private static WaitFacts Facts => new(BuildStatus.Open, Today);

    private static Decision Asks(DecisionFor whom, Guid? paper = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Question = "Which shell?",
            For = whom,
            PaperId = paper,
        };

    private static string Says(WaitFacts facts) =>
        string.Join(" | ", WhatWaits.Of(facts).Select(w => $"{w.Group} {w.Count}: {w.Says}"));

    [Fact]
    public void Nothing_waits_on_a_new_build_and_none_on_one_that_has_ended()
    {
        Says(Facts).ShouldBe("");
        Says(Facts with { Status = BuildStatus.Closed, Decisions = [Asks(DecisionFor.Manager)], AgainstRules = 2 })
            .ShouldBe("");
    }

    [Fact]
    public void Questions_stand_with_whoever_answers_them_until_they_are_settled()
    {
        var (own, clients) = (Asks(DecisionFor.Manager), Asks(DecisionFor.Client));
        Says(Facts with { Decisions = [own, clients] })
            .ShouldBe("Body 1: 1 question for the manager | Client 1: 1 question for the client");
        own.Settle("This one", "Sunniva", Now);
        Says(Facts with { Decisions = [own, clients] }).ShouldBe("Client 1: 1 question for the client");
    }

    [Fact]
    public void A_line_proposed_to_be_left_waits_for_the_manager() =>
        Says(Facts with { LinesProposed = 2 }).ShouldBe("Measure 2: 2 lines proposed to be left as they are");

    [Fact]
    public void A_paper_that_is_asked_about_counts_once()
    {
        var paper = new ClientPaper
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Kind = PaperKind.Estimate,
            Number = 1,
            Words = new("Floor", "", [], [], [], [], [], Today.PlusDays(7), null),
        };
        Says(Facts with { Papers = [paper] }).ShouldBe("", "a draft waits for nobody but its writer");
        paper.Send("{}", paper.Words, SentWay.Letter, "Sunniva", Now);
        Says(Facts with { Papers = [paper] }).ShouldBe("Client 1: 1 paper without an answer");
        Says(Facts with { Papers = [paper], Decisions = [Asks(DecisionFor.Client, paper.Id)] })
            .ShouldBe("Client 1: 1 question for the client");
    }

    [Fact]
    public void A_gate_waits_once_all_before_it_is_done_and_not_while_the_build_is_paused()
    {
        var work = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Fit the doors",
            Kind = OperationKind.Work,
        };
        var gate = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Fit-up signed",
            Kind = OperationKind.Gate,
            Gate = GateKind.FitUp,
            After = [new(work.Id, 0)],
        };
        Says(Facts with { Operations = [work, gate] }).ShouldBe("");
        Says(Facts with { Operations = [gate], AgainstRules = 2 })
            .ShouldBe("Work 3: 1 gate to sign; 2 entries against a rule");
        Says(Facts with { Status = BuildStatus.Paused, Operations = [gate] }).ShouldBe("");
    }

    [Fact]
    public void A_part_a_batch_and_its_pieces_are_late_the_day_after()
    {
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Seal",
            Quantity = 1,
            ClientSupplied = true,
        };
        part.Move(PartState.Ordered, Today.PlusDays(-20));
        part.Move(PartState.Expected, Today);
        Says(Facts with { Parts = [part] }).ShouldBe("");
        Says(new WaitFacts(BuildStatus.Open, Today.PlusDays(1)) { Parts = [part] }).ShouldBe("Goods 1: 1 part late");
        part.Move(PartState.Received, Today);
        Says(new WaitFacts(BuildStatus.Open, Today.PlusDays(1)) { Parts = [part] }).ShouldBe("");

        var job = new OutsideJob
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            SupplierId = Guid.Empty,
            Title = "Plating",
            Pieces = [new("rim", 4)],
        };
        job.Send(Today.PlusDays(-9), Today.PlusDays(-1));
        Says(Facts with { Batches = [(job, Today)] }).ShouldBe("", "it is here with today's freight");
        Says(Facts with { Batches = [(job, Today.PlusDays(-1))] }).ShouldBe("Goods 1: 1 batch late");
        job.CountIn(Today, [1]);
        Says(Facts with { Batches = [(job, Today.PlusDays(-1))] }).ShouldBe("Goods 3: 3 pieces missing from batches");
    }

    [Fact]
    public void Arrival_survey_and_bags_say_what_they_lack()
    {
        var arrival = new Arrival
        {
            BuildId = Guid.Empty,
            CameOn = Today.PlusDays(-30),
            Promised =
            [
                new(Guid.CreateVersion7(), "Wheels", 5, 3, Today.PlusDays(-9), Today.PlusDays(-1), null),
                new(Guid.CreateVersion7(), "Lamps", 2, 0, Today, Today.PlusDays(4), null),
            ],
            Hazards = [new(Guid.CreateVersion7(), Hazard.Lead, "scuttle", "", false)],
        };
        var finding = new Finding
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "Wil",
            FoundAt = Now,
        };
        var bag = new Bag
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Code = 118,
            Side = PanelSide.Right,
            What = "Tail lamp",
            Pieces = [new("lamp", 1)],
            OffBy = "Wil",
            OffAt = Now,
        };
        Says(Facts with { Bags = [bag] }).ShouldBe("");
        bag.Move(BagState.NotFound, "", null);
        Says(Facts with { Arrival = arrival, Findings = [finding], Bags = [bag] })
            .ShouldBe(
                "TakeIn 4: 1 danger not settled; 2 promised pieces overdue; 1 finding without a verdict | Apart 1: 1 bag not found"
            );
        arrival.Settle(arrival.Hazards[0].Id, "scraped wet", "Sunniva", Now);
        Says(Facts with { Arrival = arrival }).ShouldBe("TakeIn 2: 2 promised pieces overdue");
    }
}
