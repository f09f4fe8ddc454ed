using FirstCoat.Core.Builds;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>The questions on which practitioners differ, and what is done again because of an answer.</summary>
public sealed class SchoolsTests
{
    private static readonly Way Usual = new(Templates.PaintThenAssemble, new());

    [Fact]
    public void Each_question_has_the_present_answer_among_its_own_and_each_answer_changes_that_question_alone()
    {
        var options = Schools.Of(Usual, Construction.Unitary);
        options.Select(o => o.School).Distinct().ShouldBe(Enum.GetValues<School>());
        foreach (var answers in options.GroupBy(o => o.School))
        {
            answers.Where(a => a.Way == Usual).ShouldHaveSingleItem();
            answers.Select(a => a.Way).ShouldBeUnique();
        }

        var cart = options.Single(o => o.School == School.Hold && o.Key == nameof(SupportState.Cart));
        cart.Way.ShouldBe(Usual with { Choices = new(Hold: SupportState.Cart) });
        // From there, the way back is the answer that was given before.
        Schools.Of(cart.Way, Construction.Unitary).Single(o => o.Key == nameof(SupportState.Jig)).Way.ShouldBe(Usual);
    }

    [Fact]
    public void What_a_vehicle_does_not_have_is_not_asked()
    {
        Asked(Usual, Construction.WoodFramed).ShouldNotContain(School.Sides);
        Asked(Usual, Construction.Composite).ShouldNotContain(School.Blast);
        Asked(Usual, Construction.SeparateChassis).ShouldBe(Enum.GetValues<School>());
        Asked(Usual with { Template = Templates.SmallWork }, Construction.Unitary).ShouldBeEmpty();

        static IEnumerable<School> Asked(Way way, Construction construction) =>
            Schools.Of(way, construction).Select(o => o.School).Distinct();
    }

    [Fact]
    public void A_rule_of_thumb_counts_as_twelve_builds_beside_the_shops_own()
    {
        // One build in six, 30 hours: in twelve, two builds and 60 hours.
        var rule = new DoingAgain(1 / 6.0, 30, "sags");
        rule.OneIn.ShouldBe(6);
        rule.Expected.ShouldBe(5, 1e-9);
        // Of eight more, three with 6, 20 and 24 hours: five in twenty, 110 hours in five.
        var learned = rule.Learned(8, [6, 20, 24]);
        (learned.OneIn, learned.Builds, learned.What).ShouldBe((4, 8, "sags"));
        learned.Chance.ShouldBe(0.25, 1e-9);
        learned.Hours.ShouldBe(22, 1e-9);
        learned.Expected.ShouldBe(5.5, 1e-9);
    }

    [Fact]
    public void Builds_in_which_it_never_happened_make_it_rarer_and_none_at_all_leave_the_rule()
    {
        var rule = new DoingAgain(1 / 6.0, 30, "sags");
        rule.Learned(0, []).ShouldBe(rule);
        var never = rule.Learned(12, []);
        never.OneIn.ShouldBe(12);
        never.Hours.ShouldBe(30, 1e-9);
        Should.Throw<Refusal>(() => rule.Learned(1, [2, 3])).Field.ShouldBe("builds");
    }

    [Fact]
    public void Every_rule_is_a_chance_of_some_hours_and_has_words()
    {
        foreach (var o in Schools.Of(Usual, Construction.Unitary))
        {
            o.Again.Chance.ShouldBeInRange(0.01, 0.5, o.Key);
            o.Again.Hours.ShouldBeInRange(1, 100, o.Key);
            o.Again.What.ShouldNotBeNullOrWhiteSpace(o.Key);
            Schools.StagesOf(o.School).ShouldNotBeEmpty();
        }
    }
}
