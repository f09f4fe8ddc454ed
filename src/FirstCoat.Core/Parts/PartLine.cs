using NodaTime;

namespace FirstCoat.Core.Parts;

/// <summary>How far a part has come. It only moves forward by what happened; a slip is corrected by a new step
/// back.</summary>
public enum PartState
{
    Needed,
    Ordered,
    Expected,
    Received,
    Fitted,
}

/// <summary>Something a build needs, bought or brought by the client.</summary>
public sealed class PartLine : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>The operation that needs it.</summary>
    public Guid? OperationId { get; set; }

    /// <summary>It is ordered only once this operation has measured for it.</summary>
    public Guid? MeasuredBy { get; set; }

    /// <summary>The bag whose fasteners it replaces.</summary>
    public Guid? BagId { get; init; }

    public required string Name { get; set; }
    public decimal Quantity { get; set; } = 1;
    public decimal UnitCost { get; set; }

    /// <summary>Agreed with the client instead of cost with mark-up; null: by the mark-up tiers.</summary>
    public decimal? UnitPrice { get; set; }

    public Guid? SupplierId { get; set; }
    public bool ClientSupplied { get; set; }
    public PartState State { get; private set; }
    public LocalDate? OrderedOn { get; private set; }

    /// <summary>When it is here, freight included.</summary>
    public LocalDate? ExpectedOn { get; private set; }

    public LocalDate? ReceivedOn { get; private set; }
    public LocalDate? FittedOn { get; private set; }

    /// <summary>Whether its operation still waits for it.</summary>
    public bool IsAwaited => State < PartState.Received;

    /// <summary>Whether it should have been here before today.</summary>
    public bool IsLate(LocalDate today) => IsAwaited && ExpectedOn < today;

    /// <summary>Takes the part a step on (or back, when a step was a slip).</summary>
    /// <param name="on">The day it happened; for <see cref="PartState.Expected"/> the day it is to be here.</param>
    public void Move(PartState to, LocalDate on)
    {
        Refusal.When(
            to == PartState.Ordered && SupplierId is null && !ClientSupplied,
            "supplierId",
            "Say who the part is ordered from."
        );
        Refusal.When(
            to == PartState.Expected && OrderedOn is { } ordered && on < ordered,
            "on",
            "It cannot be here before it was ordered."
        );
        Refusal.When(
            to == PartState.Fitted && State < PartState.Received,
            "state",
            "It is fitted after it was received."
        );
        State = to;
        OrderedOn =
            to >= PartState.Ordered
                ? to == PartState.Ordered
                    ? on
                    : OrderedOn
                : null;
        ExpectedOn =
            to >= PartState.Expected
                ? to == PartState.Expected
                    ? on
                    : ExpectedOn
                : null;
        ReceivedOn =
            to >= PartState.Received
                ? to == PartState.Received
                    ? on
                    : ReceivedOn
                : null;
        FittedOn = to == PartState.Fitted ? on : null;
    }

    /// <summary>Checks the part by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 200),
            () =>
                Refusal.When(
                    Quantity is < -100_000 or > 100_000 || Quantity == 0,
                    "quantity",
                    "The quantity is a number other than nothing; a credit is negative."
                ),
            () =>
                Refusal.When(
                    UnitCost is < 0 or > 10_000_000,
                    "unitCost",
                    "The unit cost must be between 0 and 10 million."
                ),
            () =>
                Refusal.When(
                    UnitPrice is < 0 or > 10_000_000,
                    "unitPrice",
                    "The unit price must be between 0 and 10 million."
                )
        );
}

/// <summary>Material booked on a build: paint mixed, sheet cut.</summary>
public sealed class MaterialBooking : Recorded
{
    public required Guid BuildId { get; init; }
    public Guid? OperationId { get; init; }
    public required string Name { get; init; }
    public required decimal Quantity { get; init; }
    public string Unit { get; init; } = "";
    public required decimal UnitCost { get; init; }
    public required LocalDate On { get; init; }

    /// <summary>Checks the booking by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 200),
            () =>
                Refusal.When(
                    Quantity is <= 0 or > 100_000,
                    "quantity",
                    "The quantity lies above nothing and at most at 100,000."
                ),
            () =>
                Refusal.When(
                    UnitCost is < 0 or > 1_000_000,
                    "unitCost",
                    "The unit cost must be between 0 and a million."
                ),
            () => Refusal.When(Unit.Length > 20, "unit", "At most 20 characters.")
        );
}
