using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Sequence;

/// <summary>How the second part of an operation is told off.</summary>
/// <param name="Id">Of the new operation.</param>
/// <param name="Minutes">Its share of the likely minutes.</param>
/// <param name="Panels">Those of the whole's panels that it takes along; none: both parts are about all of
/// them.</param>
/// <param name="SideBySide">Both may run at once; else the second follows the first.</param>
public sealed record PartOff(Guid Id, string Name, int Minutes, IReadOnlyList<string> Panels, bool SideBySide);

/// <summary>One operation made into two, and two into one.</summary>
public static class OperationParts
{
    /// <summary>
    /// Takes a part off an operation. What came before the whole comes before its first part, and before the second
    /// where they run side by side; what followed the whole follows what ends last. The coat and the hold that the
    /// whole gives come with the part that ends the work on a panel.
    /// </summary>
    /// <param name="all">The sequence, the whole among it.</param>
    /// <returns>The new operation; the whole has become the first part.</returns>
    /// <exception cref="Refusal">It is not open work, or a part of it cannot be so.</exception>
    public static Operation Split(Operation whole, PartOff part, IReadOnlyCollection<Operation> all)
    {
        Refusal.When(whole.Kind != OperationKind.Work, "id", "Only work is split.");
        Refusal.When(whole.IsDone, "id", "It is done: there is nothing left to split.");
        Refusal.When(
            part.Minutes < 1 || part.Minutes >= whole.BudgetMinutes,
            "minutes",
            "Each part needs some of the hours."
        );
        Refusal.When(
            part.Panels.Any(p => !whole.Panels.Contains(p)) || part.Panels.Count > 0 && Rest().Count == 0,
            "panels",
            "Some of its panels go with the second part, not all and no others."
        );
        Refusal.When(
            part.SideBySide && part.Panels.Count == 0 && (whole.Coat is not null || whole.Held is not null),
            "panels",
            "Side by side, each part ends the work on its own panels: say which go with the second."
        );

        var (before, left) = (whole.BudgetMinutes, whole.BudgetMinutes - part.Minutes);
        var ends = part.Panels.Count == 0;
        var second = new Operation
        {
            Id = part.Id,
            BuildId = whole.BuildId,
            Name = part.Name.Trim(),
            Position = whole.Position + 1,
            Stage = whole.Stage,
            Trade = whole.Trade,
            BudgetMinutes = part.Minutes,
            Station = whole.Station,
            PersonId = whole.PersonId,
            Panels = ends ? [.. whole.Panels] : [.. part.Panels],
            Coat = whole.Coat,
            Held = whole.Held,
            WithoutStop = whole.WithoutStop,
            Hazard = whole.Hazard,
            After = part.SideBySide ? [.. whole.After] : [new(whole.Id, 0)],
            Terms = Share(whole.Terms, part.Minutes, before) with
            {
                Hold = null,
                NotBefore = part.SideBySide ? whole.Terms.NotBefore : null,
                PinnedOn = part.SideBySide ? whole.Terms.PinnedOn : null,
                Replaced = [],
                LowersMm = 0,
            },
        };
        foreach (var o in all.Where(o => o.Position > whole.Position))
        {
            o.Position++;
        }

        foreach (var o in all.Where(o => o.Id != whole.Id))
        {
            o.After =
            [
                .. o.After.SelectMany<OperationLink, OperationLink>(a =>
                    a.Operation != whole.Id || a.FromStart ? [a]
                    : part.SideBySide ? [a, a with { Operation = second.Id }]
                    : [a with { Operation = second.Id }]
                ),
            ];
            if (!part.SideBySide)
            {
                o.Terms = Until(o.Terms, whole.Id, second.Id);
            }
        }

        if (ends)
        {
            (whole.Coat, whole.Held) = (null, null);
        }
        else
        {
            whole.Panels = Rest();
        }

        whole.BudgetMinutes = left;
        whole.Terms = Share(whole.Terms, left, before) with
        {
            // The shell is held otherwise, and lower, once all of it is done.
            Sets = part.SideBySide ? whole.Terms.Sets : null,
        };
        if (whole is { StatedShare: { } share, StatedAt: { } at })
        {
            // What was said of the whole, of its first part.
            whole.State(Math.Min(Operation.MostStated, share * before / left), at);
        }

        return second;

        List<string> Rest() => [.. whole.Panels.Except(part.Panels)];
    }

    /// <summary>Makes one operation of two: their hours and panels together, after all that came before either. What
    /// followed the second follows the first.</summary>
    /// <param name="second">Goes; nobody has booked hours on it.</param>
    /// <exception cref="Refusal">They are not two pieces of open work of one kind.</exception>
    public static void Merge(Operation first, Operation second, IReadOnlyCollection<Operation> all)
    {
        Refusal.When(first.Id == second.Id, "with", "Two operations are merged, not one.");
        Refusal.When(
            first.Kind != OperationKind.Work || second.Kind != OperationKind.Work || first.IsDone || second.IsDone,
            "with",
            "Only work that is not done is merged."
        );
        Refusal.When(
            first.Trade != second.Trade || first.Station != second.Station || first.Stage != second.Stage,
            "with",
            "Work of one stage, one trade and one station is merged."
        );
        Refusal.When(
            first.PersonId is { } a && second.PersonId is { } b && a != b,
            "with",
            "They are two people's: say first whose it is."
        );
        Refusal.When(
            second.Terms.Replaced.Count > 0,
            "with",
            $"{second.Name} was allowed for findings, and keeps its own hours for them."
        );
        var (f, s) = (first.BudgetMinutes, second.BudgetMinutes);
        var spread = first.Terms.LowMinutes is not null || second.Terms.LowMinutes is not null;
        first.Terms = first.Terms with
        {
            LowMinutes = spread ? (first.Terms.LowMinutes ?? f) + (second.Terms.LowMinutes ?? s) : null,
            HighMinutes = spread ? (first.Terms.HighMinutes ?? f) + (second.Terms.HighMinutes ?? s) : null,
            Hold = first.Terms.Hold?.Until == second.Id ? null : first.Terms.Hold ?? second.Terms.Hold,
            NotBefore = Latest(first.Terms.NotBefore, second.Terms.NotBefore),
            Deadline = second.Terms.Deadline ?? first.Terms.Deadline,
            Kinds = [.. first.Terms.Kinds.Union(second.Terms.Kinds)],
            Needs =
                first.Terms.Needs.Count == 0 ? second.Terms.Needs
                : second.Terms.Needs.Count == 0 ? first.Terms.Needs
                : [.. first.Terms.Needs.Intersect(second.Terms.Needs)],
            Forbids = [.. first.Terms.Forbids.Union(second.Terms.Forbids)],
            Sets = second.Terms.Sets ?? first.Terms.Sets,
            LowersMm = first.Terms.LowersMm + second.Terms.LowersMm,
            ClosedUntil = first.Terms.ClosedUntil ?? second.Terms.ClosedUntil,
        };
        if (first is { StatedShare: { } share, StatedAt: { } at })
        {
            first.State(share * f / (f + s), at);
        }

        first.BudgetMinutes = f + s;
        first.Panels = [.. first.Panels.Union(second.Panels)];
        first.Coat = second.Coat ?? first.Coat;
        first.Held = second.Held ?? first.Held;
        first.WithoutStop |= second.WithoutStop;
        first.Hazard ??= second.Hazard;
        first.PersonId ??= second.PersonId;
        first.After =
        [
            .. first
                .After.Concat(second.After)
                .Where(l => l.Operation != first.Id && l.Operation != second.Id)
                .DistinctBy(l => l.Operation),
        ];
        foreach (var o in all.Where(o => o.Id != first.Id && o.Id != second.Id))
        {
            o.After =
            [
                .. o
                    .After.Select(l => l.Operation == second.Id ? l with { Operation = first.Id } : l)
                    .OrderByDescending(l => l.LagMinutes)
                    .DistinctBy(l => l.Operation),
            ];
            o.Terms = Until(o.Terms, second.Id, first.Id);
        }
    }

    /// <summary>What lasted until the end of one operation lasts until the end of another.</summary>
    private static OperationTerms Until(OperationTerms terms, Guid was, Guid now) =>
        terms.Hold?.Until != was && terms.ClosedUntil != was
            ? terms
            : terms with
            {
                Hold = terms.Hold?.Until == was ? terms.Hold with { Until = now } : terms.Hold,
                ClosedUntil = terms.ClosedUntil == was ? now : terms.ClosedUntil,
            };

    /// <summary>The spread of a share of the likely minutes: as wide as the whole's, by its size.</summary>
    private static OperationTerms Share(OperationTerms terms, int minutes, int of) =>
        terms with
        {
            LowMinutes = terms.LowMinutes is { } low
                ? Math.Clamp((int)Math.Round((decimal)low * minutes / of), 1, minutes)
                : null,
            HighMinutes = terms.HighMinutes is { } high
                ? Math.Max(minutes, (int)Math.Round((decimal)high * minutes / of))
                : null,
        };

    private static NodaTime.LocalDate? Latest(NodaTime.LocalDate? a, NodaTime.LocalDate? b) =>
        a is null ? b
        : b is null ? a
        : NodaTime.LocalDate.Max(a.Value, b.Value);
}
