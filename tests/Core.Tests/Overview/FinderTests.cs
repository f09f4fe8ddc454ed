using CsCheck;
using FirstCoat.Core.Overview;

namespace FirstCoat.Core.Tests.Overview;

/// <summary>Words in any order, one slip in each forgiven, nothing that lacks one of them.</summary>
public sealed class FinderTests
{
    private static Findable Thing(string label, FoundKind kind = FoundKind.Bag, string detail = "") =>
        Findable.Of(Guid.CreateVersion7(), kind, null, label, detail, false);

    private static string[] Found(string question, params Findable[] things) =>
        [.. Finder.Best(Finder.Read(question), things).Select(f => f.Label)];

    [Theory]
    [InlineData("rear window screws")]
    [InlineData("screws window rear")]
    [InlineData("screw rear windows")]
    [InlineData("REAR win scr")]
    [InlineData("rear windwo screws")] // swapped
    [InlineData("rear widow screws")] // missing
    [InlineData("rear windoww screws")] // too many
    [InlineData("rear wintow screws")] // wrong
    [InlineData("rear windo screws")]
    public void Any_order_and_one_slip_a_word(string question) =>
        Found(question, Thing("131 R Rear window screws"), Thing("Front window seal"))
            .ShouldBe(["131 R Rear window screws"]);

    [Theory]
    [InlineData("rear window bolts")] // another word
    [InlineData("rear wnidwo screws")] // two slips
    [InlineData("reor")] // three letters right of a short one
    [InlineData("132")] // a number is not forgiven
    public void What_lacks_a_word_is_not_found(string question) =>
        Found(question, Thing("131 R Rear window screws"))
            .ShouldBe(question == "reor" ? ["131 R Rear window screws"] : []);

    [Fact]
    public void Marks_and_names_of_other_countries_count_the_same()
    {
        Found("fender", Thing("Left wing, Müller")).ShouldBe(["Left wing, Müller"]);
        Found("muller windshield", Thing("Screen from Müller")).ShouldBe(["Screen from Müller"]);
    }

    [Fact]
    public void The_nearest_comes_first_within_its_kind_and_kinds_keep_their_order()
    {
        Found(
                "door",
                Thing("Doorstop"),
                Thing("Seal", detail: "left door"),
                Thing("Door"),
                Thing("Left door", FoundKind.Panel)
            )
            .ShouldBe(["Left door", "Door", "Doorstop", "Seal"]);
        Finder.Best(Finder.Read("door"), Enumerable.Range(0, 20).Select(i => Thing($"Door {i}"))).Count.ShouldBe(5);
        Found("  ,. ", Thing("Door")).ShouldBe([]);
    }

    [Fact]
    public void Of_what_answers_as_well_that_of_the_open_build_comes_first()
    {
        var (other, open) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        Findable[] doors =
        [
            Findable.Of(Guid.CreateVersion7(), FoundKind.Panel, other, "L door", "", false),
            Findable.Of(Guid.CreateVersion7(), FoundKind.Panel, open, "L door", "", false),
        ];
        Finder.Best(Finder.Read("left door"), doors, open).Select(f => f.BuildId).ShouldBe([open, other]);
        Finder.Best(Finder.Read("door l"), doors, other).Select(f => f.BuildId).ShouldBe([other, open]);
        Finder.Best(Finder.Read("right door"), doors, open).ShouldBeEmpty();
    }

    [Fact]
    public void A_slip_of_one_is_the_same_both_ways_and_two_are_too_many()
    {
        var letters = Gen.Char['a', 'e'].Array[1, 7].Select(c => new string(c));
        Gen.Select(letters, letters)
            .Sample(
                (a, b) =>
                {
                    var near = Distance(a, b) <= 1;
                    // A word may also go on after what was asked for; only words as long as each other are compared
                    // both ways here.
                    if (Math.Abs(a.Length - b.Length) <= 1)
                    {
                        Finder.IsOneSlipFrom(a, b).ShouldBe(near, $"{a} {b}");
                        Finder.IsOneSlipFrom(b, a).ShouldBe(near, $"{b} {a}");
                    }
                }
            );
    }

    /// <summary>The restricted edit distance in full, by its table.</summary>
    private static int Distance(string a, string b)
    {
        var d = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
        {
            for (var j = 0; j <= b.Length; j++)
            {
                d[i, j] =
                    i == 0 ? j
                    : j == 0 ? i
                    : Math.Min(
                        Math.Min(d[i - 1, j] + 1, d[i, j - 1] + 1),
                        d[i - 1, j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1)
                    );
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                {
                    d[i, j] = Math.Min(d[i, j], d[i - 2, j - 2] + 1);
                }
            }
        }

        return d[a.Length, b.Length];
    }

    [Fact]
    public void Things_to_do_are_those_of_the_role()
    {
        ThingToDo.All.Where(t => t.Is(manager: false, desk: false)).ShouldAllBe(t => !t.ForDesk && !t.ForManager);
        ThingToDo.All.Count(t => t.Is(manager: false, desk: true)).ShouldBe(ThingToDo.All.Count(t => !t.ForManager));
        ThingToDo.All.Select(t => t.Key).ShouldBe(Enum.GetValues<ToDo>(), ignoreOrder: true);
    }
}
