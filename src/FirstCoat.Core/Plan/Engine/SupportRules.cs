using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// How a shell stands over its sequence. Work that asks for how it stands is done while it stands so: after the move
/// that brings it there only where it could not be done before, and before the move that takes it away only where it
/// cannot be done after. What cannot be reached now waits for the move that makes it possible; what asks for how the
/// shell will never stand, or for a door it does not pass, has no date.
/// </summary>
internal sealed class SupportRules(PlanBuild build, ShopPlaces places)
{
    private readonly List<(PlanOperation Operation, string Why)> _outOfReach = [];
    private readonly List<OutOfReach> _told = [];
    private readonly List<(Standing Shell, PlanOperation? By)> _steps = [];
    private readonly List<(PlanOperation Operation, int Step, string? At)> _asking = [];

    /// <summary>The kind of place in which the vehicle stands; work there passes no door.</summary>
    private string? _at;

    /// <summary>How the shell stands and how high it is; the height null: not measured.</summary>
    private readonly record struct Standing(PlanSupport Support, int? HeightMm);

    /// <param name="first">One operation comes before another, for a reason; false: it cannot, because the other comes
    /// before it already.</param>
    /// <param name="cannot">An operation has no date, for a reason.</param>
    /// <returns>What cannot be reached as the shell stands at the start.</returns>
    public IReadOnlyList<OutOfReach> Apply(Func<string, string, string, bool> first, Action<string, PlanReason> cannot)
    {
        if (build.Support is not { } support)
        {
            return [];
        }

        _at = places.Standing(build)?.Kind;
        _steps.Add((new(support, build.HeightMm), null));
        foreach (var o in build.Operations)
        {
            var now = _steps[^1].Shell;
            // What goes on already is where it has to be, whatever was recorded.
            if (!o.UnderWay && Against(o, now, _at) is { } why)
            {
                _outOfReach.Add((o, why));
                continue;
            }

            if (Asks(o))
            {
                _asking.Add((o, _steps.Count - 1, _at));
            }

            _at = o.Body != BodyUse.Beside && o.Station is not null ? o.Station : _at;
            var next = new Standing(o.Sets ?? now.Support, now.HeightMm - o.LowersMm);
            if (next.Support.State == now.Support.State && o.LowersMm == 0)
            {
                continue;
            }

            _steps.Add((next, o));
            Reached(o, next, first, cannot);
        }

        _asking.ForEach(a => Between(a.Operation, a.Step, a.At, first));
        foreach (var (o, why) in _outOfReach)
        {
            cannot(o.Id, new(WaitKind.Support, why));
            _told.Add(new(o.Id, build.Id, why, null));
        }

        return _told;
    }

    private bool Asks(PlanOperation o) => o.Needs.Count > 0 || o.Forbids.Count > 0 || Doors(o).Any();

    /// <summary>Kinds behind a door to which the vehicle goes for an operation.</summary>
    private IEnumerable<(string Kind, PlanDoor Door)> Doors(PlanOperation o) =>
        new[] { o.Station, o.Hold?.Station }
            .OfType<string>()
            .Distinct()
            .Select(k => (k, places.DoorTo(k)))
            .Where(x => x.Item2 is not null)
            .Select(x => (x.k, x.Item2!));

    /// <summary>After the last move without which it could not be done, and before the next that would rule it
    /// out.</summary>
    private void Between(PlanOperation o, int step, string? at, Func<string, string, string, bool> first)
    {
        var (from, to) = (step, step);
        while (from > 0 && Against(o, _steps[from - 1].Shell, at) is null)
        {
            from--;
        }

        while (to + 1 < _steps.Count && Against(o, _steps[to + 1].Shell, at) is null)
        {
            to++;
        }

        if (from > 0 && _steps[from].By!.Id != o.Id)
        {
            first(
                _steps[from].By!.Id,
                o.Id,
                $"{Against(o, _steps[from - 1].Shell, at)}, until {_steps[from].By!.Name}"
            );
        }

        // The list of what only this support allows is empty before the shell moves on.
        if (to + 1 < _steps.Count && _steps[to + 1].By!.Id != o.Id)
        {
            first(
                o.Id,
                _steps[to + 1].By!.Id,
                $"{o.Name} has to be done first: after that it {Against(o, _steps[to + 1].Shell, at)}"
            );
        }
    }

    /// <summary>What could not be reached until the shell was moved by <paramref name="mover"/>, and now can.</summary>
    private void Reached(
        PlanOperation mover,
        Standing now,
        Func<string, string, string, bool> first,
        Action<string, PlanReason> cannot
    )
    {
        foreach (var late in _outOfReach.Where(x => Against(x.Operation, now, _at) is null).ToList())
        {
            _outOfReach.Remove(late);
            if (!first(mover.Id, late.Operation.Id, $"{late.Why}, until {mover.Name}"))
            {
                cannot(
                    late.Operation.Id,
                    new(WaitKind.Support, $"{late.Why}, and {mover.Name}, which would change that, comes after it")
                );
                continue;
            }

            _asking.Add((late.Operation, _steps.Count - 1, _at));
            if (_steps.Count == 2)
            {
                _told.Add(new(late.Operation.Id, build.Id, late.Why, mover.Id));
            }
        }
    }

    private string? Against(PlanOperation o, Standing shell, string? at)
    {
        var now = shell.Support;
        if (o.Needs.Count > 0 && !o.Needs.Contains(now.State))
        {
            return $"needs the shell on {string.Join(" or ", o.Needs)}, and by then it stands on {now.State}";
        }

        if (o.Forbids.Contains(now.State))
        {
            return $"cannot be done while the shell stands on {now.State}";
        }

        foreach (var (kind, door) in Doors(o))
        {
            if (kind == at)
            {
                continue;
            }

            if (!now.Rolls)
            {
                return $"the shell does not roll on {now.State}, and {kind} is behind a door";
            }

            var margin = build.KeptFreeMm ?? door.MarginMm;
            if (shell.HeightMm is { } height && height + now.DollyMm + margin > door.HeightMm)
            {
                return $"the shell is {height} mm, on {now.State} {height + now.DollyMm} mm: with {margin} mm to spare it does not pass the door of {kind}, {door.HeightMm} mm";
            }
        }

        return null;
    }
}
