using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Tests.Kernel;

public sealed class DayBoundsTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    [Theory]
    [InlineData("2026-03-29", 23)]
    [InlineData("2026-10-13", 24)]
    [InlineData("2026-10-25", 25)]
    public void A_day_ends_where_the_next_begins_also_when_the_clocks_change(string day, int hours)
    {
        var date = NodaTime.Text.LocalDatePattern.Iso.Parse(day).Value;
        var bounds = DayBounds.Of(date, London);
        (bounds.End - bounds.Start).ShouldBe(Duration.FromHours(hours));
        bounds.End.ShouldBe(DayBounds.Of(date.PlusDays(1), London).Start);
        (bounds.Has(bounds.Start), bounds.Has(bounds.End)).ShouldBe((true, false));
    }
}
