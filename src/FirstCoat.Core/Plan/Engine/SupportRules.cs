namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// How a shell stands over its sequence: what asks for how it stands now is done before that changes, and what asks for how it
/// will never stand, or for a door it does not pass, has no date.
/// </summary>
internal sealed class SupportRules(PlanBuild build, IReadOnlyList<PlanStation> stations)
{
    /// <param name="first">One operation comes before another.</param>
    /// <param name="cannot">An operation has no date, for a reason.</param>
    public void Apply(Action<string, string> first, Action<string, PlanReason> cannot)
    {
        if (build.Support is not { } now)
        {
            return;
        }

        var doors = stations.Where(s => s.Door is not null).ToDictionary(s => s.Kind, s => s.Door!);
        var here = new List<string>();
        string? changed = null;
        foreach (var o in build.Operations)
        {
            if (Against(o, now, doors) is { } why)
            {
                cannot(o.Id, new(WaitKind.Support, why));
                continue;
            }

            var asks = o.Needs.Count > 0 || o.Forbids.Count > 0 || (o.Station is not null && doors.ContainsKey(o.Station));
            if (asks && changed is not null)
            {
                first(changed, o.Id);
            }

            if (o.Sets is { } next && next.State != now.State)
            {
                // The list of what only this support allows is empty before the shell moves on.
                here.ForEach(x => first(x, o.Id));
                here.Clear();
                (now, changed) = (next, o.Id);
            }
            else if (asks)
            {
                here.Add(o.Id);
            }
        }
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
            if (kind is null || !doors.TryGetValue(kind, out var door))
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
