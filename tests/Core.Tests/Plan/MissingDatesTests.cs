using CsCheck;
using FirstCoat.Core.Plan;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>A cause that stops thirty operations is said once.</summary>
public sealed class MissingDatesTests
{
    private static readonly PlanReason NoTrade = new(WaitKind.Trade, "nobody has the trade strip");
    private static readonly PlanReason NoFit = new(WaitKind.Fault, "no time can be found in which it fits");

    private static PlanReason After(string name) => new(WaitKind.Operation, $"comes after {name}");

    [Fact]
    public void What_only_comes_after_others_is_counted_behind_their_cause()
    {
        var links = new Dictionary<string, string[]>
        {
            ["strip"] = ["arrival"],
            ["blast"] = ["strip"],
            ["primer"] = ["blast"],
            ["jig"] = ["primer"],
            ["trim"] = ["seats"],
        };
        var causes = MissingDates.Of<string>(
            [
                ("arrival", NoTrade),
                ("strip", NoTrade),
                ("blast", After("strip")),
                ("primer", NoFit),
                ("jig", After("primer")),
                ("trim", new(WaitKind.Part, "carpet, no date")),
            ],
            id => links.GetValueOrDefault(id, [])
        );
        causes
            .Select(c => (c.Text, string.Join(" ", c.Own), c.Behind, c.Total))
            .ShouldBe([("nobody has the trade strip", "arrival strip", 3, 5), ("carpet, no date", "trim", 0, 1)]);
    }

    [Fact]
    public void A_fault_of_its_own_is_a_cause_where_nothing_before_it_is_without_a_date() =>
        MissingDates
            .Of<string>([("primer", NoFit)], _ => ["dated"])
            .Single()
            .ShouldBe(new(WaitKind.Fault, NoFit.Text, ["primer"], 0), new SameCause());

    [Fact]
    public void Every_operation_counts_once_whatever_comes_after_what() =>
        Gen.Select(Gen.Int[1, 30], Gen.Int[0, 29].List[0, 60], Gen.Bool.Array[30])
            .Sample(
                (count, links, own) =>
                {
                    var without = Enumerable
                        .Range(0, count)
                        .Select(i => (i, own[i] ? new PlanReason(WaitKind.Trade, $"trade {i % 3}") : After("x")))
                        .ToList();
                    var causes = MissingDates.Of<int>(without, i =>
                        links.Select((to, k) => (From: k % count, To: to)).Where(l => l.From == i).Select(l => l.To)
                    );
                    causes.Sum(c => c.Total).ShouldBe(count);
                    causes.SelectMany(c => c.Own).Distinct().Count().ShouldBe(causes.Sum(c => c.Own.Count));
                    causes.ShouldAllBe(c => c.Own.Count > 0 || c.Behind > 0);
                }
            );

    private sealed class SameCause : IEqualityComparer<MissingDates<string>>
    {
        public bool Equals(MissingDates<string>? x, MissingDates<string>? y) =>
            x is not null
            && y is not null
            && (x.Kind, x.Text, x.Behind) == (y.Kind, y.Text, y.Behind)
            && x.Own.SequenceEqual(y.Own);

        public int GetHashCode(MissingDates<string> obj) => obj.Text.GetHashCode(StringComparison.Ordinal);
    }
}
