using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>Something that keeps a cluster from starting sooner, as long as it is there.</summary>
/// <param name="Next">The operation that a reason goes on to; -1: it ends here.</param>
internal sealed record Cause(int Operation, PlanReason Reason, Loosened Loose, int Next = -1)
{
    /// <summary>Which is named first where two would do: the lower, the sooner.</summary>
    public int Rank { get; init; }

    /// <summary>Work of the same build whose own reasons may be the roots of this one; -1: none.</summary>
    public int Through { get; init; } = -1;
}

/// <summary>
/// Finds why each operation of a complete schedule does not start sooner: what, taken away with everything else kept as
/// it is and in its order, lets it. Nothing is said that was not tried.
/// </summary>
internal sealed class Causes
{
    /// <summary>So many people of a trade are tried one by one at most.</summary>
    private const int MostTried = 6;

    private readonly PlanProblem _problem;
    private readonly ShopModel _shop;
    private readonly Model _model;
    private readonly Decoder _decoder;
    private readonly Schedule _schedule;
    private readonly Dictionary<int, Explained> _explained = [];
    private readonly Dictionary<int, List<Cause>> _candidates = [];
    private readonly Dictionary<int, Hours> _noAbsence = [];
    private readonly Lock _lock = new();

    /// <summary>When each operation starts at the latest. It asks nothing of the decoder, so nobody waits for
    /// it.</summary>
    private readonly Lazy<int[]> _late;

    /// <param name="decoder">As it stands after it has placed everything.</param>
    public Causes(PlanProblem problem, ShopModel shop, Decoder decoder, Schedule schedule)
    {
        (_problem, _shop, _model, _decoder, _schedule) = (problem, shop, shop.Model, decoder, schedule);
        _late = new(Latest);
    }

    /// <summary>Why an operation does not start sooner.</summary>
    /// <param name="Direct">What holds it itself.</param>
    /// <param name="Roots">What would have to go, all of it together.</param>
    /// <param name="Steps">From the operation to where its roots are, each with what holds it.</param>
    /// <param name="Path">The clusters that are placed again, in their order.</param>
    internal sealed record Explained(
        IReadOnlyList<Cause> Direct,
        IReadOnlyList<Cause> Roots,
        IReadOnlyList<int> Steps,
        IReadOnlyList<int> Path
    );

    /// <summary>Minutes by which an operation that has a date can be later without moving the end of its
    /// build.</summary>
    public long SlackOf(int o) => Math.Max(0, _late.Value[o] - _schedule.Start[o]);

    /// <summary>Why an operation that has a date does not start sooner.</summary>
    public PlanWhy Of(int o)
    {
        lock (_lock)
        {
            var explained = Explain(o);
            var steps = explained
                .Steps.Select(s => new WhyStep(
                    _shop.IdOf(s),
                    _shop.Operations[s].Name,
                    _shop.BuildOf(s).Name,
                    _problem.Now + _schedule.Start[s],
                    Together(Explain(s).Direct, s),
                    SlackOf(s)
                ))
                .ToList();
            return new([.. explained.Roots.Select(r => r.Reason)], steps)
            {
                WithoutThem =
                    explained.Roots.Count == 0
                        ? null
                        : Placed(explained, o)?.Find(p => p.Operation == o).Start + _problem.Now,
            };
        }
    }

    /// <summary>Where the chain of an operation goes once its roots are gone, by operation; the people by
    /// number.</summary>
    internal List<(int Operation, int Start, int Finish, List<int> People)>? PlacedAgain(int o)
    {
        lock (_lock)
        {
            return Placed(Explain(o), o);
        }
    }

    private List<(int Operation, int Start, int Finish, List<int> People)>? Placed(Explained explained, int o)
    {
        List<(int, int, int, List<int>)>? placed = null;
        return Tried(explained.Path, explained.Roots, () =>
        {
            placed =
            [
                .. explained
                    .Path.SelectMany(c => _model.Clusters[c].Operations)
                    .Select(x => (x, _decoder.Start[x], _decoder.Finish[x], Crew(x))),
            ];
            return _decoder.Start[o] < _schedule.Start[o];
        }) ? placed : null;

        List<int> Crew(int x) =>
            [
                .. Enumerable
                    .Range(_model.CrewAt[x], _model.CrewAt[x + 1] - _model.CrewAt[x])
                    .Where(i => _decoder.Crew[i].Count > 0)
                    .Select(i => _decoder.Crew[i].Class),
            ];
    }

    /// <summary>What binds together is named together, the last one's date with it.</summary>
    private PlanReason Together(IReadOnlyList<Cause> causes, int o) =>
        causes.Count switch
        {
            0 => _schedule.Start[o] <= 0
                ? PlanReason.CanStart
                : new(WaitKind.Nothing, "nothing that was tried lets it start sooner"),
            1 => causes[0].Reason,
            _ => causes[0].Reason with
            {
                Text = string.Join(", and ", causes.Select(c => c.Reason.Dated(_problem.Calendar)).Distinct()),
                Until = null,
            },
        };

    private Explained Explain(int o)
    {
        if (_explained.TryGetValue(o, out var known))
        {
            return known;
        }

        return _explained[o] = Found(o);
    }

    private Explained Found(int o)
    {
        var direct = Inner(o) is { } inner ? [inner] : Direct(o);
        if (direct.Count == 0)
        {
            return new(direct, [], [o], [_model.ClusterOf[o]]);
        }

        // Where the vehicle is worked on elsewhere, what keeps that work is the root, if it is enough; else that work
        // is.
        if (
            direct.Exists(c => c.Through >= 0)
            && Followed(o, direct, c => c.Next >= 0 ? c.Next : c.Through) is { } through
            && Sooner(through.Path, through.Roots, o)
        )
        {
            return through;
        }

        var found = Followed(o, direct, c => c.Next);
        return Sooner(found.Path, found.Roots, o) ? found : Widened(found, o);
    }

    /// <summary>Causes and, where they go on, the causes of what they go on to.</summary>
    private Explained Followed(int o, IReadOnlyList<Cause> direct, Func<Cause, int> next)
    {
        var (roots, path, steps) = (new List<Cause>(), new HashSet<int>(), new List<int> { o });
        foreach (var cause in direct)
        {
            if (next(cause) is not (>= 0 and var at))
            {
                roots.Add(cause);
                continue;
            }

            var before = Explain(at);
            // What goes on now already cannot be sooner: then it is itself what would have to go.
            roots.AddRange(before.Roots.Count == 0 ? [cause] : before.Roots);
            path.UnionWith(before.Roots.Count == 0 ? [] : before.Path);
            steps.AddRange(before.Steps.Where(s => !steps.Contains(s)));
        }

        path.Add(_model.ClusterOf[o]);
        return new(direct, [.. roots.DistinctBy(r => r.Reason)], steps, InOrder(path));
    }

    /// <summary>The roots do not do alone: with what else holds the same chain, or else what comes directly before has
    /// to go.</summary>
    private Explained Widened(Explained found, int o)
    {
        var all = found.Roots.Concat(found.Path.SelectMany(c => Candidates(c).Where(x => x.Next < 0))).ToList();
        if (Sooner(found.Path, all, o))
        {
            for (var i = all.Count - 1; i >= 0; i--)
            {
                var without = all.Where((_, k) => k != i).ToList();
                all = Sooner(found.Path, without, o) ? without : all;
            }

            if (all.Count <= MostTogether)
            {
                return found with { Roots = all };
            }
        }

        // What it follows within what is tied together may hold it only along with other things.
        int[] alone = [_model.ClusterOf[o]];
        return found with
        {
            Roots = Sooner(alone, found.Direct, o) ? found.Direct : Direct(o),
            Steps = [o],
            Path = alone,
        };
    }

    /// <summary>More than so many at once tell nobody what to do.</summary>
    private const int MostTogether = 3;

    private List<int> InOrder(HashSet<int> clusters)
    {
        var left = new List<int>(clusters.OrderBy(c => _schedule.Start[_model.Clusters[c].Operations[0]]));
        var order = new List<int>(left.Count);
        while (left.Count > 0)
        {
            var next = left.FindIndex(c => !Array.Exists(_model.ClusterAfter[c], left.Contains));
            order.Add(left[next]);
            left.RemoveAt(next);
        }

        return order;
    }

    /// <summary>Whether an operation starts sooner once causes are gone, with nothing else placed again than a
    /// chain.</summary>
    private bool Sooner(IReadOnlyList<int> path, IReadOnlyList<Cause> causes, int o) =>
        Tried(path, causes, () => _decoder.Start[o] < _schedule.Start[o]);

    private bool Tried(IReadOnlyList<int> path, IReadOnlyList<Cause> causes, Func<bool> ask)
    {
        var loose = new Dictionary<int, Loosened>();
        foreach (var cause in causes)
        {
            var cluster = _model.ClusterOf[cause.Operation];
            if (!loose.TryGetValue(cluster, out var mine))
            {
                loose[cluster] = mine = new();
            }

            mine.Add(cause.Loose);
        }

        var rest =
            causes.Any(c => c.Loose.AllRest) ? Enumerable.Range(0, _model.Clusters.Length)
            : causes.FirstOrDefault(c => c.Loose.OwnRest) is { } own
                ? Enumerable
                    .Range(0, _model.Clusters.Length)
                    .Where(c => _model.Build[_model.Clusters[c].Operations[0]] == _model.Build[own.Operation])
            : [];
        var gone = causes
            .Where(c => c.Next >= 0)
            .Select(c => _model.ClusterOf[c.Next])
            .Concat(rest.Where(c => _schedule.Start[_model.Clusters[c].Operations[0]] < Model.Parked))
            .Where(c => !path.Contains(c))
            .Distinct()
            .ToList();
        return _decoder.Again(path, gone, c => loose.GetValueOrDefault(c), _schedule, ask);
    }

    /// <summary>Within what is tied together: the member that an operation follows at once.</summary>
    private Cause? Inner(int o)
    {
        var links = _model.After[o];
        for (var i = 0; i < links.Length; i++)
        {
            var link = links[i];
            if (_model.ClusterOf[link.Other] != _model.ClusterOf[o])
            {
                continue;
            }

            var ready = link.LagHours.Finish(
                link.FromStart ? _schedule.Start[link.Other] : _schedule.Finish[link.Other],
                link.Lag
            );
            if (
                ready <= _schedule.Start[o]
                && (ready == _schedule.Start[o] || _model.Run[o] == Run.Split || _model.Crew[o].Length == 0)
                && NextHour(o, ready) >= _schedule.Start[o]
            )
            {
                return Following(o, i);
            }
        }

        return null;
    }

    private int NextHour(int o, int ready)
    {
        var people = People(o);
        return people.Count == 0 ? _model.OwnHours[o].Next(ready) : HoursOf(people[0], o).Next(ready);
    }

    private List<int> People(int o) =>
        [
            .. Enumerable
                .Range(_model.CrewAt[o], _model.CrewAt[o + 1] - _model.CrewAt[o])
                .Where(i => _schedule.Crew[i].Count > 0)
                .Select(i => _schedule.Crew[i].Class),
        ];

    private Hours HoursOf(int person, int o) => _model.ClassHours?.Invoke(person, _model.Build[o]) ?? Hours.Always;

    /// <summary>The fewest causes that let an operation start sooner once they are gone; none: it starts as soon as
    /// anything can.</summary>
    private List<Cause> Direct(int o)
    {
        var cluster = _model.ClusterOf[o];
        int[] path = [cluster];
        if (_schedule.Start[o] <= 0)
        {
            return [];
        }

        // What people can change comes first, alone or together; that it is night, or that a shift is too short, only
        // where nothing else would do.
        var candidates = Candidates(cluster);
        var (real, late) = (
            candidates.Where(c => c.Rank < Late).ToList(),
            candidates.Where(c => c.Rank >= Late).ToList()
        );
        // A vehicle that is moved first, or is worked on elsewhere, is a reason of its own only where it is not what
        // comes before, and a place: to be spared the move would gain its minutes and hide the rest.
        var together = new List<Cause>();
        foreach (
            var tried in (List<Cause>[])
                [
                    [.. real.Where(c => !c.Loose.Vehicle && !c.Loose.Hands)],
                    real,
                ]
        )
        {
            if (Alone(tried) is { } one)
            {
                return [one];
            }

            together = Fewest(tried);
            if (together.Count is > 0 and <= MostTogether)
            {
                return together;
            }
        }

        if (Alone(late) is { } other)
        {
            return [other];
        }

        together = together.Count > 0 ? together : Fewest(candidates);
        if (together.Count > 0)
        {
            return together;
        }

        var own = new Cause(
            o,
            new(WaitKind.Body, $"the rest of {_shop.BuildOf(o).Name} goes first"),
            With(l => l.OwnRest = true)
        );
        var all = new Cause(
            o,
            new(WaitKind.Calendar, "the rest of the shop's work goes first"),
            With(l => l.AllRest = true)
        );
        return Fewest([.. candidates, own]) is { Count: > 0 } rest ? rest : Fewest([.. candidates, own, all]);

        Cause? Alone(List<Cause> causes) => causes.Find(c => Sooner(path, [c], o));

        List<Cause> Fewest(List<Cause> causes)
        {
            if (causes.Count == 0 || !Sooner(path, causes, o))
            {
                return [];
            }

            var left = causes;
            for (var i = left.Count - 1; i >= 0; i--)
            {
                var without = left.Where((_, k) => k != i).ToList();
                left = Sooner(path, without, o) ? without : left;
            }

            return left;
        }
    }

    /// <summary>From this rank on causes are the calendar's, not the shop's.</summary>
    private const int Late = 5;

    private List<Cause> Candidates(int cluster)
    {
        if (!_candidates.TryGetValue(cluster, out var known))
        {
            known = _candidates[cluster] = [
                .. _model.Clusters[cluster].Operations.SelectMany(Holding).OrderBy(c => c.Rank),
            ];
        }

        return known;
    }

    /// <summary>Everything that could hold an operation, what people can change most easily first.</summary>
    private IEnumerable<Cause> Holding(int o)
    {
        var cluster = _model.Clusters[_model.ClusterOf[o]];
        var dates = _shop.SinceOf(o);
        for (var i = 0; i < dates.Count; i++)
        {
            if (dates[i].At is > 0 and < Model.Parked)
            {
                yield return new(o, Until(dates[i].Reason, dates[i].At), With(l => l.Dates.Add((o, i)))) { Rank = 1 };
            }
        }

        for (var i = 0; i < _model.After[o].Length; i++)
        {
            if (_model.ClusterOf[_model.After[o][i].Other] != _model.ClusterOf[o])
            {
                yield return Following(o, i);
            }
        }

        foreach (var cause in Hands(o).Concat(Standing(o)).Concat(Things(o)))
        {
            yield return cause;
        }

        if (_model.Covers[_model.Build[o]] is not null && _model.Cost![o] > 0)
        {
            yield return new(o, new(WaitKind.Deposit, "waits for the next cover"), With(l => l.Money = true))
            {
                Rank = 2,
            };
        }

        if (
            _model.After[o].FirstOrDefault(l => l.HasWindow) is { HasWindow: true } window
            && cluster.Operations.Length > 1
        )
        {
            var batch = _shop.Operations[o].Batch is not null && window is { FromStart: true, Most: 0 };
            yield return new(
                window.Other,
                new(
                    WaitKind.Window,
                    batch
                        ? $"goes out together with {_shop.Operations[o].Name}"
                        : $"starts so that {_shop.Operations[o].Name} can follow in time",
                    _shop.IdOf(o)
                ),
                With(l => l.Window = true)
            )
            {
                Rank = 6,
            };
        }

        if (_model.Run[o] is Run.Nonstop or Run.ThroughBreaks && _model.Crew[o].Length > 0)
        {
            yield return new(o, new(WaitKind.Calendar, "needs one whole shift"), With(l => l.MayStop = true))
            {
                Rank = 7,
            };
        }
    }

    private static Loosened With(Action<Loosened> take)
    {
        var loose = new Loosened();
        take(loose);
        return loose;
    }

    private Cause Following(int o, int i)
    {
        var (link, other) = (_model.After[o][i], _shop.Operations[_model.After[o][i].Other]);
        var reason =
            other.WaitsAs != WaitKind.Operation ? new(other.WaitsAs, other.Name, other.Id)
            : _shop.Because(link.Other, o) is { } why ? new PlanReason(WaitKind.Support, why, other.Id)
            : link.Lag > 0 ? PlanReason.Cures(link.Lag, other.Id, other.Name)
            : new(WaitKind.Operation, $"{(link.FromStart ? "starts with" : "comes after")} {other.Name}", other.Id);
        var until = link.LagHours.Finish(
            link.FromStart ? _schedule.Start[link.Other] : _schedule.Finish[link.Other],
            link.Lag
        );
        return new(o, Until(reason, until), With(l => l.Links.Add((o, i))), link.Other) { Rank = 3 };
    }

    /// <summary>Who does it: others' work, days away, times kept for others, hours.</summary>
    private IEnumerable<Cause> Hands(int o)
    {
        if (_model.Crew[o].Length == 0)
        {
            if (!_model.OwnHours[o].IsAlways && _schedule.Finish[o] > _schedule.Start[o])
            {
                var supplier = _shop.Operations[o].Supplier is { } id
                    ? _problem.Suppliers.FirstOrDefault(s => s.Id == id)?.Name
                    : null;
                yield return new(
                    o,
                    Until(
                        new(
                            WaitKind.Visit,
                            supplier is null ? "the shop is closed"
                                : _shop.Operations[o].Here ? $"{supplier} is not here"
                                : $"{supplier} does not work"
                        ),
                        _schedule.Start[o]
                    ),
                    With(l => l.Visits = true)
                )
                {
                    Rank = 5,
                };
            }

            yield break;
        }

        var people = _model.Crew[o].SelectMany(n => n.Classes).Distinct().ToList();
        // Those who do it first: they are the ones that it waits for.
        var mine = People(o);
        people = [.. people.OrderBy(p => mine.Contains(p) ? 0 : 1).Take(Math.Max(MostTried, mine.Count))];
        foreach (var p in people)
        {
            var (last, until) = HeldBy(p, o);
            if (MovedBy(p, o) is { } move && move.Moved + _problem.Moves.Minutes > until)
            {
                yield return new(
                    o,
                    Until(
                        new(WaitKind.Person, $"{NameOf(p)} moves {_problem.Builds[move.Build].Name} first"),
                        move.Moved + _problem.Moves.Minutes
                    ),
                    With(l => l.Free.Add(p))
                )
                {
                    Rank = 2,
                };
            }
            else if (last >= 0)
            {
                yield return new(
                    o,
                    Until(
                        new(
                            WaitKind.Person,
                            _model.Build[last] == _model.Build[o]
                                ? $"{NameOf(p)} does {_shop.Operations[last].Name} first"
                                : $"{NameOf(p)} is on {_shop.BuildOf(last).Name}",
                            _shop.IdOf(last)
                        ),
                        until <= _schedule.Start[o] ? until : Model.Parked
                    ),
                    With(l => l.Free.Add(p))
                )
                {
                    Rank = 2,
                };
            }

            if (
                _problem
                    .People[p]
                    .Absent.Spans.Any(s => s.Start - _problem.Now < _schedule.Start[o] && s.End > _problem.Now)
            )
            {
                var back =
                    _problem
                        .People[p]
                        .Absent.Spans.Where(s => s.Start - _problem.Now < _schedule.Start[o])
                        .Max(s => s.End) - _problem.Now;
                yield return new(
                    o,
                    Until(
                        new(WaitKind.Absence, $"{NameOf(p)} is away", _problem.People[p].Id),
                        (int)Math.Min(back, Model.Parked)
                    ),
                    With(l => l.Hours[p] = Present(p))
                )
                {
                    Rank = 2,
                };
            }

            if (_problem.People[p].Slots.Any(s => s.Build != _shop.BuildOf(o).Id))
            {
                var whose = string.Join(
                    ", ",
                    _problem
                        .People[p]
                        .Slots.Where(s => s.Build != _shop.BuildOf(o).Id)
                        .Select(s => _problem.Builds.FirstOrDefault(b => b.Id == s.Build)?.Name)
                        .OfType<string>()
                        .Distinct()
                );
                yield return new(
                    o,
                    Until(
                        new(WaitKind.Kept, $"{NameOf(p)}'s time is kept for {whose}", _problem.People[p].Id),
                        _schedule.Start[o]
                    ),
                    With(l => l.Hours[p] = _shop.Hours.Of(p))
                )
                {
                    Rank = 4,
                };
            }
        }

        var own = people.Exists(p => _problem.People[p].Hours.Count > 0);
        yield return new(
            o,
            Until(
                new(
                    WaitKind.Calendar,
                    own
                        ? $"{string.Join(" or ", people.Select(NameOf))} {(people.Count == 1 ? "is" : "are")} not at work"
                        : "the shop is closed"
                ),
                _schedule.Start[o]
            ),
            With(l => people.ForEach(p => l.Hours[p] = Hours.Always))
        )
        {
            Rank = 5,
        };
    }

    /// <summary>The last vehicle that somebody moves before an operation starts.</summary>
    private (int Build, int Moved)? MovedBy(int person, int o)
    {
        (int Build, int Moved)? last = null;
        for (var b = 0; b < _schedule.Stays.Count; b++)
        {
            foreach (var stay in _schedule.Stays[b])
            {
                last =
                    (stay.Mover == person || stay.SecondMover == person)
                    && stay.Moved >= 0
                    && stay.Moved < _schedule.Start[o]
                    && !(stay.Moved < last?.Moved)
                        ? (b, stay.Moved)
                        : last;
            }
        }

        return last;
    }

    private string NameOf(int person) => _problem.People[person].Name;

    private Hours Present(int person) =>
        _noAbsence.TryGetValue(person, out var hours) ? hours : _noAbsence[person] = _shop.Hours.Without(person);

    /// <summary>The last thing that somebody or something is in use for before an operation, and until when; -1:
    /// none.</summary>
    private (int Operation, int Until) HeldBy(int resource, int o)
    {
        var (who, until) = (-1, 0);
        for (var other = 0; other < _model.Count; other++)
        {
            if (
                other != o
                && _schedule.Start[other] < _schedule.Start[o]
                && _schedule.Finish[other] > until
                && _schedule.Finish[other] > _schedule.Start[other]
                && Uses(other, resource)
            )
            {
                (who, until) = (other, _schedule.Finish[other]);
            }
        }

        foreach (var hold in _model.Holds)
        {
            if (
                hold.Resource == resource
                && hold.Open != o
                && _schedule.Start[hold.Open] < _schedule.Start[o]
                && _schedule.Finish[hold.Close] > until
                && _schedule.Finish[hold.Close] < Model.Parked
            )
            {
                (who, until) = (hold.Open, _schedule.Finish[hold.Close]);
            }
        }

        return (who, until);
    }

    private bool Uses(int o, int resource) =>
        resource < _problem.People.Count
            ? People(o).Contains(resource)
            : Array.Exists(_model.Uses[o], u => u.Resource == resource && u.Take > 0);

    /// <summary>The vehicle and where it stands.</summary>
    private IEnumerable<Cause> Standing(int o)
    {
        if (_model.Vehicles is not { } vehicles || vehicles.Body[o] == BodyUse.Beside)
        {
            yield break;
        }

        var build = _model.Build[o];
        var busy = Enumerable
            .Range(0, _model.Count)
            .Where(x =>
                x != o
                && _model.Build[x] == build
                && vehicles.Body[x] != BodyUse.Beside
                && _schedule.Finish[x] > _schedule.Start[x]
                && _schedule.Start[x] <= _schedule.Start[o]
            )
            .OrderByDescending(x => _schedule.Finish[x])
            .FirstOrDefault(-1);
        if (busy >= 0)
        {
            var where = PlaceOf(busy);
            var said =
                vehicles.Body[busy] == BodyUse.TakesAway
                    ? $"the vehicle is away for {_shop.Operations[busy].Name}"
                    : $"the vehicle is {(where is null ? "worked on" : $"in {where}")} for {_shop.Operations[busy].Name}";
            yield return new(
                o,
                Until(new(WaitKind.Body, said, _shop.IdOf(busy)), _schedule.Finish[busy]),
                With(l => l.Vehicle = true)
            )
            {
                Rank = 4,
                Through = Array.TrueForAll(_model.Clusters[_model.ClusterOf[o]].Operations, x =>
                    _schedule.Start[busy] < _schedule.Start[x]
                )
                    ? busy
                    : -1,
            };
        }

        yield return new(
            o,
            new(WaitKind.Person, "the vehicle is moved there first, once somebody has time"),
            With(l => l.Hands = true)
        )
        {
            Rank = 4,
        };
        if (vehicles.Options[o] is not { } options)
        {
            yield break;
        }

        if (InTheWay(o, options) is { } inTheWay)
        {
            // One more place is one more to work in, too.
            yield return new(
                o,
                inTheWay,
                With(l =>
                {
                    l.Place = true;
                    l.Free.UnionWith(_model.Uses[o].Select(u => u.Resource).Where(IsPlace));
                })
            )
            {
                Rank = 2,
            };
        }

        var closed = options
            .Select(p => vehicles.Places[p])
            .SelectMany(p => p.Closed.Select(c => (p, c)))
            .FirstOrDefault(x => x.c.From < _schedule.Start[o] && x.c.To > 0);
        if (closed.p is not null)
        {
            var why = _problem
                .Stations.FirstOrDefault(s => s.Id == closed.p.Id || (s.Id is null && s.Kind == closed.p.Kind))
                ?.Closed.FirstOrDefault()
                ?.Why
                ?? "is closed";
            yield return new(
                o,
                Until(new(WaitKind.Station, why), Math.Min(closed.c.To, Model.Parked)),
                With(l => l.Closed = true)
            )
            {
                Rank = 2,
            };
        }
    }

    private string? PlaceOf(int o)
    {
        var at = Array.FindLast(_schedule.Stays[_model.Build[o]], s => s.From <= _schedule.Start[o]).At;
        return at >= 0 ? _model.Vehicles!.Places[at].Name : null;
    }

    /// <summary>The vehicle that leaves one of the places last before an operation starts there; its own too, where the
    /// work is not done on that.</summary>
    private PlanReason? InTheWay(int o, int[] options)
    {
        (int Build, Stay Stay)? last = null;
        for (var b = 0; b < _schedule.Stays.Count; b++)
        {
            foreach (var stay in _schedule.Stays[b])
            {
                if (
                    (b != _model.Build[o] || _model.Vehicles!.Body[o] == BodyUse.Beside)
                    && Array.IndexOf(options, stay.At) >= 0
                    && stay.From < _schedule.Start[o]
                    && stay.Until > 0
                    && (
                        last is null
                        || stay.Until > last.Value.Stay.Until
                        || (stay.Until <= _schedule.Start[o] && last.Value.Stay.Until > _schedule.Start[o])
                    )
                )
                {
                    last =
                        last is { } l && l.Stay.Until <= _schedule.Start[o] && stay.Until > _schedule.Start[o]
                            ? last
                            : (b, stay);
                }
            }
        }

        return last is not { } found
            ? null
            : Until(
                new(
                    WaitKind.Station,
                    $"{_model.Vehicles!.Places[found.Stay.At].Name} holds {_problem.Builds[found.Build].Name}",
                    found.Stay.For >= 0 ? _shop.IdOf(found.Stay.For) : null
                ),
                found.Stay.Until
            );
    }

    /// <summary>What else is shared: kinds of place, things, air, what goes on one at a time.</summary>
    private IEnumerable<Cause> Things(int o)
    {
        var resources = _model
            .Uses[o]
            .Select(u => u.Resource)
            .Concat(_model.Holds.Where(h => h.Open == o).Select(h => h.Resource))
            .Distinct();
        foreach (var resource in resources)
        {
            var (kind, name) = _shop.NameOf(resource);
            var (who, until) = HeldBy(resource, o);
            var needed = _model.Uses[o].Where(u => u.Resource == resource).Select(u => u.Need).FirstOrDefault(1);
            var closed = Array.Find(_model.Closed, c => c.Resource == resource && c.From < _schedule.Start[o]);
            var places = _model
                .Vehicles?.Places.Where(p => p.Resource == resource || p.Whole == resource)
                .Select(p => p.Number)
                .ToArray()
                ?? [];
            if (places.Length > 0 && InTheWay(o, places) is { } inTheWay)
            {
                yield return new(o, inTheWay, With(l => l.Free.UnionWith(resources.Where(IsPlace)))) { Rank = 2 };
                continue;
            }

            if (who < 0 && closed.Amount == 0)
            {
                continue;
            }

            var same = who >= 0 && _model.Build[who] == _model.Build[o];
            var reason =
                who < 0
                    ? Until(new(WaitKind.Station, ClosedWhy(name)), Math.Min(closed.To, Model.Parked))
                    : Until(
                        new(
                            kind is WaitKind.Station or WaitKind.Stock or WaitKind.Air ? kind : WaitKind.Operation,
                            kind switch
                            {
                                WaitKind.Station when needed > 1 =>
                                    $"{name} is in use on {_shop.BuildOf(who).Name}, and {_shop.Operations[o].Name} wants more of it empty",
                                WaitKind.Station => same
                                    ? $"{name} has {_shop.Operations[who].Name} first"
                                    : $"{name} is in use on {_shop.BuildOf(who).Name}",
                                WaitKind.Stock => $"{name} is in use on {_shop.BuildOf(who).Name}",
                                WaitKind.Air =>
                                    $"{name.Split('\n')[0]}: {_shop.Operations[who].Name} on {_shop.BuildOf(who).Name}",
                                WaitKind.Outside => $"the vehicle is away for {_shop.Operations[who].Name}",
                                _ => $"one at a time: {_shop.Operations[who].Name} goes first",
                            },
                            _shop.IdOf(who)
                        ),
                        until
                    );
            yield return new(
                o,
                reason,
                With(l => l.Free.UnionWith(IsPlace(resource) ? resources.Where(IsPlace) : [resource]))
            )
            {
                Rank = 2,
            };
        }
    }

    private bool IsPlace(int resource) => _shop.NameOf(resource).Kind == WaitKind.Station;

    private string ClosedWhy(string kind) =>
        _problem.Stations.Where(s => s.Kind == kind).SelectMany(s => s.Closed).FirstOrDefault()?.Why
        ?? $"{kind} is closed";

    private PlanReason Until(PlanReason reason, int at) =>
        at >= Model.Parked ? reason : reason with { Until = _problem.Now + at };

    /// <summary>Minutes by which an operation can be later without moving what follows it past its build's
    /// end.</summary>
    private int[] Latest()
    {
        var late = new int[_model.Count];
        var end = new int[_model.Builds];
        for (var o = 0; o < late.Length; o++)
        {
            end[_model.Build[o]] =
                _schedule.Finish[o] < Model.Parked
                    ? Math.Max(end[_model.Build[o]], _schedule.Finish[o])
                    : end[_model.Build[o]];
        }

        foreach (var o in Model.Sort(_model.After, _model.Before, out _).Reverse())
        {
            var latest = end[_model.Build[o]];
            foreach (var link in _model.Before[o])
            {
                if (_schedule.Start[link.Other] < Model.Parked)
                {
                    latest = Math.Min(
                        latest,
                        late[link.Other] - link.Lag + (link.FromStart ? _schedule.Finish[o] - _schedule.Start[o] : 0)
                    );
                }
            }

            late[o] = latest - (_schedule.Finish[o] - _schedule.Start[o]);
        }

        return late;
    }
}
