using FirstCoat.Core.Labour;
using NodaTime;

namespace FirstCoat.Core.Tests.Labour;

public class ClockTouchTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 3, 5, 9, 0, 20);
    private static readonly Instant Start = Instant.FromUtc(2026, 3, 5, 8, 0);

    private static Instant At(int hour, int minute, int second = 0) =>
        Instant.FromUtc(2026, 3, 5, hour, minute, second);

    [Fact]
    public void Now_is_the_whole_minute()
    {
        ClockTouch.Started(null, Now).ShouldBe(At(9, 0));
        ClockTouch.Stopped(null, Now, Start).ShouldBe(At(9, 0));
    }

    [Fact]
    public void What_was_kept_counts_from_when_it_was_touched()
    {
        ClockTouch.Started(At(7, 15, 50), Now).ShouldBe(At(7, 15));
        ClockTouch.Stopped(At(8, 30, 5), Now, Start).ShouldBe(At(8, 30));
    }

    [Fact]
    public void A_phone_a_little_ahead_is_believed_up_to_now()
    {
        ClockTouch.Started(At(9, 2, 20), Now).ShouldBe(At(9, 0));
        ClockTouch.Stopped(At(9, 2, 20), Now, Start).ShouldBe(At(9, 0));
        Should.Throw<Refusal>(() => ClockTouch.Started(At(9, 2, 21), Now)).Field.ShouldBe("at");
        Should.Throw<Refusal>(() => ClockTouch.Stopped(At(9, 2, 21), Now, Start)).Field.ShouldBe("at");
    }

    [Fact]
    public void A_start_of_yesterday_is_for_the_manager_and_a_stop_is_never_too_late()
    {
        ClockTouch.Started(Now - ClockTouch.Late, Now).ShouldBe(At(9, 0) - ClockTouch.Late);
        Should
            .Throw<Refusal>(() => ClockTouch.Started(Now - ClockTouch.Late - Duration.FromSeconds(1), Now))
            .Message.ShouldContain("manager");
        ClockTouch
            .Stopped(At(8, 1) - Duration.FromDays(3), Now, At(8, 0) - Duration.FromDays(3))
            .ShouldBe(At(8, 1) - Duration.FromDays(3));
    }

    [Fact]
    public void A_clock_that_was_set_back_keeps_nobody_on_the_job() =>
        ClockTouch.Stopped(null, Now, At(10, 0)).ShouldBe(At(10, 0));
}
