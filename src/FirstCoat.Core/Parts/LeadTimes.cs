using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Parts;

/// <summary>Days from order to here, from what orders took.</summary>
public static class LeadTimes
{
    /// <summary>Days where nothing has ever been ordered.</summary>
    /// <remarks>A rule of thumb: two weeks, three when it goes badly.</remarks>
    private static readonly LeadTime Unknown = new(14, 21, 0);

    /// <summary>Orders below which a supplier's own record says too little.</summary>
    private const int Enough = 5;

    /// <summary>The middle and the eighth tenth of a supplier's orders; with few of them, of all orders.</summary>
    public static LeadTime Of(IReadOnlyList<int> own, IReadOnlyList<int> all)
    {
        var days = own.Count >= Enough ? own : all;
        if (days.Count == 0)
        {
            return Unknown;
        }

        var sorted = days.Select(d => (double)d).Order().ToList();
        return new(Quantile.Of(sorted, 0.5), Quantile.Of(sorted, 0.8), days.Count);
    }
}
