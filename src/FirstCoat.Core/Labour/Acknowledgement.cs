using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>Somebody has read the caution of a kind of work on a build, before starting it there for the first
/// time.</summary>
public sealed class Acknowledgement : Recorded
{
    public required Guid BuildId { get; init; }
    public required Guid PersonId { get; init; }
    public required Hazard Hazard { get; init; }

    /// <summary>The work at which it was read, by its name then.</summary>
    public required string Work { get; init; }

    /// <summary>The caution as it stood; another wording is read anew.</summary>
    public required string Caution { get; init; }

    public required Instant At { get; init; }

    /// <summary>What somebody has still to read before this kind of work on a build; null: nothing.</summary>
    /// <param name="hazard">The danger that the work carries; null: none.</param>
    /// <param name="given">What that person has read on that build.</param>
    public static string? Owed(Hazard? hazard, IEnumerable<Acknowledgement> given) =>
        hazard is { } h && Cautions.Text(h) is var text && !given.Any(a => a.Hazard == h && a.Caution == text)
            ? text
            : null;
}
