using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Survey;

/// <summary>The share of a template's metalwork that was allowed for one place, before anybody knew what is wrong
/// there.</summary>
/// <param name="Minutes">Its share.</param>
/// <param name="Whole">Nothing of the operation is left: what was found takes its place in the sequence.</param>
public sealed record Allowance(Operation Operation, int Minutes, bool Whole)
{
    private const string InsideKey = "floor";

    /// <summary>The finding has taken it out before.</summary>
    public bool Taken { get; init; }

    /// <summary>
    /// What was allowed for a place; null: nothing was, it has been begun, or another finding has replaced it before.
    /// Every place that an operation is for, and that no finding has replaced yet, has an equal share of what is left
    /// of its hours.
    /// </summary>
    /// <param name="finding">What was found there.</param>
    /// <param name="places">All places of the vehicle.</param>
    /// <param name="begun">Operations on which hours were booked.</param>
    public static Allowance? For(
        Guid finding,
        SurveyPlace place,
        IReadOnlyList<SurveyPlace> places,
        IReadOnlyList<Operation> sequence,
        IReadOnlySet<Guid> begun
    )
    {
        foreach (var o in sequence.Where(o => !o.IsDone && !begun.Contains(o.Id)))
        {
            if (o.Terms.Replaced.Find(r => r.Finding == finding) is { } taken)
            {
                return new(o, taken.Minutes, taken.Name is not null) { Taken = true };
            }
        }

        foreach (
            var o in sequence.Where(o =>
                o
                    is {
                        Kind: OperationKind.Work,
                        Stage: Stage.Metal,
                        IsDone: false,
                        StatedShare: null,
                        TemplateKey.Length: > 0
                    }
                && !begun.Contains(o.Id)
            )
        )
        {
            var open = (
                o.Coat is Coat.BareSteel or Coat.NewAsh ? o.Panels
                : o.TemplateKey == InsideKey ? [.. places.Where(p => p.Group != PlaceGroup.Outside).Select(p => p.Key)]
                : []
            ).Except(o.Terms.Replaced.Select(r => r.Place)).ToList();
            if (open.Contains(place.Key) && o.BudgetMinutes > 0)
            {
                var share = Quarters((double)o.BudgetMinutes / open.Count);
                return open.Count == 1 || share >= o.BudgetMinutes
                    ? new(o, o.BudgetMinutes, true)
                    : new(o, share, false);
            }
        }

        return null;
    }

    /// <summary>Takes the share out of its operation: hours, their spread and, on a panel, what is done to
    /// it.</summary>
    public void TakeOut(string place, Guid finding)
    {
        var (o, left) = (Operation, (double)(Operation.BudgetMinutes - Minutes) / Operation.BudgetMinutes);
        o.BudgetMinutes -= Minutes;
        int? Left(int? minutes) => minutes is { } m ? (int)Math.Round(m * left) : null;
        o.Terms = o.Terms with
        {
            LowMinutes = Left(o.Terms.LowMinutes) is { } low ? Math.Clamp(low, 1, Math.Max(1, o.BudgetMinutes)) : null,
            HighMinutes = Left(o.Terms.HighMinutes) is { } high ? Math.Max(high, o.BudgetMinutes) : null,
            Replaced = [.. o.Terms.Replaced, new(place, finding, Minutes, Whole ? o.Name : null)],
        };
        o.Panels = [.. o.Panels.Where(p => p != place)];
    }

    /// <summary>Puts back what a finding had replaced, because nothing comes of it; what is done has no hours to
    /// come.</summary>
    public static void PutBack(Operation o, Guid finding)
    {
        if (!o.IsDone)
        {
            PutBack(o, o.Terms.Replaced.Where(r => r.Finding == finding));
        }
    }

    /// <summary>A copy as it was allowed for before anything was found, done or not.</summary>
    public static Operation Unfound(Operation o)
    {
        var copy = o.Copy();
        PutBack(copy, copy.Terms.Replaced);
        return copy;
    }

    private static void PutBack(Operation o, IEnumerable<ReplacedShare> shares)
    {
        foreach (var share in shares.ToList())
        {
            (o.Name, o.BudgetMinutes) = share.Name is { } name
                ? (name, share.Minutes)
                : (o.Name, o.BudgetMinutes + share.Minutes);
            o.Terms = o.Terms with
            {
                LowMinutes = null,
                HighMinutes = null,
                Replaced = [.. o.Terms.Replaced.Where(r => r != share)],
            };
            o.Panels = o.Coat is Coat.BareSteel or Coat.NewAsh
                ? [.. o.Panels.Append(share.Place).Distinct()]
                : o.Panels;
        }
    }

    private static int Quarters(double minutes) =>
        Math.Max(15, (int)Math.Round(minutes / 15, MidpointRounding.AwayFromZero) * 15);
}
