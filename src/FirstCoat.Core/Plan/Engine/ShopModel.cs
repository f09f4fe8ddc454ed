using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>What an operation that has no date lacks, or a date that it waits for.</summary>
internal readonly record struct Since(int At, PlanReason Reason);

/// <summary>The shop's problem laid out for the decoder, with what is needed to name things again.</summary>
internal sealed class ShopModel
{
    /// <summary>Units of a resource that many may share and some ask to have all of.</summary>
    private const int Everyone = 1_000;

    private readonly PlanProblem _problem;
    private readonly Dictionary<string, int> _index = [];
    private readonly List<PlanOperation> _operations;
    private readonly List<string> _ids;
    private readonly List<int> _build;
    private readonly List<int> _work;
    private readonly List<Run> _run;
    private readonly List<Hours> _ownHours;
    private readonly Dictionary<(WaitKind Kind, string Name), int> _resources = [];
    private readonly List<(WaitKind Kind, string Name)> _names = [];
    private readonly List<int> _capacity = [];
    private readonly List<Link[]> _after;
    private readonly List<List<Since>?> _since;
    private readonly List<Need[]> _crew;

    // Operations of which there are few, noted as they come so that nobody has to look through all.
    private readonly List<int> _underWay = [];
    private readonly List<int> _holding = [];
    private readonly List<int> _batched = [];

    /// <summary>Operations that use more than a place, or may do.</summary>
    private readonly List<int> _usesMore = [];

    /// <summary>The kind of station of each, by its number; -1: none, or not one of ours.</summary>
    private readonly List<int> _place;
    private readonly Dictionary<(string Trade, string? Kinds), int[]> _able = [];
    private readonly Dictionary<int[], Need[]> _alone = [];
    private readonly List<InsertedOperation> _inserted = [];

    /// <summary>Minutes of what a window asks for when it lapses, by the operation that it is a window of.</summary>
    private readonly Dictionary<int, int> _again = [];

    /// <summary>The last start inside a window that finished work opened, by operation.</summary>
    private readonly Dictionary<int, int> _until = [];

    private readonly IReadOnlySet<(string Operation, string After)> _lapsed;
    private readonly List<OutOfReach> _outOfReach = [];

    /// <summary>Operations that use the place their build holds, and so need none of their own.</summary>
    private readonly HashSet<(int Operation, int Place)> _inHold = [];

    /// <summary>Builds whose body leaves the shop at some time.</summary>
    private readonly HashSet<int> _leaves = [];

    private readonly Dictionary<string, int> _people;
    private readonly ShopPlaces _places;

    /// <summary>Places in which vehicles stand.</summary>
    private readonly Place[] _standing;

    /// <summary>Why one comes before another where no link of the sequence says so.</summary>
    private readonly Dictionary<(int First, int Then), string> _because = [];

    /// <param name="lapsed">Windows that cannot be kept: the operation and what it follows.</param>
    public ShopModel(PlanProblem problem, IReadOnlySet<(string Operation, string After)> lapsed)
    {
        (_problem, _lapsed) = (problem, lapsed);
        Hours = new(problem);
        var count = problem.Builds.Sum(b => b.Operations.Count);
        _index.EnsureCapacity(count);
        (_operations, _ids, _build, _work, _run, _ownHours, _place, _after, _since, _crew) = (
            new(count),
            new(count),
            new(count),
            new(count),
            new(count),
            new(count),
            new(count),
            new(count),
            new(count),
            new(count)
        );
        _people = problem.People.Select((p, i) => (p.Id, i)).ToDictionary(x => x.Id, x => x.i);
        foreach (var p in problem.People)
        {
            _capacity.Add(1);
            _names.Add((WaitKind.Person, p.Name));
        }

        _places = new(problem);
        foreach (var s in problem.Stations.GroupBy(s => s.Kind))
        {
            Resource(WaitKind.Station, s.Key, s.Sum(x => x.Count));
        }

        _standing = _places.AreAsked
            ? [.. _places.All.Where(p => _places.ForVehicles.Contains(p.Kind)).Select(Stand)]
            : [];

        foreach (var (build, b) in problem.Builds.Select((x, i) => (x, i)))
        {
            foreach (var o in build.Operations)
            {
                Add(o, b);
            }
        }

        Link();
        foreach (var (build, b) in problem.Builds.Select((x, i) => (x, i)))
        {
            var rules = new SupportRules(build, _places);
            _outOfReach.AddRange(rules.Apply(LockFor, Cannot));
            KeepPlace(build);
            foreach (var side in build.SideLocks.Where(_ => build.Operations.All(o => o.Hold?.Station != "Jig")))
            {
                side.Reference.ToList().ForEach(r => Lock(side.SignOff, r));
            }
        }

        GoOn();
        Batches();
        var sorted = BreakCircles();
        FindHeld(sorted.Before);
        Model = Compile(sorted.After, sorted.Order).Prepare((sorted.Before, sorted.Order));
    }

    public Model Model { get; }

    public ShopHours Hours { get; }

    public IReadOnlyList<InsertedOperation> Inserted => _inserted;

    public IReadOnlyList<OutOfReach> OutOfReach => _outOfReach;

    public IReadOnlyList<PlanOperation> Operations => _operations;

    public string IdOf(int operation) => _ids[operation];

    /// <summary>What goes on already.</summary>
    public IReadOnlyList<int> UnderWay => _underWay;

    /// <summary>When operations should be done by themselves, <see cref="Engine.Link.NoLimit"/> where nothing is said;
    /// null: nowhere.</summary>
    public int[]? FinishBy =>
        _operations.Exists(o => o.Deadline is not null)
            ? [.. _operations.Select(o => o.Deadline is { } d ? Clip(d - _problem.Now) : Engine.Link.NoLimit)]
            : null;

    public int IndexOf(string operation) => _index[operation];

    public PlanBuild BuildOf(int operation) => _problem.Builds[_build[operation]];

    /// <summary>What an operation waits for besides others, latest last.</summary>
    public IReadOnlyList<Since> SinceOf(int operation) => _since[operation] ?? NoDates;

    /// <summary>What holds a resource is called in a reason, and of which kind it is.</summary>
    public (WaitKind Kind, string Name) NameOf(int resource) => _names[resource];

    private void Add(PlanOperation o, int build)
    {
        var at = _index[o.Id] = _operations.Count;
        _operations.Add(o);
        _ids.Add(o.Id);
        _build.Add(build);
        _work.Add((int)o.Minutes);
        _ownHours.Add(
            o.Here ? Hours.Visiting(o.Supplier)
            : o.Supplier is not null ? Hours.Supplier(o.Supplier)
            : Engine.Hours.Always
        );
        _place.Add(
            o.Station is not null && _resources.TryGetValue((WaitKind.Station, o.Station), out var place) ? place : -1
        );
        if (
            o.Uses.Count > 0
            || (o.Kinds.Count > 0 && _problem.Air.Count + _problem.Crowds.Count > 0)
            || o.Body != BodyUse.Beside
        )
        {
            _usesMore.Add(at);
        }

        if (o.UnderWay)
        {
            _underWay.Add(at);
        }

        if (o.Hold is not null)
        {
            _holding.Add(at);
        }

        if (o.Batch is not null)
        {
            _batched.Add(at);
        }

        if (o.Body == BodyUse.TakesAway)
        {
            _leaves.Add(build);
        }

        _after.Add([]);
        _since.Add(null);
        for (var w = 0; w < o.Waits.Count; w++)
        {
            var wait = o.Waits[w];
            Wait(
                at,
                new(
                    wait.Until is { } until ? Clip(until - _problem.Now) : Model.Parked,
                    new(wait.Kind, wait.Until is null ? $"{wait.Text}: no date yet" : wait.Text, wait.Ref)
                )
            );
        }

        var crew = o is { With.Count: 0, Person: null, Trade: { } trade } ? Alone(trade, o) : Candidates(o);
        _crew.Add(crew ?? []);
        _run.Add(RunOf(o, _problem.Builds[build].FillIn && crew is [{ Count: 1 }]));
        if (crew is null)
        {
            Cannot(o.Id, NobodyCan(o));
        }
        else if (o.WithoutStop && crew.Length > 0 && o.Minutes > 0 && FitsNoShift(o, crew[0].Classes))
        {
            Cannot(
                o.Id,
                new(
                    WaitKind.Fault,
                    $"must run without a stop for {o.Minutes / 60.0:0.#} hours, and no shift is as long"
                )
            );
        }
    }

    /// <summary>The trade that nobody has, or of which there are too few for one piece of work.</summary>
    private PlanReason NobodyCan(PlanOperation o)
    {
        var asked = o
            .With.Select(w => (w.Trade, w.Count))
            .Append((Trade: o.Trade!, Count: 1))
            .GroupBy(x => x.Trade)
            .Select(g =>
                (Trade: g.Key, Count: g.Sum(x => x.Count), Has: _problem.People.Count(p => p.Trades.Contains(g.Key)))
            )
            .ToList();
        var missing = asked.FirstOrDefault(a => a.Has == 0);
        var few = asked.FirstOrDefault(a => a.Has < a.Count);
        return new(
            WaitKind.Trade,
            missing.Trade is not null ? $"nobody has the trade {Named(missing.Trade)}"
                : _problem.People.Count(p => asked.Exists(a => p.Trades.Contains(a.Trade))) is var able
                && able < asked.Sum(a => a.Count)
                    ? $"needs {asked.Sum(a => a.Count)} people at once, and {(able == 1 ? "one person" : $"{able} people")} could do it"
                : few.Trade is not null
                    ? $"needs {few.Count} with the trade {Named(few.Trade)} at once, and there {(few.Has == 1 ? "is" : "are")} {few.Has}"
                : $"nobody can do it who is given such work: {string.Join(", ", asked.Select(a => Named(a.Trade)))}"
        );
    }

    /// <summary>A trade as the shop calls it; a plan from a file may have trades of its own.</summary>
    private static string Named(string trade) =>
        Enum.TryParse<Trade>(trade, out var known) ? TradeNames.Name(known) : trade.ToLowerInvariant();

    private bool FitsNoShift(PlanOperation o, int[] people) =>
        people.All(p => Hours.Of(p).NextWithoutStop(0, Length(o, p), o.ThroughBreak) >= Engine.Hours.Horizon);

    private static readonly List<Since> NoDates = [];
    private static readonly int[] NoTimes = [];

    private void Wait(int o, Since since) => (_since[o] ??= []).Add(since);

    private int Length(PlanOperation o, int person) => (int)Math.Ceiling(o.Minutes * _problem.People[person].Pace);

    private static int Clip(long minutes) => (int)Math.Clamp(minutes, -Engine.Hours.Horizon, Model.Parked);

    private void Cannot(string operation, PlanReason reason) => Wait(_index[operation], new(Model.Parked, reason));

    /// <summary>The usual case: one of those who have the trade.</summary>
    private Need[]? Alone(string trade, PlanOperation o)
    {
        var able = Able(trade, o);
        return able.Length == 0 ? null
            : _alone.TryGetValue(able, out var need) ? need
            : _alone[able] = [new(1, able)];
    }

    /// <summary>Who could do it, as needs; null: nobody.</summary>
    private Need[]? Candidates(PlanOperation o)
    {
        if (o.Trade is null)
        {
            return [];
        }

        var counts = new List<(string Trade, int Count)> { (o.Trade, 1) };
        foreach (var more in o.With)
        {
            var at = counts.FindIndex(c => c.Trade == more.Trade);
            _ =
                at >= 0
                    ? counts[at] = (more.Trade, counts[at].Count + more.Count)
                    : Also(counts, (more.Trade, more.Count));
        }

        var needs = new List<Need>();
        foreach (var (trade, count) in counts)
        {
            var able = Able(trade, o);
            if (trade == o.Trade && o.Person is not null && _people.TryGetValue(o.Person, out var named))
            {
                // Somebody is settled for the first place; the rest of the same trade comes out of the others.
                needs.Add(new(1, [named]));
                able = able.Where(i => i != named).ToArray();
                if (count > 1)
                {
                    needs.Add(new(count - 1, able));
                }

                continue;
            }

            needs.Add(new(count, able));
        }

        if (needs.Count == 1)
        {
            return needs[0].Classes.Length >= needs[0].Count ? [.. needs] : null;
        }

        var taken = new Taken[needs.Sum(n => Math.Min(n.Count, n.Classes.Length))];
        return
            needs.All(n => n.Classes.Length >= n.Count)
            && Matching.Assign([.. needs], [.. _problem.People.Select(_ => 1)], taken)
            ? [.. needs]
            : null;

        static (string, int) Also(List<(string, int)> list, (string, int) item)
        {
            list.Add(item);
            return item;
        }
    }

    /// <summary>Who has a trade and is given this kind of work, whom it suits best first.</summary>
    private int[] Able(string trade, PlanOperation o)
    {
        var key = (trade, o.Kinds.Count == 0 ? null : string.Join(' ', o.Kinds.Order()));
        var able = _able.TryGetValue(key, out var known) ? known : _able[key] = WhoCan(trade, o.Kinds);
        return o.Preferred.Count == 0 && o.GoesOn is null ? able : PreferredFirst(able, o);
    }

    private int[] WhoCan(string trade, IReadOnlySet<string> kinds) =>
        [
            .. Enumerable
                .Range(0, _problem.People.Count)
                .Where(i => _problem.People[i].Trades.Contains(trade) && !_problem.People[i].NotGiven.Overlaps(kinds)),
        ];

    private int[] PreferredFirst(int[] able, PlanOperation o) =>
        [
            .. able.OrderBy(i =>
                _problem.People[i].Id == o.GoesOn ? 0
                : o.Preferred.Contains(_problem.People[i].Id) ? 1
                : 2
            ),
        ];

    private void Link()
    {
        var links = new List<Link>();
        for (var (i, count) = (0, _operations.Count); i < count; i++)
        {
            var o = _operations[i];
            links.Clear();
            foreach (var link in o.After)
            {
                if (link.DoneAt is { } done)
                {
                    Done(o, i, link, Clip(done - _problem.Now));
                }
                else if (!_index.TryGetValue(link.Operation, out var other))
                {
                    Cannot(o.Id, new(WaitKind.Fault, "it comes after something that is not in the plan"));
                }
                else
                {
                    links.Add(Follow(o, link, other));
                    if (links[^1].HasWindow && link.Lapse is { } lapse)
                    {
                        _again[i] = Math.Max(_again.GetValueOrDefault(i), (int)lapse.Minutes);
                    }
                }
            }

            _after[i] = [.. links, .. _after[i]];
        }
    }

    /// <summary>The earliest start by what an operation waits for besides others.</summary>
    private int ReleaseOf(int o)
    {
        var release = 0;
        foreach (var since in _since[o] ?? NoDates)
        {
            release = Math.Max(release, since.At);
        }

        return release;
    }

    private void Done(PlanOperation o, int at, PlanLink link, int done)
    {
        if (link.LagMinutes > 0)
        {
            var hours = link.Working ? Hours.Shop : Engine.Hours.Always;
            Wait(at, new(hours.Finish(done, (int)link.LagMinutes), PlanReason.Cures(link.LagMinutes, link.Operation)));
        }

        if (link is not { AtMost: { } most, Lapse: { } lapse })
        {
            return;
        }

        // A window that is over already, or that the earliest start misses, has lapsed.
        var until = done + (int)most;
        if (ReleaseOf(at) > until || HasLapsed(o.Id, link.Operation))
        {
            Insert(o, link, until < 0 ? "its window is over" : "its window cannot be kept");
        }
        else
        {
            _until[at] = Math.Min(_until.GetValueOrDefault(at, Engine.Link.NoLimit), until);
            _again[at] = Math.Max(_again.GetValueOrDefault(at), (int)lapse.Minutes);
        }
    }

    private Link Follow(PlanOperation o, PlanLink link, int other)
    {
        var lapses = HasLapsed(o.Id, link.Operation);
        if (lapses && link.Lapse is not null)
        {
            Insert(o, link, "its window cannot be kept");
        }

        var most = link.AtMost is { } m && !lapses ? (int)m : Engine.Link.NoLimit;
        return new(other, (int)link.LagMinutes, most, link.FromStart, link.Working ? Hours.Shop : Engine.Hours.Always);
    }

    private bool HasLapsed(string operation, string after) => _lapsed.Count > 0 && _lapsed.Contains((operation, after));

    /// <summary>What finished work an operation must follow in time.</summary>
    public IEnumerable<(string Operation, string After)> OpenWindows(int operation) =>
        _operations[operation]
            .After.Where(l => l is { DoneAt: not null, AtMost: not null, Lapse: not null })
            .Select(l => (IdOf(operation), l.Operation));

    private void Also(int o, int after, int most = Engine.Link.NoLimit, bool fromStart = false) =>
        _after[o] = [.. _after[o], new(after, 0, most, fromStart, Engine.Hours.Always)];

    /// <summary>Work goes in just before an operation, after everything that this follows.</summary>
    private void Insert(PlanOperation o, PlanLink window, string why)
    {
        var (build, lapse) = (BuildOf(_index[o.Id]), window.Lapse!);
        var id = $"{o.Id} again";
        if (_index.ContainsKey(id))
        {
            return;
        }

        // Who does the operation does this too where nobody has the trade that was thought of.
        Add(
            new()
            {
                Id = id,
                Name = lapse.Name,
                Minutes = lapse.Minutes,
                Trade = _problem.People.Any(p => p.Trades.Contains(lapse.Trade)) ? lapse.Trade : o.Trade,
            },
            _build[_index[o.Id]]
        );
        foreach (var link in o.After.Where(l => l.DoneAt is null && _index.ContainsKey(l.Operation)))
        {
            Also(_index[id], _index[link.Operation], fromStart: link.FromStart);
        }

        // The same window begins again with it, so that it is not done weeks too soon.
        Also(_index[o.Id], _index[id], HasLapsed(o.Id, id) ? Engine.Link.NoLimit : (int)window.AtMost!.Value);
        _again[_index[o.Id]] = Math.Max(_again.GetValueOrDefault(_index[o.Id]), (int)lapse.Minutes);
        _inserted.Add(new(id, build.Id, lapse.Name, window.Operation, o.Id, why));
    }

    /// <summary>One comes before another, unless that would make a circle.</summary>
    /// <returns>Whether it can.</returns>
    private bool Lock(string first, string then)
    {
        var can = _index.TryGetValue(first, out var a) & _index.TryGetValue(then, out var b) && a != b && !Comes(b, a);
        if (can)
        {
            Also(b, a);
        }

        return can;
    }

    private bool LockFor(string first, string then, string why)
    {
        var can = Lock(first, then);
        if (can)
        {
            _because[(_index[first], _index[then])] = why;
        }

        return can;
    }

    /// <summary>Why one comes before another where the shell's support, a door or begun work asks for it; null: the
    /// sequence says so.</summary>
    public string? Because(int first, int then) => _because.GetValueOrDefault((first, then));

    private Place Stand(NamedPlace p, int number)
    {
        var resource = _capacity.Count;
        _capacity.Add(p.Takes);
        _names.Add((WaitKind.Station, p.Name));
        return new(
            p.Id,
            p.Name,
            p.Kind,
            resource,
            -1,
            [
                .. p.Closed.Select(c =>
                    (Clip(c.From - _problem.Now), c.To is { } to ? Clip(to - _problem.Now) : Model.Parked)
                ),
            ],
            number
        );
    }

    /// <summary>Work that was begun on the vehicle where it stands is done before it goes to another kind of
    /// place.</summary>
    private void KeepPlace(PlanBuild build)
    {
        if (_places.Standing(build) is not { } here)
        {
            return;
        }

        foreach (
            var begun in build.Operations.Where(o =>
                o is { Begun: true, Body: BodyUse.OnBody } && o.Station == here.Kind
            )
        )
        {
            foreach (
                var other in build.Operations.Where(o =>
                    o.Body != BodyUse.Beside
                    && !o.UnderWay
                    && o.Station != here.Kind
                    && (o.Station is not null || o.Body == BodyUse.TakesAway)
                )
            )
            {
                LockFor(
                    begun.Id,
                    other.Id,
                    $"{begun.Name} was begun in {here.Name}, and is done before the vehicle is moved"
                );
            }
        }
    }

    /// <summary>What goes on already comes before all that asks for the same place, or for the body that is
    /// away.</summary>
    private void GoOn()
    {
        foreach (var u in _underWay)
        {
            var (mine, place) = (_operations[u], _operations[u].Hold?.Station ?? _operations[u].Station);
            for (var o = 0; o < _operations.Count; o++)
            {
                var same =
                    place is not null && (_operations[o].Station == place || _operations[o].Hold?.Station == place);
                var body =
                    mine.Body != BodyUse.Beside && _build[o] == _build[u] && _operations[o].Body != BodyUse.Beside;
                if (o != u && (same || body) && !_operations[o].UnderWay && !Comes(o, u))
                {
                    Also(o, u, fromStart: true);
                }
            }
        }
    }

    /// <summary>A build's own work on the place that it holds goes on in that place.</summary>
    private void FindHeld(Link[][] before)
    {
        var (down, up) = (new Reach(_operations.Count), new Reach(_operations.Count));
        foreach (var o in _holding)
        {
            var hold = _operations[o].Hold!;
            if (
                !_index.TryGetValue(hold.Until, out var close)
                || !_resources.TryGetValue((WaitKind.Station, hold.Station), out var place)
            )
            {
                continue;
            }

            down.From(close, at => _after[at]);
            foreach (var x in up.From(o, at => before[at]))
            {
                if (down.Has(x) && _build[x] == _build[o] && (_place[x] == place || _operations[x].Kinds.Count > 0))
                {
                    _inHold.Add((x, place));
                }
            }
        }
    }

    /// <summary>Whether <paramref name="late"/> already follows <paramref name="early"/>.</summary>
    private bool Comes(int early, int late)
    {
        var open = new Stack<int>([late]);
        var seen = new HashSet<int>();
        while (open.TryPop(out var o))
        {
            if (o == early)
            {
                return true;
            }

            foreach (var link in _after[o].Where(l => seen.Add(l.Other)))
            {
                open.Push(link.Other);
            }
        }

        return false;
    }

    private void Batches()
    {
        foreach (var batch in _batched.GroupBy(o => _operations[o].Batch))
        {
            foreach (var o in batch.Skip(1))
            {
                Also(o, batch.First(), most: 0, fromStart: true);
            }
        }
    }

    /// <summary>Operations that wait for each other are left out, each with the names of all.</summary>
    /// <returns>The links, the same from the other end, and all operations each after what it follows.</returns>
    private (Link[][] After, Link[][] Before, int[] Order) BreakCircles()
    {
        while (true)
        {
            Link[][] after = [.. _after];
            var before = Model.Follow(after);
            var order = Model.Sort(after, before, out var circle);
            if (circle is null)
            {
                return (after, before, order);
            }

            var names = string.Join(" > ", circle.Append(circle[0]).Select(o => _operations[o].Name));
            foreach (var o in circle)
            {
                _after[o] = [];
                Cannot(_operations[o].Id, new(WaitKind.Fault, $"these wait for each other: {names}"));
            }
        }
    }

    private int Resource(WaitKind kind, string name, int capacity)
    {
        if (!_resources.TryGetValue((kind, name), out var at))
        {
            at = _resources[(kind, name)] = _capacity.Count;
            _capacity.Add(capacity);
            _names.Add((kind, name));
        }

        return at;
    }

    private static readonly Use[] Nothing = [];

    private readonly Dictionary<int, Use[]> _onlyPlace = [];

    private Use[][] Uses()
    {
        var uses = new Use[_operations.Count][];
        for (var o = 0; o < uses.Length; o++)
        {
            uses[o] = _place[o] < 0 || _inHold.Contains((o, _place[o])) ? Nothing : OnlyPlace(_place[o]);
        }

        var groups = new Dictionary<string, List<int>>();
        foreach (var group in _problem.Builds.SelectMany(b => b.OneAtATime))
        {
            var at = Resource(WaitKind.Operation, string.Join(' ', group), 1);
            foreach (var id in group.Distinct().Where(_index.ContainsKey))
            {
                (groups.TryGetValue(id, out var list) ? list : groups[id] = []).Add(at);
            }
        }

        foreach (var o in _usesMore.Concat(groups.Keys.Select(IndexOf)).Distinct())
        {
            uses[o] = Crowded(o, [.. uses[o], .. More(o, groups)]);
        }

        return uses;
    }

    /// <summary>What the work closes beside it, as far as the shop has so many places; its own place counts
    /// besides.</summary>
    private Use[] Crowded(int o, List<Use> uses)
    {
        foreach (var rule in _problem.Crowds.Where(r => _operations[o].Kinds.Contains(r.Kind)))
        {
            if (_resources.TryGetValue((WaitKind.Station, rule.Station), out var place))
            {
                var own = uses.RemoveAll(u => u.Resource == place);
                var free = _capacity[place] - (_inHold.Contains((o, place)) ? 1 : 0);
                var count = Math.Min(free, rule.Count + own);
                uses.AddRange(count > 0 ? [new Use(place, count, count)] : []);
            }
        }

        return [.. uses];
    }

    /// <summary>The same for all work on a kind of station that uses nothing else.</summary>
    private Use[] OnlyPlace(int place) =>
        _onlyPlace.TryGetValue(place, out var only) ? only : _onlyPlace[place] = [new(place, 1, 1)];

    private List<Use> More(int at, Dictionary<string, List<int>> groups)
    {
        var (o, uses) = (_operations[at], new List<Use>());
        foreach (var thing in o.Uses)
        {
            var have = _problem.Stock.FirstOrDefault(s => s.Name == thing.Name)?.Count ?? 0;
            uses.Add(new(Resource(WaitKind.Stock, thing.Name, have), thing.Count, thing.Count));
        }

        uses.AddRange(_problem.Air.SelectMany(rule => Shares(at, rule)));
        if (o.Body != BodyUse.Beside && _leaves.Contains(_build[at]))
        {
            var body = Resource(WaitKind.Outside, BuildOf(at).Id, Everyone);
            uses.Add(o.Body == BodyUse.TakesAway ? new(body, Everyone, Everyone) : new(body, 1, 1));
        }

        foreach (var group in groups.GetValueOrDefault(o.Id, []))
        {
            uses.Add(new(group, 1, 1));
        }

        return uses;
    }

    /// <summary>Work of one kind takes one share and wants nobody of the other in its air.</summary>
    private IEnumerable<Use> Shares(int at, AirRule rule)
    {
        var o = _operations[at];
        if (rule.OnOneVehicle && o.Body == BodyUse.Beside)
        {
            yield break;
        }

        var where = rule.OnOneVehicle ? BuildOf(at).Id : o.Space;
        int Air(string kind) => Resource(WaitKind.Air, $"{rule.Why}\n{kind} {where}", Everyone);
        if (o.Kinds.Contains(rule.One))
        {
            yield return new(Air(rule.One), 1, 1);
            yield return new(Air(rule.Other), Everyone, 0);
        }

        if (o.Kinds.Contains(rule.Other) && rule.One != rule.Other)
        {
            yield return new(Air(rule.Other), 1, 1);
            yield return new(Air(rule.One), Everyone, 0);
        }
    }

    /// <summary>Where vehicles stand and where work on them can be done; null: nothing is said of places.</summary>
    private VehicleModel? Vehicles(Link[][] after, int[] order, Use[][] uses)
    {
        if (!_places.AreAsked)
        {
            return null;
        }

        var (moves, count) = (_problem.Moves, _operations.Count);
        var bench = Enumerable
            .Range(0, count)
            .Where(o =>
                _operations[o].Body == BodyUse.Beside
                && _operations[o].Station is { } k
                && _places.ForVehicles.Contains(k)
            )
            .ToList();
        var wholes = bench.Select(o => _operations[o].Station!).Distinct().ToDictionary(k => k, WholeOf);
        var places = Array.ConvertAll(_standing, p =>
            wholes.TryGetValue(p.Kind, out var whole) && whole != p.Resource ? p with { Whole = whole } : p
        );
        bench.ForEach(o => uses[o] = [.. uses[o], new(wholes[_operations[o].Station!], 1, 1)]);

        return new()
        {
            Places = [.. places, Spare(places.Length)],
            Spare = places.Length,
            StandsAt =
            [
                .. _problem.Builds.Select(b =>
                    _places.Standing(b) is { } at ? Array.FindIndex(places, p => p.Id == at.Id) : Stay.Nowhere
                ),
            ],
            Body = [.. _operations.Select(o => o.Body)],
            Options =
            [
                .. _operations.Select(o =>
                    o.Body == BodyUse.OnBody && (o.Station ?? o.Hold?.Station) is { } kind ? PlacesOf(kind, o.At) : null
                ),
            ],
            Benches =
            [
                .. _operations.Select(o =>
                    o.Body == BodyUse.Beside && o.Station is { } kind && _places.ForVehicles.Contains(kind)
                        ? PlacesOf(kind)
                        : null
                ),
            ],
            Visit = Visits(after, order),
            Shells =
            [
                .. _problem.Builds.Select(b => new Shell(
                    b.Support?.Rolls ?? true,
                    b.Support?.DollyMm ?? 0,
                    b.HeightMm
                )),
            ],
            Changes =
            [
                .. _operations.Select(
                    (o, i) =>
                        BuildOf(i).Support is not null && (o.Sets is not null || o.LowersMm > 0)
                            ? new ShellChange(o.Sets?.Rolls, o.Sets?.DollyMm ?? 0, o.LowersMm)
                            : null
                ),
            ],
            Passes =
            [
                .. _problem.Builds.Select(b =>
                    (int[])
                        [
                            .. places.Select(p =>
                                _places.All.First(x => x.Id == p.Id).Door is { } door && b.Support is not null
                                    ? door.HeightMm - (b.KeptFreeMm ?? door.MarginMm)
                                    : int.MaxValue
                            ),
                            int.MaxValue,
                        ]
                ),
            ],
            Hands = (moves.Hands, moves.HandsNotRolling),
            Yards = [.. places.Where(p => p.Kind == PlanStation.YardKind).Select(p => p.Number)],
            MoveMinutes = moves.Minutes,
            Operations = [.. Enumerable.Range(0, _problem.Builds.Count).Select(b => _build.Count(x => x == b))],
        };
    }

    private Place Spare(int number)
    {
        _capacity.Add(Everyone);
        _names.Add((WaitKind.Station, ""));
        return new("", "", "", _capacity.Count - 1, -1, [], number);
    }

    private int[] PlacesOf(string kind) => [.. _standing.Where(p => p.Kind == kind).Select(p => p.Number)];

    /// <summary>The one that is wanted, where it is of this kind; else any.</summary>
    private int[] PlacesOf(string kind, string? wanted) =>
        wanted is not null && Array.Find(_standing, p => p.Kind == kind && p.Id == wanted) is { } one
            ? [one.Number]
            : PlacesOf(kind);

    /// <summary>The room of all places of a kind; a single place is the room of its kind.</summary>
    private int WholeOf(string kind)
    {
        var mine = _standing.Where(p => p.Kind == kind).ToList();
        if (mine.Count == 1)
        {
            return mine[0].Resource;
        }

        _capacity.Add(mine.Sum(p => _capacity[p.Resource]));
        _names.Add((WaitKind.Station, kind));
        return _capacity.Count - 1;
    }

    /// <summary>How long each operation on a vehicle and what follows it there take at that kind of place, on the
    /// clock.</summary>
    private int[] Visits(Link[][] after, int[] order)
    {
        var visit = new int[_operations.Count];
        for (var i = order.Length - 1; i >= 0; i--)
        {
            var o = order[i];
            if (_operations[o] is not { Body: BodyUse.OnBody, Station: { } kind })
            {
                continue;
            }

            visit[o] += (int)(_work[o] * (_crew[o].Length > 0 ? ShopTurns.ClockPerWork : 1));
            foreach (var link in after[o])
            {
                var before = _operations[link.Other];
                visit[link.Other] =
                    before is { Body: BodyUse.OnBody } && before.Station == kind && _build[link.Other] == _build[o]
                        ? Math.Max(visit[link.Other], visit[o] + link.Lag)
                        : visit[link.Other];
            }
        }

        return visit;
    }

    private Model Compile(Link[][] after, int[] order)
    {
        var uses = Uses();
        var vehicles = Vehicles(after, order, uses);
        var closed = _problem
            .Stations.SelectMany(s =>
                s.Closed.Select(c => new Closure(
                    _resources[(WaitKind.Station, s.Kind)],
                    Clip(c.From - _problem.Now),
                    c.To is { } to ? Clip(to - _problem.Now) : Model.Parked,
                    s.Id is null ? Math.Min(c.Count, s.Count) : s.Count
                ))
            )
            .ToArray();
        var covers = _problem
            .Builds.Select(b =>
                b.Covered?.OrderBy(c => c.From)
                    .Select(c => new Cover(Clip(c.From - _problem.Now), (long)(c.InAll * 100)))
                    .ToArray()
            )
            .ToArray();
        return new()
        {
            Work = [.. _work],
            Release = Enumerable.Range(0, _operations.Count).Select(ReleaseOf).ToArray(),
            Dates = [.. _since.Select(s => s is null ? NoTimes : s.ConvertAll(d => d.At).ToArray())],
            Run = [.. _run],
            OwnHours = [.. _ownHours],
            Crew = [.. _crew],
            Uses = uses,
            After = after,
            Build = [.. _build],
            Holds =
            [
                .. _holding
                    .Select(o => (o, _operations[o].Hold!))
                    .Where(h =>
                        _index.ContainsKey(h.Item2.Until) && _resources.ContainsKey((WaitKind.Station, h.Item2.Station))
                    )
                    .Select(h => new Hold(h.o, _index[h.Item2.Until], _resources[(WaitKind.Station, h.Item2.Station)])),
            ],
            Capacity = [.. _capacity],
            ClassHours = Hours.HasSlots ? (p, b) => Hours.Of(p, _problem.Builds[b].Id) : (p, _) => Hours.Of(p),
            Axis = Enumerable.Range(0, _problem.People.Count).Select(Hours.Of).ToArray(),
            Pace = _problem.People.All(p => p.Pace == 1) ? null : _problem.People.Select(p => p.Pace).ToArray(),
            Due = _problem
                .Builds.Select(b => b.Due is { } due ? Clip(due - _problem.Now) : Engine.Hours.Horizon)
                .ToArray(),
            Weight = _problem.Builds.Select(b => b.Due is null ? 0 : b.Weight).ToArray(),
            FillIn = _problem.Builds.Any(b => b.FillIn)
                ? [.. _operations.Select((o, at) => _problem.Builds[_build[at]].FillIn && !o.UnderWay)]
                : null,
            Again =
                _again.Count == 0
                    ? null
                    : Enumerable.Range(0, _operations.Count).Select(o => _again.GetValueOrDefault(o)).ToArray(),
            Until =
                _until.Count == 0
                    ? null
                    : Enumerable
                        .Range(0, _operations.Count)
                        .Select(o => _until.GetValueOrDefault(o, Engine.Link.NoLimit))
                        .ToArray(),
            Closed = closed,
            Covers = covers,
            Cost = covers.Any(c => c is not null) ? _operations.Select(o => (long)(o.Cost * 100)).ToArray() : null,
            Parks = true,
            Both = Hours.Both,
            GoesOn = _operations.Exists(o => o.GoesOn is not null)
                ? [.. _operations.Select(o => o.GoesOn is { } p ? _people.GetValueOrDefault(p, -1) : -1)]
                : null,
            Vehicles = vehicles,
        };
    }

    private static Run RunOf(PlanOperation o, bool pieces) =>
        o switch
        {
            { Supplier: not null } or { Here: true } => Run.Split,
            { Trade: null } => Run.Nonstop,
            { WithoutStop: true, ThroughBreak: true } => Run.ThroughBreaks,
            { WithoutStop: true } => Run.Nonstop,
            _ => pieces ? Run.Pieces : Run.Split,
        };
}
