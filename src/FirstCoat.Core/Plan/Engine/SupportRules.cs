using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// How a shell stands over its sequence: what asks for how it stands now is done before that changes; what cannot be reached now
/// waits until the shell stands otherwise, and is done before it moves on from there; what asks for how it will never stand, or
/// for a door it does not pass, has no date.
/// </summary>
internal sealed class SupportRules(PlanBuild build, IReadOnlyList<PlanStation> stations)
{
    private readonly List<(PlanOperation Operation, string Why)> _outOfReach = [];
    private readonly List<OutOfReach> _told = [];

    /// <summary>Where the vehicle stands; work there passes no door.</summary>
    private string? _at;

    /// <param name="first">One operation comes before another; false: it cannot, because the other comes before it already.</param>
    /// <param name="cannot">An operation has no date, for a reason.</param>
    /// <returns>What cannot be reached as the shell stands at the start.</returns>
    public IReadOnlyList<OutOfReach> Apply(Func<string, string, bool> first, Action<string, PlanReason> cannot)
    {
        if (build.Support is not { } now)
        {
            return [];
        }

        var doors = stations.Where(s => s.Door is not null).ToDictionary(s => s.Kind, s => s.Door!);
        var here = new List<string>();
        string? changed = null;
        _at = build.StandsAt;
        foreach (var o in build.Operations)
        {
            if (Against(o, now, doors) is { } why)
            {
                _outOfReach.Add((o, why));
                continue;
            }

            _at = o.Body != BodyUse.Beside && o.Station is not null ? o.Station : _at;

            var asks = o.Needs.Count > 0 || o.Forbids.Count > 0 || (o.Station is not null && doors.ContainsKey(o.Station));
            if (asks && changed is not null)
            {
                first(changed, o.Id);
            }

            if (o.Sets is not { } next || next.State == now.State)
            {
                if (asks)
                {
                    here.Add(o.Id);
                }

                continue;
            }

            // The list of what only this support allows is empty before the shell moves on.
            here.ForEach(x => first(x, o.Id));
            here.Clear();
            now = next;
            here.AddRange(Reached(o, now, doors, changed is null, first, cannot));
            changed = o.Id;
        }

        foreach (var (o, why) in _outOfReach)
        {
            cannot(o.Id, new(WaitKind.Support, why));
            _told.Add(new(o.Id, build.Id, why, null));
        }

        return _told;
    }

    /// <summary>What could not be reached until the shell was moved by <paramref name="mover"/>, and now can.</summary>
    private List<string> Reached(PlanOperation mover, PlanSupport now, Dictionary<string, PlanDoor> doors, bool firstMove, Func<string, string, bool> first, Action<string, PlanReason> cannot)
    {
        var reached = new List<string>();
        foreach (var late in _outOfReach.Where(x => Against(x.Operation, now, doors) is null).ToList())
        {
            _outOfReach.Remove(late);
            if (!first(mover.Id, late.Operation.Id))
            {
                cannot(late.Operation.Id, new(WaitKind.Support, $"{late.Why}, and {mover.Name}, which would change that, comes after it"));
                continue;
            }

            reached.Add(late.Operation.Id);
            if (firstMove)
            {
                _told.Add(new(late.Operation.Id, build.Id, late.Why, mover.Id));
            }
        }

        return reached;
    }

    private string? Against(PlanOperation o, PlanSupport now, Dictionary<string, PlanDoor> doors)
    {
        if (o.Needs.Count > 0 && !o.Needs.Contains(now.State))
        {
            return $"needs the shell on {string.Join(" or ", o.Needs)}, and by then it stands on {now.State}";
        }

        if (o.Forbids.Contains(now.State))
        {
            return $"cannot be done while the shell stands on {now.State}";
        }

        foreach (var kind in new[] { o.Station, o.Hold?.Station })
        {
            if (kind is null || kind == _at || !doors.TryGetValue(kind, out var door))
            {
                continue;
            }

            if (!now.Rolls)
            {
                return $"the shell does not roll on {now.State}, and {kind} is behind a door";
            }

            if (build.HeightMm is { } height && height + now.DollyMm + door.MarginMm > door.HeightMm)
            {
                return $"the shell is {height} mm, on {now.State} {height + now.DollyMm} mm: with {door.MarginMm} mm to spare it does not pass the door of {kind}, {door.HeightMm} mm";
            }
        }

        return null;
    }
}
