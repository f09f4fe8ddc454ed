using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

public class OperationPartsTests
{
    private static readonly Guid Build = Guid.CreateVersion7();

    private static Operation Work(string name, int position, int minutes = 600, params Operation[] after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            Name = name,
            Position = position,
            Stage = Stage.Metal,
            Trade = Trade.Metal,
            BudgetMinutes = minutes,
            After = [.. after.Select(a => new OperationLink(a.Id, 30))],
        };

    private static (Operation Before, Operation Whole, Operation Next) Chain()
    {
        var before = Work("Before", 1);
        var whole = Work("Sills", 2, 1000, before);
        whole.Panels = ["sillL", "sillR"];
        whole.Held = Held.WeldedOut;
        whole.Terms = new()
        {
            LowMinutes = 800,
            HighMinutes = 1500,
            NotBefore = new(2026, 3, 2),
        };
        return (before, whole, Work("Next", 3, 60, whole));
    }

    private static PartOff Off(int minutes = 400, bool sideBySide = false, params string[] panels) =>
        new(Guid.CreateVersion7(), "Sills, second part", minutes, panels, sideBySide);

    [Fact]
    public void The_second_part_follows_the_first_and_ends_the_work_on_its_panels()
    {
        var (before, whole, next) = Chain();
        next.Terms = new() { Hold = new(StationKind.Jig, whole.Id) };
        var second = OperationParts.Split(whole, Off(), [before, whole, next]);
        (whole.BudgetMinutes, second.BudgetMinutes).ShouldBe((600, 400));
        (whole.Terms.LowMinutes, whole.Terms.HighMinutes).ShouldBe((480, 900));
        (second.Terms.LowMinutes, second.Terms.HighMinutes).ShouldBe((320, 600));
        (whole.Held, second.Held).ShouldBe((null, Held.WeldedOut));
        second.Panels.ShouldBe(["sillL", "sillR"]);
        whole.After.ShouldBe([new(before.Id, 30)]);
        second.After.ShouldBe([new(whole.Id, 0)]);
        next.After.ShouldBe([new(second.Id, 30)]);
        next.Terms.Hold!.Until.ShouldBe(second.Id);
        second.Terms.NotBefore.ShouldBeNull("it follows the first, which waits");
        new[] { before, whole, second, next }.Select(o => o.Position).ShouldBe([1, 2, 3, 4]);
    }

    [Fact]
    public void Side_by_side_each_part_ends_its_own_panels_and_what_follows_waits_for_both()
    {
        var (before, whole, next) = Chain();
        var second = OperationParts.Split(whole, Off(sideBySide: true, panels: "sillR"), [before, whole, next]);
        (whole.Panels.Single(), second.Panels.Single()).ShouldBe(("sillL", "sillR"));
        (whole.Held, second.Held).ShouldBe((Held.WeldedOut, Held.WeldedOut));
        second.After.ShouldBe([new(before.Id, 30)]);
        next.After.ShouldBe([new(whole.Id, 30), new(second.Id, 30)]);
        second.Terms.NotBefore.ShouldBe(new LocalDate(2026, 3, 2));
    }

    [Fact]
    public void What_was_said_of_the_whole_is_said_of_its_first_part()
    {
        var (before, whole, next) = Chain();
        whole.State(0.3m, Instant.FromUtc(2026, 3, 2, 10, 0));
        OperationParts.Split(whole, Off(), [before, whole, next]);
        whole.EarnedMinutes.ShouldBe(300, "three tenths of a thousand minutes, whoever has them now");
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1000)]
    public void Each_part_needs_hours(int minutes)
    {
        var (before, whole, next) = Chain();
        Should.Throw<Refusal>(() => OperationParts.Split(whole, Off(minutes), [before, whole, next]));
        (whole.BudgetMinutes, next.After[0].Operation).ShouldBe((1000, whole.Id));
    }

    [Fact]
    public void A_part_takes_some_of_the_panels_and_says_which_where_both_run_at_once()
    {
        var (before, whole, next) = Chain();
        foreach (var part in new[] { Off(panels: "roof"), Off(panels: ["sillL", "sillR"]), Off(sideBySide: true) })
        {
            Should
                .Throw<Refusal>(() => OperationParts.Split(whole, part, [before, whole, next]))
                .Field.ShouldBe("panels");
        }

        whole.Finish("Wil", Instant.FromUtc(2026, 3, 2, 10, 0));
        Should.Throw<Refusal>(() => OperationParts.Split(whole, Off(), [before, whole, next]));
    }

    [Fact]
    public void Two_become_one_after_all_that_came_before_either()
    {
        var (before, whole, next) = Chain();
        var other = Work("Outriggers", 3, 500, whole);
        var apart = Work("Apart", 4, 60);
        other.After.Add(new(apart.Id, 0));
        var last = Work("Last", 5, 60, whole, other);
        OperationParts.Merge(whole, other, [before, whole, next, other, apart, last]);
        whole.BudgetMinutes.ShouldBe(1500);
        (whole.Terms.LowMinutes, whole.Terms.HighMinutes).ShouldBe((1300, 2000));
        whole.After.Select(a => a.Operation).ShouldBe([before.Id, apart.Id]);
        last.After.ShouldBe([new(whole.Id, 30)]);
    }

    [Fact]
    public void A_part_that_was_taken_off_can_be_put_back()
    {
        var (before, whole, next) = Chain();
        var second = OperationParts.Split(whole, Off(), [before, whole, next]);
        OperationParts.Merge(whole, second, [before, whole, second, next]);
        (whole.BudgetMinutes, whole.Held).ShouldBe((1000, Held.WeldedOut));
        (whole.Terms.LowMinutes, whole.Terms.HighMinutes).ShouldBe((800, 1500));
        next.After.ShouldBe([new(whole.Id, 30)]);
        whole.After.ShouldBe([new(before.Id, 30)]);
    }

    [Fact]
    public void Only_open_work_of_one_kind_is_merged()
    {
        var (before, whole, next) = Chain();
        var paint = Work("Paint", 4);
        paint.Trade = Trade.Paint;
        var done = Work("Done", 5);
        done.Finish("Wil", Instant.FromUtc(2026, 3, 2, 10, 0));
        foreach (var with in new[] { paint, done, whole })
        {
            Should.Throw<Refusal>(() => OperationParts.Merge(whole, with, [before, whole, next, paint, done]));
        }
    }
}
