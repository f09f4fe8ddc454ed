using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

public class CommittedWeekTests
{
    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];
    private static readonly LocalDate Monday = new(2026, 10, 12);

    private static Instant At(int day, int hour, int minute = 0) =>
        Zone.AtLeniently(Monday.PlusDays(day).At(new LocalTime(hour, minute))).ToInstant();

    private static WorkedTime Worked(int day, int from, int to) => new(At(day, from), At(day, to));

    private static WeekPromise Promise(bool whole, int minutes = 600, Guid? person = null) =>
        new(
            Guid.CreateVersion7(),
            Guid.CreateVersion7(),
            Guid.CreateVersion7(),
            person ?? Guid.CreateVersion7(),
            "Sills",
            minutes,
            whole,
            []
        );

    private static CommittedWeek Week(params WeekPromise[] promises)
    {
        var week = new CommittedWeek
        {
            Id = Guid.CreateVersion7(),
            Monday = Monday,
            CommittedAt = At(0, 7),
            CommittedBy = "Sunniva",
        };
        week.Promise(promises);
        return week;
    }

    [Fact]
    public void A_whole_operation_is_kept_on_the_day_on_which_it_was_done_whatever_was_worked()
    {
        var promise = Promise(true);
        promise.KeptBy(Monday, At(3, 16), [], Zone).ShouldBe(Monday.PlusDays(3));
        promise.KeptBy(Monday, null, [Worked(0, 8, 20)], Zone).ShouldBeNull();
        promise.KeptBy(Monday, At(7, 0), [], Zone).ShouldBeNull("it was done after the week");
        promise.KeptBy(Monday, At(6, 23, 59), [], Zone).ShouldBe(Monday.PlusDays(6));
    }

    [Fact]
    public void Hours_are_kept_on_the_day_on_which_they_were_full()
    {
        var promise = Promise(false, 600);
        promise.KeptBy(Monday, null, [Worked(2, 8, 12), Worked(0, 8, 12)], Zone).ShouldBeNull("480 of 600");
        promise
            .KeptBy(Monday, null, [Worked(3, 8, 10), Worked(2, 8, 12), Worked(0, 8, 12)], Zone)
            .ShouldBe(Monday.PlusDays(3));
        promise.KeptBy(Monday, null, [Worked(-2, 8, 20), Worked(8, 8, 20)], Zone).ShouldBeNull("of other weeks");
        // Sooner done than the hours were full.
        promise.KeptBy(Monday, At(1, 12), [Worked(0, 8, 12)], Zone).ShouldBe(Monday.PlusDays(1));
    }

    [Fact]
    public void Work_over_the_edge_of_the_week_counts_as_far_as_it_lies_in_it()
    {
        var night = new WorkedTime(At(6, 22), At(7, 2));
        Promise(false, 120).KeptBy(Monday, null, [night], Zone).ShouldBe(Monday.PlusDays(6));
        Promise(false, 121).KeptBy(Monday, null, [night], Zone).ShouldBeNull();
    }

    [Fact]
    public void Counted_it_has_a_percentage_and_a_reason_for_all_that_was_not_done()
    {
        var promises = Enumerable.Range(0, 7).Select(_ => Promise(true)).ToArray();
        var week = Week(promises);
        LocalDate? Kept(WeekPromise p) => Array.IndexOf(promises, p) < 3 ? Monday.PlusDays(1) : null;
        var reasons = promises.Skip(3).ToDictionary(p => p.Id, _ => "part not here");
        Should.Throw<Refusal>(() => week.Count(Kept, new Dictionary<Guid, string>(), 0, At(4, 17), "Sunniva"));
        week.IsCounted.ShouldBeFalse();
        week.Count(Kept, reasons, 1, At(4, 17), "Sunniva");
        var result = week.Result();
        (result.Committed, result.Done, result.Extra).ShouldBe((7, 3, 1));
        result.Percent!.Value.ShouldBe(300.0 / 7, 1e-9);
        result.Reasons.ShouldBe([("part not here", 4)]);
        Should.Throw<Refusal>(() => week.Count(Kept, reasons, 1, At(4, 18), "Sunniva"));
    }

    [Fact]
    public void What_was_kept_has_no_reason_even_if_one_was_given()
    {
        var promise = Promise(true);
        var week = Week(promise);
        week.Count(_ => Monday, new Dictionary<Guid, string> { [promise.Id] = "ill" }, 0, At(4, 17), "S");
        week.Promises.Single().Reason.ShouldBeEmpty();
    }

    [Fact]
    public void A_week_without_promises_or_with_one_twice_is_none()
    {
        Should.Throw<Refusal>(() => Week()).Field.ShouldBe("promises");
        var one = Promise(true);
        Should.Throw<Refusal>(() => Week(one, one with { Id = Guid.CreateVersion7() })).Field.ShouldBe("promises");
        Should.Throw<Refusal>(() => Week(Promise(false, 0)));
        Week(one, one with { PersonId = Guid.CreateVersion7() }).Promises.Count.ShouldBe(2);
    }
}
