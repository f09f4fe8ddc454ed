using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What a gate asks for, each with its cause and with the cause taken away.</summary>
public sealed class GateAsksTests
{
    private static readonly HashSet<Guid> None = [];
    private readonly Operation _earlier;
    private readonly Operation _sill;
    private readonly Operation _post;
    private readonly Operation _gate;
    private readonly Operation _first;
    private GateRecord _record = new(
        None,
        None,
        None,
        [],
        Array.Empty<Provision>().ToLookup(p => p.OperationId),
        Array.Empty<(Guid Of, string What)>().ToLookup(x => x.Of, x => x.What)
    );

    public GateAsksTests()
    {
        _earlier = Work("Teardown");
        _first = Gate("Datum", _earlier);
        _sill = Work("Sill", _first);
        _post = Work("Post", _sill);
        _gate = Gate("Fit-up", _post);
        (_sill.Position, _post.Position) = (2, 3);
        _sill.Panels = ["sillL"];
        _earlier.Finish("Ada", Instant.FromUtc(2026, 3, 1, 9, 0));
        _sill.Finish("Ada", Instant.FromUtc(2026, 3, 2, 9, 0));
    }

    private static Operation Work(string name, params Operation[] after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            BudgetMinutes = 60,
            After = [.. after.Select(a => new OperationLink(a.Id, 0))],
        };

    private static Operation Gate(string name, Operation after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Kind = OperationKind.Gate,
            Gate = GateKind.FitUp,
            After = [new(after.Id, 0)],
        };

    private List<GateAsk> Asks(params Obstacle[] against) =>
        [
            .. GateAsks.Of(
                _gate,
                new[] { _earlier, _first, _sill, _post, _gate }.ToDictionary(o => o.Id),
                against,
                _record
            ),
        ];

    private string[] Missing(params Obstacle[] against) =>
        [.. Asks(against).Where(a => !a.IsMet).Select(a => a.Missing)];

    [Fact]
    public void The_work_before_it_must_be_done_and_what_is_in_the_way_must_be_out()
    {
        Asks(new Obstacle(ObstacleKind.TemporaryMetal, "A brace is in.", null))
            .Where(a => a is { Must: true, IsMet: false })
            .Select(a => a.Missing)
            .ShouldBe(["Post is not done", "A brace is in."]);
        _post.Finish("Ada", Instant.FromUtc(2026, 3, 3, 9, 0));
        Asks().Where(a => a.Must).ShouldAllBe(a => a.IsMet);
    }

    [Fact]
    public void Photos_are_asked_of_the_work_since_the_gate_before()
    {
        Missing().ShouldContain("no photo of Sill");
        Asks().ShouldContain(a => a.Words == "A photo of the work that is done" && !a.Must);
        _post.Finish("Ada", Instant.FromUtc(2026, 3, 3, 9, 0));
        Asks().ShouldContain(a => a.Words == "A photo of each of 2 that are done");
        Missing().ShouldContain("no photo of Sill, Post");
        _record = _record with
        {
            Photographed = new HashSet<Guid> { _sill.Id, _post.Id },
        };
        Missing().ShouldBeEmpty();
        // Where nothing is done yet, no photo is said to be there.
        _sill.Reopen();
        _post.Reopen();
        Asks().ShouldNotContain(a => a.Words.Contains("photo"));
    }

    [Fact]
    public void What_rested_on_changed_work_is_judged()
    {
        _record = _record with
        {
            Unjudged = new[] { (Of: _sill.Id, What: "floor raised"), (Of: _earlier.Id, What: "another list") }.ToLookup(
                x => x.Of,
                x => x.What
            ),
        };
        // What an earlier gate has checked is that gate's to ask for.
        Missing().Where(m => m.Contains("not judged")).ShouldBe(["Sill is not judged since “floor raised”"]);
        Asks().ShouldContain(a => a.Words == "Sill judged since “floor raised”" && !a.Must);
    }

    [Fact]
    public void Findings_on_its_panels_have_a_verdict()
    {
        _record = _record with { Findings = [new(3, "sillL", false), new(4, "sillL", true), new(5, "roof", false)] };
        Missing().ShouldContain("no verdict on finding 3");
        _record = _record with { Findings = [new(3, "sillL", true), new(5, "roof", false)] };
        Missing().ShouldNotContain(m => m.Contains("verdict"));
        // Where nobody said which panels, it looks at all of them.
        _sill.Panels = [];
        Missing().ShouldContain("no verdict on finding 5");
    }

    [Fact]
    public void Running_clocks_and_unsettled_hours_on_its_work_are_told_and_keep_nobody_from_signing()
    {
        _record = _record with
        {
            Running = new HashSet<Guid> { _post.Id },
            Flagged = new HashSet<Guid> { _sill.Id },
        };
        Asks()
            .Where(a => !a.Must && !a.IsMet)
            .Select(a => a.Of)
            .ShouldBe([_post.Id, _sill.Id, _gate.Id], ignoreOrder: true);
        // Work behind the gate before it is that gate's.
        _record = _record with
        {
            Running = new HashSet<Guid> { _earlier.Id },
            Flagged = None,
        };
        Missing().ShouldNotContain(m => m.Contains("clock"));
    }

    [Fact]
    public void What_is_missing_at_the_signature_stays_with_it()
    {
        GateAsks.Without(Asks()).ShouldBe("no photo of Sill");
        _gate.Sign(Guid.NewGuid(), "Bo", Instant.FromUtc(2026, 3, 3, 9, 0), false, true, GateAsks.Without(Asks()));
        _gate.Signatures.ShouldHaveSingleItem().Without.ShouldBe("no photo of Sill");
    }
}
