using FirstCoat.Core.Builds;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Tests.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>Where a sequence does not wait any more for what its template puts first.</summary>
public sealed class DeparturesTests
{
    private static List<Operation> Make() =>
        [
            .. Templates.Make(
                Templates.SmallWork,
                Guid.CreateVersion7(),
                RecordedShop.Car,
                FinishGrade.Show,
                1,
                Guid.CreateVersion7
            ),
        ];

    private readonly Departures _template = new(Make());
    private readonly List<Operation> _all = Make();

    private Operation Of(string key) => _all.Single(o => o.TemplateKey == key);

    private string[] Departed() => [.. _template.Of(_all).Select(d => $"{d.Work.TemplateKey} {d.Before.TemplateKey}")];

    [Fact]
    public void As_it_was_made_it_departs_nowhere_nor_with_more_order_than_was_asked()
    {
        Departed().ShouldBeEmpty();
        Of("nib").After = [.. Of("nib").After, new(Of("tune").Id, 0)];
        Departed().ShouldBeEmpty();
    }

    [Fact]
    public void Work_that_waits_no_more_departs_and_through_other_work_it_still_waits()
    {
        Of("tune").After = [];
        Departed().ShouldBe(["tune look"]);
        Of("tune").After = [new(Of("nib").Id, 0)];
        Departed().ShouldBeEmpty();
        // What it waited through is gone: both wait no more.
        Of("nib").After = [];
        Departed().ShouldBe(["tune look", "nib look"], ignoreOrder: true);
    }

    [Fact]
    public void What_is_done_needs_no_order_and_what_was_taken_out_is_looked_through()
    {
        Of("out").After = [new(Of("look").Id, 0)];
        Departed().ShouldBe(["out tune", "out trimfix", "out nib"]);
        Of("tune").Finish("Ada", Instant.FromUtc(2026, 3, 2, 12, 0));
        Departed().ShouldBe(["out trimfix", "out nib"]);
        _all.Remove(Of("trimfix"));
        _all.Remove(Of("nib"));
        // What those came after is what is asked for then.
        Departed().ShouldBeEmpty();
        Of("out").After = [];
        Departed().ShouldBe(["out look"]);
        Of("out").Finish("Ada", Instant.FromUtc(2026, 3, 2, 12, 0));
        Departed().ShouldBeEmpty();
    }

    [Fact]
    public void Work_that_no_template_has_is_free()
    {
        var own = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.CreateVersion7(),
            Name = "Badges",
        };
        _all.Add(own);
        Departed().ShouldBeEmpty();
    }
}
