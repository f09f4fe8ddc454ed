using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using NodaTime;

namespace FirstCoat.Core.Tests.Builds;

/// <summary>How a vehicle came: what is missing, what the serial number says, which doors it passes, the
/// round.</summary>
public sealed class ArrivalTests
{
    private static Arrival New() =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            CameOn = new(2026, 10, 13),
        };

    private static PromisedPiece Piece(string what, int promised, int came) =>
        new(Guid.CreateVersion7(), what, promised, came, null, null, null);

    [Fact]
    public void What_came_is_checked_against_what_was_promised()
    {
        var a = New();
        a.Promised = [Piece("roof bows", 7, 6), Piece("wheels", 5, 4), Piece("lamps", 2, 0), Piece("handles", 10, 12)];
        // 6 + 4 + 0 + 10 of 24: two handles too many do not make up for a wheel.
        (a.PiecesCame, a.PiecesPromised).ShouldBe((20, 24));
        a.Promised.Select(p => p.Missing).ShouldBe([1, 1, 2, 0]);
        var asked = a.Ask(a.Promised[1].Id, new(2026, 10, 24), new(2026, 10, 13), Guid.CreateVersion7());
        (asked.AskedOn, asked.By).ShouldBe((new LocalDate(2026, 10, 13), new LocalDate(2026, 10, 24)));
        a.Ask(asked.Id, new(2026, 10, 30), new(2026, 10, 20), Guid.CreateVersion7())
            .PartId.ShouldBe(asked.PartId, "asking again keeps the same line");
        Should
            .Throw<Refusal>(() => a.Ask(a.Promised[3].Id, new(2026, 10, 24), new(2026, 10, 13), Guid.Empty))
            .Message.ShouldBe("All of it has come.");
        Should
            .Throw<Refusal>(() => a.Ask(a.Promised[0].Id, new(2026, 10, 1), new(2026, 10, 13), Guid.Empty))
            .Field.ShouldBe("by");
    }

    [Fact]
    public void The_number_picks_the_parts_not_the_year()
    {
        var a = New();
        a.Breaks =
        [
            new(1150, "cone clutch, four-stud hubs", "plate clutch, six-stud hubs"),
            new(1240, "magneto", "coil"),
        ];
        a.Fitted().ShouldBeEmpty("nobody has read the number");
        a.Serial = 1187;
        a.Fitted().Select(f => (f.Fitted, f.Past)).ShouldBe([("plate clutch, six-stud hubs", 37), ("magneto", -53)]);
        a.Serial = 1150;
        a.Fitted()[0]
            .ShouldSatisfyAllConditions(
                f => f.Fitted.ShouldBe("plate clutch, six-stud hubs", "the break itself is the first of the new"),
                f => f.Past.ShouldBe(0)
            );
    }

    [Fact]
    public void A_door_says_what_is_to_spare_and_what_would_make_it_pass()
    {
        // 2310 on a dolly of 520 is 2830, 50 kept free: 3200 leaves 320, 2750 lacks 130.
        var h = new Heights(2310, 520, 50, [new("low dolly", 360), new("bows off", 640), new("tyres down", 40)]);
        DoorPass
            .Of(h, 3200)
            .ShouldSatisfyAllConditions(
                p => p.Fits.ShouldBeTrue(),
                p => p.SpareMm.ShouldBe(320),
                p => p.Ways.ShouldBeEmpty()
            );
        var booth = DoorPass.Of(h, 2750);
        (booth.Fits, booth.SpareMm).ShouldBe((false, -130));
        booth.Ways.Select(w => (w.Way.How, w.SpareMm)).ShouldBe([("bows off", 510), ("low dolly", 230)]);
        var a = New();
        a.Passes(
                new Station
                {
                    Id = Guid.Empty,
                    Name = "Booth",
                    DoorHeightMm = 2750,
                }
            )
            .ShouldBeNull("no height is known");
        a.Heights = h;
        a.Passes(new Station { Id = Guid.Empty, Name = "Bench" }).ShouldBeNull("it has no door");
        a.Passes(
                new Station
                {
                    Id = Guid.Empty,
                    Name = "Booth",
                    DoorHeightMm = 2750,
                }
            )!
            .Fits.ShouldBeFalse();
    }

    [Fact]
    public void The_round_goes_once_about_the_vehicle_from_outside_it()
    {
        var round = ArrivalRound.Of(4600, 1700);
        round.Count.ShouldBe(14);
        round.Select(r => r.Key).Distinct().Count().ShouldBe(14);
        var walk = round.Where(r => r.HalfAngle > 0).ToList();
        walk.Count.ShouldBe(10);
        walk.ShouldAllBe(r => Math.Abs(r.At.X) > 85 || r.At.Y < 0 || r.At.Y > 460);
        round.Where(r => r.HalfAngle == 0).ShouldAllBe(r => Math.Abs(r.At.X) < 85 && r.At.Y > 0 && r.At.Y < 460);
        walk.Where(r => r.Key.StartsWith("left", StringComparison.Ordinal))
            .ShouldAllBe(l =>
                walk.Any(r =>
                    r.Key == l.Key.Replace("left", "right", StringComparison.Ordinal)
                    && Math.Abs(r.At.X + l.At.X) < 1e-9
                    && Math.Abs(r.At.Y - l.At.Y) < 1e-9
                )
            );
    }

    [Theory]
    [InlineData("onWhose")]
    [InlineData("promised")]
    [InlineData("breaks")]
    [InlineData("bodyMm")]
    [InlineData("lower")]
    [InlineData("standIns")]
    [InlineData("keys")]
    [InlineData("round")]
    public void What_cannot_be_names_its_field(string field)
    {
        var a = New();
        switch (field)
        {
            case "onWhose":
                a.As = ArrivedAs.OnBorrowedChassis;
                break;
            case "promised":
                a.Promised = [Piece("wheels", 0, 0)];
                break;
            case "breaks":
                a.Breaks = [new(5, "", ""), new(5, "", "")];
                break;
            case "bodyMm":
                a.Heights = new(0, 0, 0, []);
                break;
            case "lower":
                a.Heights = new(2000, 0, 0, [new("bows off", 0)]);
                break;
            case "standIns":
                a.StandIns = [new(Guid.Empty, "Radiator", " ", new(2026, 11, 10), null)];
                break;
            case "keys":
                a.Keys = -1;
                break;
            default:
                a.Round = [new("front", Guid.Empty), new("front", Guid.Empty)];
                break;
        }

        Should.Throw<Refusal>(a.Check).Field.ShouldBe(field);
    }
}
