namespace FirstCoat.Core.Survey;

/// <summary>How far a place has been looked at.</summary>
/// <param name="Worst">The worst the punch said there; null: no mark.</param>
public sealed record PlaceState(SurveyPlace Place, bool Looked, Probe? Worst, int Marks, int Findings);

/// <summary>The state of a survey: a place that nobody looked at is shown as that.</summary>
public sealed record SurveySheet(IReadOnlyList<PlaceState> Places)
{
    public int Total => Places.Count(p => p.Place.Round);

    public int Seen => Places.Count(p => p.Place.Round && p.Looked);

    /// <summary>Where the round goes next: places not looked at, in order; those this vehicle's life points to
    /// first.</summary>
    public IReadOnlyList<SurveyPlace> StillDark =>
        Places.Where(p => p.Place.Round && !p.Looked).Select(p => p.Place).OrderBy(p => p.Harder is null).ToList();

    /// <summary>Puts marks, looks and findings on the places.</summary>
    public static SurveySheet Of(
        IReadOnlyList<SurveyPlace> places,
        IEnumerable<PunchMark> marks,
        IEnumerable<SurveyLook> looks,
        IEnumerable<Finding> findings
    )
    {
        var byPlace = marks.Where(m => m.WithdrawnBy is null).ToLookup(m => m.Place);
        var looked = looks.Select(l => l.Place).ToHashSet();
        var found = findings.Where(f => f.Counts).ToLookup(f => f.Place);
        return new(
            places
                .Select(p =>
                {
                    var here = byPlace[p.Key].ToList();
                    return new PlaceState(
                        p,
                        here.Count > 0 || looked.Contains(p.Key) || found[p.Key].Any(),
                        here.Count == 0 ? null : here.Max(m => m.Result),
                        here.Count,
                        found[p.Key].Count()
                    );
                })
                .ToList()
        );
    }
}
