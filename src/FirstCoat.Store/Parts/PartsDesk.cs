using FirstCoat.Core;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using NodaTime;

namespace FirstCoat.Store.Parts;

/// <summary>A part as entered.</summary>
public sealed record PartEntry(
    string Name,
    decimal Quantity,
    decimal UnitCost,
    decimal? UnitPrice,
    Guid? SupplierId,
    bool ClientSupplied,
    Guid? OperationId,
    Guid? MeasuredBy = null
);

/// <summary>Commands of the parts room.</summary>
public sealed class PartsDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>Adds a part or changes one. A technician says what is needed; prices are the desk's.</summary>
    public async Task<PartLine> Put(Guid buildId, Guid id, PartEntry entry, uint? version, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        var part = await Db.Parts.FindAsync([id], cancel);
        if (part is null)
        {
            part = new()
            {
                Id = id,
                BuildId = buildId,
                Name = "",
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(part);
        }
        else
        {
            Refusal.When(part.BuildId != buildId, "id", "This part belongs to another build.");
            Refusal.When(!Actor.IsDesk, "id", "The desk changes parts that are on the list.");
        }

        Expect(part, version);
        await OwnOperation(buildId, entry.OperationId, cancel);
        await OwnOperation(buildId, entry.MeasuredBy, cancel);
        if (entry.SupplierId is { } supplier)
        {
            await Find<Supplier>(supplier, "supplier", cancel);
        }

        (part.Name, part.Quantity, part.ClientSupplied, part.OperationId, part.MeasuredBy) = (
            Refusal.Text(entry.Name, "name"),
            entry.Quantity,
            entry.ClientSupplied,
            entry.OperationId,
            entry.MeasuredBy
        );
        if (Actor.IsDesk)
        {
            (part.UnitCost, part.UnitPrice, part.SupplierId) = (entry.UnitCost, entry.UnitPrice, entry.SupplierId);
        }

        part.Check();
        await Save(cancel);
        return part;
    }

    /// <summary>Takes a part a step on.</summary>
    public async Task<PartLine> Move(Guid id, PartState to, LocalDate? on, uint? version, CancellationToken cancel)
    {
        var part = await Find<PartLine>(id, "part", cancel);
        Expect(part, version);
        Plausible(on, "on");
        Refusal.When(
            !Actor.IsDesk && to is not (PartState.Received or PartState.Fitted),
            "state",
            "Orders are the desk's; you count in and fit."
        );
        part.Move(to, on ?? await Today(cancel));
        await Save(cancel);
        return part;
    }

    /// <summary>Books material on a build.</summary>
    public async Task<MaterialBooking> Book(
        Guid buildId,
        Guid id,
        Guid? operationId,
        string name,
        decimal quantity,
        string unit,
        decimal unitCost,
        LocalDate? on,
        CancellationToken cancel
    )
    {
        if (await Again<MaterialBooking>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        await OwnOperation(buildId, operationId, cancel);
        Plausible(on, "on");
        var booking = new MaterialBooking
        {
            Id = id,
            BuildId = buildId,
            OperationId = operationId,
            Name = name.Trim(),
            Quantity = quantity,
            Unit = unit,
            UnitCost = unitCost,
            On = on ?? await Today(cancel),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        booking.Check();
        Db.Add(booking);
        await Save(cancel);
        return booking;
    }

    private async Task OwnOperation(Guid buildId, Guid? operationId, CancellationToken cancel)
    {
        if (operationId is { } id)
        {
            var operation = await Find<Operation>(id, "operation", cancel);
            Refusal.When(operation.BuildId != buildId, "operationId", "This operation belongs to another build.");
        }
    }
}
