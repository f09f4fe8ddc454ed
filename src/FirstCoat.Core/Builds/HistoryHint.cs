namespace FirstCoat.Core.Builds;

/// <summary>What is known of a vehicle's life, that says where to look harder.</summary>
public enum HistoryHint
{
    StoodOutside,
    CrashedFront,
    CrashedRear,
    CrashedLeft,
    CrashedRight,
    PaintedOver,
    RepairedBefore,
    SaltAir,
}
