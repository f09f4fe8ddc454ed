using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;

namespace FirstCoat.Core.Money;

/// <summary>Parts and outside work as a statement counts them.</summary>
public static class BillItems
{
    /// <summary>A part with its quantity and unit cost, or the unit price that was agreed.</summary>
    public static PartItem ToItem(this PartLine p) =>
        new(p.Id.ToString(), p.Quantity, p.UnitCost, p.ClientSupplied, Category: TaxKeys.Parts, UnitPrice: p.UnitPrice);

    /// <summary>Counts when counted in, in proportion to the pieces. Null while nothing is back.</summary>
    public static CostItem? ToItem(this OutsideJob job)
    {
        if (job.BackOn is null || (job.CountedIn == 0 && job.Sent > 0))
        {
            return null;
        }

        var cost = job.Sent == 0 ? job.Price : job.Price * job.CountedIn / job.Sent;
        return new(job.Id.ToString(), cost, Category: TaxKeys.Outside);
    }
}
