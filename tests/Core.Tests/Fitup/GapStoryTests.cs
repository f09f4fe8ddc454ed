using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using NodaTime;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>What a client is told of lines that were read again.</summary>
public sealed class GapStoryTests
{
    private static readonly IReadOnlyList<GapLine> Lines = GapLine.Of(
        Body.Unfold(BodyStyleKey.Coupe, BodyDimensions.Of(BodyStyleKey.Coupe))
    );

    private long _seq;

    private List<FitReading> Read(string line, params decimal[] gaps) =>
        [
            .. gaps.Select(
                (gap, i) =>
                {
                    var reading = new FitReading
                    {
                        BuildId = Guid.Empty,
                        Line = line,
                        Round = GapRound.BeforeWeld,
                        Station = i + 1,
                        Measure = FitMeasure.Gap,
                        Value = gap,
                        Unit = LengthUnit.Mm,
                        At = Instant.MinValue,
                        By = "Wil",
                    };
                    typeof(Recorded).GetProperty(nameof(Recorded.Seq))!.SetValue(reading, ++_seq);
                    return reading;
                }
            ),
        ];

    private static IReadOnlyList<string> Told(
        List<FitReading> readings,
        long since = 0,
        bool inches = false,
        int most = 3
    ) => GapStory.Of(Lines, readings, since, inches, most);

    [Fact]
    public void A_line_that_was_read_again_is_told_as_it_was_and_as_it_is() =>
        Told([.. Read("door/sill R", 3.1m, 4.4m, 5.2m), .. Read("door/sill R", 3.9m, 4, 4.2m)])
            .ShouldBe([
                "Gap, door to sill on the right: it was between 3.1 and 5.2 mm, and is now between 3.9 and 4.2 mm",
            ]);

    [Fact]
    public void A_line_read_once_or_read_the_same_is_no_news()
    {
        Told(Read("door/sill R", 3.1m, 4.4m)).ShouldBeEmpty();
        Told([.. Read("door/sill R", 4, 4), .. Read("door/sill R", 4, 4)]).ShouldBeEmpty();
    }

    [Fact]
    public void What_was_told_before_is_told_no_more_and_is_what_it_was_the_next_time()
    {
        List<FitReading> readings = [.. Read("door/sill R", 3, 5), .. Read("door/sill R", 3.5m, 4.5m)];
        var reported = _seq;
        Told(readings, reported).ShouldBeEmpty();
        readings.AddRange(Read("door/sill R", 4, 4));
        Told(readings, reported)
            .ShouldBe(["Gap, door to sill on the right: it was between 3.5 and 4.5 mm, and is now 4.0 mm"]);
    }

    [Fact]
    public void A_slip_that_was_taken_back_was_never_read()
    {
        var slip = Read("door/sill R", 9, 9);
        slip.ForEach(r => r.TakeBack());
        Told([.. slip, .. Read("door/sill R", 4, 4)]).ShouldBeEmpty();
    }

    [Fact]
    public void The_most_improved_come_first_and_only_so_many_and_in_the_shops_unit()
    {
        List<FitReading> readings =
        [
            .. Read("door/sill L", 3.9m, 4.1m),
            .. Read("door/sill R", 3, 6),
            .. Read("door/sill L", 4, 4.1m),
            .. Read("door/sill R", 4, 4.5m),
        ];
        var told = Told(readings, inches: true, most: 1).ShouldHaveSingleItem();
        told.ShouldBe(
            "Gap, door to sill on the right: it was between 0.12 and 0.24 in, and is now between 0.16 and 0.18 in"
        );
        Told(readings).Count.ShouldBe(2);
    }
}
