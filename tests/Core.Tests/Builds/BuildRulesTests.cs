using FirstCoat.Core.Access;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Money;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Reports;
using NodaTime;

namespace FirstCoat.Core.Tests.Builds;

/// <summary>A build and what belongs to it: states, parts, outside work, decisions, links.</summary>
public sealed class BuildRulesTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 3, 2, 12, 0);

    private static readonly LocalDate Day = new(2026, 3, 2);

    private static Vehicle Car(string make = "Plover", int? year = 1951, string hex = "#33557A") =>
        new(
            make,
            "Eight",
            year,
            BodyStyleKey.Coupe,
            Construction.Unitary,
            "P8",
            "Blue",
            hex,
            BodyDimensions.Of(BodyStyleKey.Coupe)
        );

    private static Build Opened()
    {
        var build = new Build
        {
            Id = Guid.CreateVersion7(),
            Number = 7,
            ClientId = Guid.CreateVersion7(),
            Vehicle = Car(),
            Brief = new(FinishGrade.Show, OriginalityPolicy.Original, null, null, []),
            Contract = ContractTerms.TimeAndMaterials,
        };
        build.Open();
        return build;
    }

    [Fact]
    public void A_paused_build_says_where_it_was_left_and_what_comes_first()
    {
        var build = Opened();
        Should.Throw<Refusal>(() => build.Pause("", "weld")).Field.ShouldBe("leftAt");
        Should.Throw<Refusal>(() => build.Pause("sills tacked", " ")).Field.ShouldBe("firstMove");
        build.Pause("sills tacked", "weld out the left one");
        (build.Status, build.LeftAt, build.FirstMove).ShouldBe(
            (BuildStatus.Paused, "sills tacked", "weld out the left one")
        );
        build.IsPlanned.ShouldBeFalse();
        build.Open();
        (build.Status, build.LeftAt).ShouldBe((BuildStatus.Open, ""));
    }

    [Fact]
    public void A_build_that_has_ended_stays_ended()
    {
        var build = Opened();
        build.End(withdrawn: true, new(2026, 3, 2));
        build.Status.ShouldBe(BuildStatus.Withdrawn);
        Should.Throw<Refusal>(build.Open).Field.ShouldBe("status");
        Should.Throw<Refusal>(() => build.End(withdrawn: false, new(2026, 3, 2))).Field.ShouldBe("status");
        Should.Throw<Refusal>(() => build.Pause("a", "b")).Field.ShouldBe("status");
    }

    [Fact]
    public void A_vehicle_that_is_not_in_the_shop_is_somewhere()
    {
        var build = Opened();
        Should.Throw<Refusal>(() => build.Stand(null, " ")).Field.ShouldBe("awayAt");
        build.Stand(null, "the painter");
        (build.StationId, build.AwayAt).ShouldBe(((Guid?)null, "the painter"));
        var bay = Guid.CreateVersion7();
        build.Stand(bay, "ignored");
        (build.StationId, build.AwayAt).ShouldBe((bay, ""));
    }

    [Fact]
    public void A_vehicle_names_what_cannot_be()
    {
        Car().Check();
        Should.Throw<Refusal>(() => Car(make: "").Check()).Field.ShouldBe("make");
        Should.Throw<Refusal>(() => Car(year: 51).Check()).Field.ShouldBe("year");
        Should.Throw<Refusal>(() => Car(hex: "blue").Check()).Field.ShouldBe("colourHex");
        Should
            .Throw<Refusal>(() => (Car() with { Dimensions = new(5160, 1700, 5000) }).Check())
            .Field.ShouldBe("wheelbaseMm");
    }

    [Theory]
    [InlineData("#9A3A1E", true)]
    [InlineData("#A03C20", true)]
    [InlineData("#1B6670", false)]
    [InlineData("#D3A53A", false)]
    public void A_paint_near_the_accent_would_read_as_an_alarm(string hex, bool alarm) =>
        Paint.ReadsAsAlarm(hex).ShouldBe(alarm);

    [Fact]
    public void A_decision_is_taken_once()
    {
        var d = new Decision
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            Question = "Chrome?",
            DueOn = Day,
        };
        Should.Throw<Refusal>(() => d.Settle(" ", "Mara", Noon)).Field.ShouldBe("answer");
        d.Settle("Paint", "Mara", Noon);
        d.IsOpen.ShouldBeFalse();
        Should.Throw<Refusal>(() => d.Settle("Chrome", "Olga", Noon)).Message.ShouldContain("Mara");
    }

    [Fact]
    public void A_part_walks_from_needed_to_fitted_and_a_slip_goes_back()
    {
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            Name = "seal",
        };
        part.Check();
        Should.Throw<Refusal>(() => part.Move(PartState.Ordered, Day)).Field.ShouldBe("supplierId");
        Should.Throw<Refusal>(() => part.Move(PartState.Fitted, Day)).Field.ShouldBe("state");
        part.SupplierId = Guid.CreateVersion7();
        part.Move(PartState.Ordered, Day);
        Should.Throw<Refusal>(() => part.Move(PartState.Expected, Day.PlusDays(-1))).Field.ShouldBe("on");
        part.Move(PartState.Expected, Day.PlusDays(9));
        (part.OrderedOn, part.ExpectedOn, part.IsAwaited).ShouldBe((Day, Day.PlusDays(9), true));
        part.Move(PartState.Received, Day.PlusDays(8));
        part.Move(PartState.Fitted, Day.PlusDays(10));
        (part.ReceivedOn, part.FittedOn, part.IsAwaited).ShouldBe((Day.PlusDays(8), Day.PlusDays(10), false));
        part.Move(PartState.Ordered, Day.PlusDays(11));
        (part.ExpectedOn, part.ReceivedOn, part.FittedOn).ShouldBe(
            ((LocalDate?)null, (LocalDate?)null, (LocalDate?)null)
        );
    }

    [Theory]
    [InlineData(0, 1, "quantity")]
    [InlineData(1, -1, "unitCost")]
    public void A_part_has_a_quantity_and_no_negative_cost(double quantity, double cost, string field) =>
        Should
            .Throw<Refusal>(() =>
                new PartLine
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.CreateVersion7(),
                    Name = "x",
                    Quantity = (decimal)quantity,
                    UnitCost = (decimal)cost,
                }.Check()
            )
            .Field.ShouldBe(field);

    private static OutsideJob Job() =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            SupplierId = Guid.CreateVersion7(),
            Title = "Chrome",
            Pieces = [new("rim", 4), new("handle", 2)],
            Quoted = 90,
        };

    [Fact]
    public void A_batch_is_sent_promised_and_counted_kind_by_kind()
    {
        var job = Job();
        Should.Throw<Refusal>(() => job.Promise(Day)).Field.ShouldBe("promisedOn");
        Should.Throw<Refusal>(() => job.CountIn(Day, [4, 2])).Field.ShouldBe("backOn");
        Should.Throw<Refusal>(() => job.Send(Day, Day.PlusDays(-1))).Field.ShouldBe("promisedOn");
        job.Send(Day, Day.PlusDays(14));
        Should.Throw<Refusal>(() => job.Send(Day, Day.PlusDays(14))).Field.ShouldBe("sentOn");
        job.Promise(Day.PlusDays(21));
        Should.Throw<Refusal>(() => job.CountIn(Day.PlusDays(20), [4])).Field.ShouldBe("counts");
        Should.Throw<Refusal>(() => job.CountIn(Day.PlusDays(20), [5, 2])).Field.ShouldBe("counts");
        job.ToItem().ShouldBeNull("nothing is billed before it is counted in");
        job.CountIn(Day.PlusDays(22), [3, 2]);
        (job.MissingPieces, job.BackOn, job.IsAway).ShouldBe((1, Day.PlusDays(22), false));
        // 90.00 for five of six pieces.
        job.ToItem()!.Cost.ShouldBe(75m);
        job.CountIn(Day.PlusDays(30), [4, 2]);
        (job.MissingPieces, job.BackOn).ShouldBe((0, Day.PlusDays(22)));
        job.Billed = 96;
        job.ToItem()!.Cost.ShouldBe(96m);
    }

    [Fact]
    public void A_link_is_live_until_it_expires_or_is_revoked_and_its_token_is_not_kept()
    {
        var token = PrivateLink.NewToken();
        token.Length.ShouldBeGreaterThanOrEqualTo(43);
        PrivateLink.NewToken().ShouldNotBe(token);
        var link = new PrivateLink
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            TokenHash = PrivateLink.Hash(token),
            ExpiresAt = Noon.Plus(Duration.FromDays(1)),
        };
        link.TokenHash.ShouldNotContain(token);
        link.IsLive(Noon).ShouldBeTrue();
        link.IsLive(Noon.Plus(Duration.FromDays(1))).ShouldBeFalse();
        link.Revoke(Noon);
        link.Revoke(Noon.Plus(Duration.FromHours(1)));
        (link.IsLive(Noon), link.RevokedAt).ShouldBe((false, Noon));
    }

    [Fact]
    public void A_published_report_is_not_edited_or_published_again()
    {
        var report = new ClientReport
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            Number = 1,
            CoversFrom = 0,
        };
        var text = new ReportText("Title", "", [], [], []);
        report.Edit(text);
        Should.Throw<Refusal>(() => report.Edit(text with { Title = new string('x', 121) })).Field.ShouldBe("title");
        report.Publish("{}", 12, "Mara", Noon, "");
        (report.IsDraft, report.CoversTo, report.PublishedBy).ShouldBe((false, 12, "Mara"));
        Should.Throw<Refusal>(() => report.Edit(text)).Field.ShouldBe("id");
        Should.Throw<Refusal>(() => report.Publish("{}", 13, "Mara", Noon, "")).Field.ShouldBe("id");
    }

    public static TheoryData<ContractTerms, string> WrongContracts() =>
        new()
        {
            { new(ContractKind.Fixed), "price" },
            { new(ContractKind.Capped), "cap" },
            { new(ContractKind.Fixed, -1), "price" },
            { new(ContractKind.Capped, 10.001m), "cap" },
            { new(ContractKind.Fixed, 10, DonePercent: 101), "done" },
            { new(ContractKind.Progress, 10, [new("a", 60), new("b", 39)]), "share" },
            { new(ContractKind.Progress, 10, [new("a", 100, -1)]), "done" },
        };

    [Theory, MemberData(nameof(WrongContracts))]
    public void A_contract_that_cannot_be_billed_names_its_field(ContractTerms terms, string field) =>
        Should.Throw<Refusal>(terms.Check).Field.ShouldBe(field);
}
