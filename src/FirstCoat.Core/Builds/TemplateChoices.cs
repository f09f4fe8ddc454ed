using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Builds;

/// <summary>When the shell is blasted: bare, before metalwork; once, after all fabrication; only where it is
/// needed.</summary>
public enum BlastSchool
{
    BareFirst,
    AfterFabrication,
    WhereNeeded,
}

/// <summary>One side at a time, the other closed as reference; or both opened together.</summary>
public enum SideSchool
{
    OneAtATime,
    Both,
}

/// <summary>Filler on scuffed epoxy, or filler on bare metal and epoxy over it.</summary>
public enum FillerSchool
{
    EpoxyFirst,
    FillerFirst,
}

/// <summary>When gaps are judged: before any finish, after a uniform coat, or both.</summary>
public enum GapSchool
{
    Both,
    BeforeFinish,
    AfterUniformCoat,
}

/// <summary>When wiring is roughed in.</summary>
public enum WiringSchool
{
    AfterPaint,
    OnBareMetal,
}

/// <summary>Who trims: somebody of the shop, or an upholsterer who comes on their own days, works in a bay of ours and
/// first accepts what is to be trimmed.</summary>
public enum TrimSchool
{
    InHouse,
    Visiting,
}

/// <summary>Where practitioners differ: the schools that a template follows.</summary>
/// <param name="Hold">How the shell is held while structure is cut.</param>
public sealed record TemplateChoices(
    SupportState Hold = SupportState.Jig,
    BlastSchool Blast = BlastSchool.BareFirst,
    SideSchool Sides = SideSchool.OneAtATime,
    FillerSchool Filler = FillerSchool.EpoxyFirst,
    GapSchool Gaps = GapSchool.Both,
    WiringSchool Wiring = WiringSchool.AfterPaint,
    TrimSchool Trim = TrimSchool.InHouse
)
{
    /// <summary>What the usual caution says of holding the shell like this while structure is cut; null:
    /// nothing.</summary>
    public string? Caution() =>
        Hold is SupportState.Jig ? null
        : Hold == SupportState.OwnChassis
            ? "On its own chassis the shell is as true as the chassis: measure it before structure is cut."
        : $"Held {(Hold == SupportState.Wheels ? "on its wheels" : Hold == SupportState.Cart ? "on a cart" : "in a rotisserie")} the shell can flex: brace the openings and measure before and after structure is cut.";
}
