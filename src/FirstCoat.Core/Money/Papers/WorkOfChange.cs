using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Money.Papers;

/// <summary>What a choice or a line of a change becomes in the sequence once the client has said yes.</summary>
public static class WorkOfChange
{
    /// <summary>
    /// Makes the operations of added work: behind the last work of their stage, before the next stage goes on. What it
    /// takes out is the caller's to remove.
    /// </summary>
    /// <param name="sequence">Operations of the build that are in its sequence; those that wait for the new ones get a
    /// link.</param>
    /// <param name="name">What the paper calls it.</param>
    public static List<Operation> Into(
        IReadOnlyCollection<Operation> sequence,
        Guid build,
        string name,
        AddedWork work,
        Func<Guid> newId
    )
    {
        var made = new List<Operation>();
        var all = sequence.ToList();
        var position = all.Select(o => o.Position).DefaultIfEmpty(0).Max();
        Operation New(OperationKind kind, Stage stage) =>
            new()
            {
                Id = newId(),
                BuildId = build,
                Name = Words.Shortened(name, 120),
                Kind = kind,
                Stage = stage,
                Position = ++position,
            };
        if (work.HasWork() && work.Stage is { } of)
        {
            var operation = New(OperationKind.Work, of);
            (operation.Trade, operation.BudgetMinutes) = (work.Trade, work.Minutes);
            made.Add(operation);
        }

        if (work is { OutsideDays: > 0, Stage: { } sent })
        {
            var operation = New(OperationKind.Outside, sent);
            operation.ClockMinutes = work.OutsideDays * 1440;
            made.Add(operation);
        }

        foreach (var operation in made)
        {
            Link(operation, all);
            all.Add(operation);
        }

        return made;
    }

    private static void Link(Operation operation, IReadOnlyCollection<Operation> all)
    {
        var before = all.Where(o => o.Stage <= operation.Stage && o.Kind != OperationKind.Gate)
            .OrderBy(o => o.Stage)
            .ThenBy(o => o.Position)
            .LastOrDefault();
        var next = all.Where(o => !o.IsDone && o.Stage > operation.Stage && o.Id != before?.Id)
            .OrderBy(o => o.Stage)
            .ThenBy(o => o.Position)
            .FirstOrDefault();
        operation.After = before is null ? [] : [new(before.Id, 0)];
        if (next is null)
        {
            return;
        }

        next.After = [.. next.After, new(operation.Id, 0)];
        // Where the next stage is worked on before this one, it does not wait.
        if (OperationOrder.FindCycle(all.Append(operation).ToDictionary(o => o.Id)).Count > 0)
        {
            next.After = [.. next.After.Where(a => a.Operation != operation.Id)];
        }
    }
}
