using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Labour;

/// <summary>Minutes, cost, learning and cover, each from an example worked by hand.</summary>
public sealed class LabourRulesTests
{
    private static readonly Instant Eight = Instant.FromUtc(2026, 3, 2, 8, 0);

    private static WorkedEntry Entry(
        string id,
        int from,
        int minutes,
        LabourKind kind = LabourKind.Billable,
        string person = "ines",
        bool? billed = null
    ) =>
        new(
            id,
            person,
            Eight.Plus(Duration.FromMinutes(from)),
            Eight.Plus(Duration.FromMinutes(from + minutes)),
            new(2026, 3, 2),
            kind,
            38,
            95,
            billed
        );

    [Theory]
    [InlineData(2, 0, 15)]
    [InlineData(3, 6, 15)]
    [InlineData(15, 18, 15)]
    [InlineData(16, 18, 30)]
    [InlineData(0, 0, 0)]
    public void Minutes_round_by_the_shops_rule_and_a_tie_goes_up(int minutes, int nearest6, int up15)
    {
        LabourMinutes.Round(minutes, MinuteRounding.None).ShouldBe(minutes);
        LabourMinutes.Round(minutes, MinuteRounding.Nearest6).ShouldBe(nearest6);
        LabourMinutes.Round(minutes, MinuteRounding.Up15).ShouldBe(up15);
    }

    [Fact]
    public void A_change_of_the_clocks_neither_adds_nor_loses_pay()
    {
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        Instant At(int hour, int day) => zone.AtLeniently(new LocalDateTime(2026, 3, day, hour, 0)).ToInstant();
        LabourMinutes.Between(At(22, 28), At(6, 29)).ShouldBe(7 * 60);
    }

    [Fact]
    public void Overtime_counts_by_person_and_day_in_order_of_start_and_rework_uses_the_day_up_too()
    {
        // 540 min billable, then 70 of rework; eight hours a day, half as much again after: 480 + 60 x 1.5 = 570 and 70
        // x 1.5 = 105.
        var result = LabourCost.Of(
            [Entry("b", 540, 70, LabourKind.Rework), Entry("a", 0, 540)],
            MinuteRounding.None,
            false,
            new(480, 1.5m)
        );
        result
            .Lines.Select(l => (l.Id, l.Overtime, l.Cost, l.Billing))
            .ShouldBe([("a", 60, 361.00m, 855.00m), ("b", 70, 66.50m, 0m)]);
        result.Margin.ShouldBe(427.50m);
    }

    [Fact]
    public void Overlap_is_half_open_and_by_person()
    {
        LabourCost.Overlaps([Entry("a", 0, 60), Entry("b", 60, 60)]).ShouldBeEmpty();
        LabourCost.Overlaps([Entry("a", 0, 60), Entry("b", 59, 60)]).ShouldBe([("a", "b", 1)]);
        LabourCost.Overlaps([Entry("a", 0, 60), Entry("b", 30, 60, person: "oskar")]).ShouldBeEmpty();
        Should
            .Throw<Refusal>(() =>
                LabourCost.Of([Entry("a", 0, 60), Entry("b", 59, 60)], MinuteRounding.None, false, null)
            )
            .Field.ShouldBe("entries");
    }

    [Fact]
    public void Whether_it_is_billed_may_be_said_and_rounding_of_pay_is_the_shops_choice()
    {
        LabourCost
            .Of([Entry("a", 0, 60, LabourKind.Goodwill, billed: true)], MinuteRounding.None, false, null)
            .Billing.ShouldBe(95m);
        LabourCost.Of([Entry("a", 0, 60, billed: false)], MinuteRounding.None, false, null).Billing.ShouldBe(0m);
        LabourCost.Of([Entry("a", 0, 50)], MinuteRounding.Up15, false, null).Paid.ShouldBe(50);
        LabourCost.Of([Entry("a", 0, 50)], MinuteRounding.Up15, true, null).Paid.ShouldBe(60);
    }

    [Fact]
    public void Sums_are_sums_of_lines() =>
        Gen.Select(Gen.Int[0, 900], Gen.Enum<LabourKind>())
            .Array[0, 12]
            .Sample(
                drawn =>
                {
                    var at = 0;
                    var entries = drawn
                        .Select((d, i) => Entry($"{i}", (at += d.Item1 + 1) - d.Item1, d.Item1, d.Item2))
                        .Where(e => e.Stop - e.Start <= Duration.FromHours(24))
                        .ToList();
                    var result = LabourCost.Of(entries, MinuteRounding.Nearest6, false, new(480, 1.5m));
                    result.Cost.ShouldBe(result.Lines.Sum(l => l.Cost));
                    result.Paid.ShouldBe(result.PaidByKind.Values.Sum());
                    result.Lines.ShouldAllBe(l =>
                        l.Overtime <= l.Paid && Cents.AreWhole(l.Cost) && Cents.AreWhole(l.Billing)
                    );
                    result.Overtime.ShouldBe(Math.Max(0, result.Paid - 480));
                },
                iter: 500
            );

    [Fact]
    public void A_timer_stops_once_and_not_before_it_started()
    {
        TimeEntry Timer() =>
            new()
            {
                Id = Guid.CreateVersion7(),
                PersonId = Guid.Empty,
                BuildId = Guid.Empty,
                OperationId = Guid.Empty,
                Start = Eight,
            };
        Should.Throw<Refusal>(() => Timer().StopAt(Eight.Minus(Duration.FromMinutes(1)))).Field.ShouldBe("stop");
        Should
            .Throw<Refusal>(() => Timer().StopAt(Eight.Plus(Duration.FromHours(25))))
            .Message.ShouldContain("forgotten");
        var timer = Timer();
        timer.IsRunning.ShouldBeTrue();
        timer.Minutes(Eight.Plus(Duration.FromSeconds(125))).ShouldBe(2);
        timer.StopAt(Eight.Plus(Duration.FromMinutes(10)));
        Should.Throw<Refusal>(() => timer.StopAt(Eight.Plus(Duration.FromMinutes(11)))).Field.ShouldBe("stop");
        TimeEntry.WholeMinute(Eight.Plus(Duration.FromSeconds(59))).ShouldBe(Eight);
    }

    [Fact]
    public void Two_records_move_a_trades_multiplier_from_the_prior()
    {
        var l = Learning.Bias([(180, 120), (150, 100)]);
        l.Mean.ShouldBe(0.200685, 1e-5);
        l.Multiplier.ShouldBe(1.2222, 1e-4);
        l.P80.ShouldBe(1.9556, 1e-4);
        Learning.Repeat([(160, 120)]).Multiplier.ShouldBe(0.7843, 1e-4);
    }

    [Fact]
    public void More_records_make_surer_and_the_multiplier_goes_towards_them() =>
        Gen.Int[1, 40]
            .Sample(n =>
            {
                var (few, many) = (
                    Learning.Bias(Enumerable.Repeat((120.0, 100.0), n)),
                    Learning.Bias(Enumerable.Repeat((120.0, 100.0), n + 1))
                );
                many.Sd.ShouldBeLessThan(few.Sd);
                many.Multiplier.ShouldBeGreaterThan(few.Multiplier);
                many.Multiplier.ShouldBeLessThan(1.2);
            });

    [Fact]
    public void A_deposit_of_exactly_nothing_still_covers()
    {
        LocalDate Day(int d) => new(2026, 3, d);
        var cover = Deposit.Cover(1000, [new(Day(10), 600), new(Day(14), 400), new(Day(20), .01m)], []);
        (cover.RunsOut, cover.LeftBefore, cover.TopUpNeeded, cover.End).ShouldBe((Day(20), 0m, .01m, -.01m));
        Deposit.Cover(100, [new(Day(5), 150)], [new(Day(5), 50)]).RunsOut.ShouldBeNull("a day's deposits come first");
        Deposit.Cover(-5, [], []).AlreadyOut.ShouldBeTrue();
        Should.Throw<Refusal>(() => Deposit.Cover(1, [new(Day(1), -1)], [])).Field.ShouldBe("amount");
        Should.Throw<Refusal>(() => Deposit.Cover(1.001m, [], [])).Field.ShouldBe("balance");
    }

    [Fact]
    public void Tooling_is_earned_back_by_whole_sets()
    {
        Tooling.BreakEven(1201, 95, 45).ShouldBe((50m, 25L));
        Tooling.BreakEven(.30m, .20m, .10m).Sets.ShouldBe(3);
        Tooling.BreakEven(100, 45, 45).Sets.ShouldBeNull();
        Tooling.BreakEven(0, 1, 2).Sets.ShouldBe(0);
    }

    private static readonly WorkCalendar Week = new(
        WorkWeek.Of(
            Enumerable.Range(1, 5).Select(d => ((IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        )
    );

    private static long At(int day, int hour, int minute) => Week.Minute(new(2025, 3, day, hour, minute));

    [Fact]
    public void Work_runs_over_the_weekend_as_counted_by_hand()
    {
        var placed = Placing.Add(Week, Blocked.None, At(7, 15, 0), 600);
        (placed.Start, placed.Finish).ShouldBe((At(7, 15, 0), At(11, 8, 30)));
        placed.Worked.Sum(w => w.End - w.Start).ShouldBe(600);
        Placing.Add(Week, Blocked.None, At(8, 3, 0), 0).Start.ShouldBe(At(8, 3, 0));
    }

    [Fact]
    public void The_finish_is_the_end_of_the_last_worked_minute() =>
        Placing.Add(Week, Blocked.None, At(7, 8, 0), 480).Finish.ShouldBe(At(7, 16, 30));

    [Fact]
    public void Work_without_a_stop_waits_for_a_piece_that_holds_it()
    {
        Placing.WithoutStop(Week, Blocked.None, At(7, 9, 0), 240, false)!.Start.ShouldBe(At(7, 12, 30));
        Placing.WithoutStop(Week, Blocked.None, At(7, 9, 0), 240, true)!.Finish.ShouldBe(At(7, 13, 0));
        Placing.WithoutStop(Week, Blocked.None, At(7, 9, 0), 241, false).ShouldBeNull();
        Placing
            .WithoutStop(Week, Blocked.None, At(7, 12, 10), 60, true)!
            .Start.ShouldBe(At(7, 12, 30), "it does not start in a break");
    }

    [Fact]
    public void An_absence_interrupts_and_a_closed_day_is_not_worked()
    {
        var away = new Blocked([new(At(7, 10, 0), At(7, 14, 0))]);
        Placing.Add(Week, away, At(7, 8, 0), 180).Finish.ShouldBe(At(7, 15, 0));
        var closed = new WorkCalendar(WorkWeek.Of([(IsoDayOfWeek.Friday, 480, 990, [])]), [new LocalDate(2025, 3, 7)]);
        closed
            .Local(Placing.NextWorking(closed, Blocked.None, closed.Minute(new(2025, 3, 7, 8, 0))))
            .ShouldBe(new LocalDateTime(2025, 3, 14, 8, 0));
    }

    [Fact]
    public void Between_counts_what_add_takes() =>
        Gen.Select(Gen.Int[0, 20_000], Gen.Int[1, 6000])
            .Sample(
                (offset, minutes) =>
                {
                    var from = At(3, 0, 0) + offset;
                    var placed = Placing.Add(Week, Blocked.None, from, minutes);
                    Week.Between(from, placed.Finish).ShouldBe(minutes);
                },
                iter: 500
            );

    [Fact]
    public void Blocked_stretches_join_and_cover()
    {
        var b = new Blocked([new(10, 20), new(15, 30), new(40, 50), new(60, 60)]);
        (b.Covers(9), b.Covers(10), b.Covers(29), b.Covers(30), b.Covers(45)).ShouldBe(
            (false, true, true, false, true)
        );
        b.LastEnd.ShouldBe(50);
        b.Cut([new(0, 100, [])]).Select(s => (s.Start, s.End)).ShouldBe([(0L, 10L), (30L, 40L), (50L, 100L)]);
        Blocked.None.With(b).Covers(12).ShouldBeTrue();
    }
}
