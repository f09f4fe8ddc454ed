namespace FirstCoat.Core.Kernel;

/// <summary>How an entry's minutes are rounded: not at all, to the nearest tenth of an hour, or up to the
/// quarter.</summary>
public enum MinuteRounding
{
    None,
    Nearest6,
    Up15,
}
