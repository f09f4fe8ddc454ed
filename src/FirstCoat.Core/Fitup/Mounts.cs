using System.Globalization;
using NodaTime;

namespace FirstCoat.Core.Fitup;

/// <summary>A mount between body and chassis, with the shims in it.</summary>
public sealed class BodyMount : Recorded
{
    private const decimal MostShimMm = 60;

    public required Guid BuildId { get; init; }

    /// <summary>"3 R, behind the door".</summary>
    public required string Name { get; init; }

    /// <summary>Keys of the panels that move with it: their lines are read again after it.</summary>
    public required List<string> Panels { get; init; }

    /// <summary>All shims in it together, in millimetres.</summary>
    public decimal ShimMm { get; private set; }

    public bool Removed { get; private set; }

    /// <param name="lines">Of the build's body.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(IReadOnlyList<GapLine> lines)
    {
        var panels = lines.SelectMany(l => l.Between).ToHashSet();
        Refusal.Each(
            () => Refusal.Text(Name, "name", 60),
            () => Refusal.When(Panels.Count == 0, "panels", "Say which panels move with it."),
            () => Refusal.When(Panels.Exists(p => !panels.Contains(p)), "panels", "No line of this body lies there.")
        );
    }

    /// <summary>Puts other shims in.</summary>
    /// <returns>What was done, in words.</returns>
    /// <exception cref="Refusal">No such shim, or the same.</exception>
    public string Shim(decimal mm)
    {
        Refusal.When(Removed, "id", "This mount was taken off the sheet.");
        Refusal.When(mm is < 0 or > MostShimMm, "shimMm", $"Shims are between 0 and {MostShimMm:0} mm.");
        Refusal.When(mm == ShimMm, "shimMm", "So much is in it already.");
        var was = ShimMm;
        ShimMm = mm;
        return string.Create(CultureInfo.InvariantCulture, $"Mount {Name}: shims {was:0.0#} to {mm:0.0#} mm");
    }

    /// <exception cref="Refusal">There are shims in it.</exception>
    public void Remove()
    {
        Refusal.When(ShimMm != 0, "id", "There are shims in this mount: it stays on the sheet.");
        Removed = true;
    }
}

/// <summary>One bolt, or one round of them.</summary>
/// <param name="Number">Its place in the order, from 1 on.</param>
/// <param name="Torque">As the paper has it: "40 Nm, then 90°".</param>
/// <param name="By">Who tightened it; empty: nobody yet.</param>
public sealed record BoltStep(int Number, string Name, string Torque, string By, Instant? At);

/// <summary>Bolts that are tightened in an order.</summary>
public sealed class BoltSet : Recorded
{
    private const int Most = 60;

    public required Guid BuildId { get; init; }
    public required string Name { get; init; }

    /// <summary>The paper that has the order and the torques.</summary>
    public required string Source { get; init; }

    public required List<BoltStep> Steps { get; set; }
    public bool Removed { get; private set; }

    /// <summary>The one that is tightened next; null: all are.</summary>
    public BoltStep? Next() => Steps.Find(s => s.At is null);

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 80),
            () => Refusal.Text(Source, "source", 120),
            () => Refusal.When(Steps.Count is 0 or > Most, "steps", $"Give between 1 and {Most} bolts in their order."),
            () =>
                Refusal.When(
                    Steps.Exists(s => s.Name.Trim().Length is 0 or > 80 || s.Torque.Length > 60),
                    "steps",
                    "Each bolt has a name of up to 80 letters."
                )
        );

    /// <summary>The next one is tight.</summary>
    /// <exception cref="Refusal">Another comes first.</exception>
    public void Tighten(int number, string by, Instant at)
    {
        Refusal.When(Removed, "id", "This order was taken off the sheet.");
        var step = Steps.Find(s => s.Number == number) ?? throw Refusal.Missing("bolt");
        if (step.At is not null)
        {
            return;
        }

        var next = Next()!;
        Refusal.When(next.Number != number, "number", $"{next.Number}, {next.Name}, comes first.");
        Steps = [.. Steps.Select(s => s.Number == number ? s with { By = by, At = at } : s)];
    }

    /// <summary>From this one on they are loose again.</summary>
    public void Loosen(int number)
    {
        Refusal.When(Steps.TrueForAll(s => s.Number != number), "number", "There is no such bolt.");
        Steps = [.. Steps.Select(s => s.Number >= number ? s with { By = "", At = null } : s)];
    }

    /// <exception cref="Refusal">Some of it is tight.</exception>
    public void Remove()
    {
        Refusal.When(Steps.Exists(x => x.At is not null), "id", "Some of these bolts are tight: loosen them first.");
        Removed = true;
    }
}
