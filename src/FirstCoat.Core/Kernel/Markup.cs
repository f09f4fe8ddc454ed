namespace FirstCoat.Core.Kernel;

/// <summary>What is put on a cost.</summary>
public static class Markup
{
    /// <summary>Net price of something bought in at a cost, with a mark-up in percent on it; not rounded.</summary>
    /// <remarks>Source: arithmetic; the percentage is the shop's rule.</remarks>
    public static decimal On(decimal cost, decimal percent) => cost * (1 + percent / 100);
}
