using System.Globalization;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>What a manager has settled of when, by whom and where an operation is done; the plan settles the
/// rest.</summary>
/// <param name="On">The day on which it is to start.</param>
/// <param name="Person">Who does it.</param>
/// <param name="Place">In which place.</param>
public sealed record OperationPin(LocalDate? On, Guid? Person, Guid? Place)
{
    /// <summary>As an operation is pinned now; a day before which it must not start counts as one.</summary>
    public static OperationPin Of(Operation o) =>
        new(o.Terms.PinnedOn ?? o.Terms.NotBefore, o.PersonId, o.Terms.PinnedAt);

    /// <summary>Pins an operation so.</summary>
    /// <param name="person">Who <see cref="Person"/> is; null: nobody of the shop.</param>
    /// <param name="place">What <see cref="Place"/> is; null: no place of the shop.</param>
    /// <exception cref="Refusal">Names the rule against it.</exception>
    public void Put(Operation o, LocalDate today, Person? person, Station? place)
    {
        var now = Of(o);
        Refusal.When(o.IsDone, "on", "It is done: nothing pins it any more.");
        Refusal.When(On is not null && On != now.On && On < today, "on", "Nothing starts in the past.");
        if (Person is not null && Person != now.Person && WhyNot(o, person) is { } notBy)
        {
            throw new Refusal("personId", notBy);
        }

        if (Place is not null && Place != now.Place && WhyNot(o, place) is { } notAt)
        {
            throw new Refusal("placeId", notAt);
        }

        o.PersonId = Person;
        o.Terms = o.Terms with { PinnedOn = On == now.On ? o.Terms.PinnedOn : On, PinnedAt = Place, NotBefore = On };
        o.Check();
    }

    /// <summary>What of it the plan does not keep, a sentence for each; none: all of it is kept.</summary>
    /// <param name="starts">The day on which the plan starts it.</param>
    /// <param name="people">Who does it by the plan.</param>
    /// <param name="at">Where it is done by the plan; null: in no place of its own.</param>
    /// <param name="why">What keeps it from starting sooner; asked for only where the day is not kept.</param>
    /// <param name="names">Of people and places.</param>
    public IEnumerable<string> Broken(
        LocalDate starts,
        IReadOnlyCollection<Guid> people,
        Guid? at,
        Func<string> why,
        Func<Guid, string> names
    )
    {
        if (On < starts)
        {
            yield return $"It was to start on {Day(On.Value)}, and is planned for {Day(starts)}: {(why() is { Length: > 0 } said ? said : "it was not begun")}.";
        }

        if (Person is { } person && !people.Contains(person))
        {
            yield return $"It was to be done by {names(person)}, who cannot do it now.";
        }

        if (Place is { } place && at != place)
        {
            yield return $"It was to be done in {names(place)}, where it cannot be done now.";
        }
    }

    private static string Day(LocalDate day) => day.ToString("ddd d MMM", CultureInfo.InvariantCulture);

    private static string? WhyNot(Operation o, Person? person) =>
        person is null ? "There is no such person."
        : !person.Active ? $"{person.ShortName} does not work here any more."
        : o.Trade is not { } trade ? "Nobody is needed for this."
        : !person.Trades.Contains(trade) ? $"{person.ShortName} has not the trade {trade.Name()}."
        : o.Kinds.Intersect(person.Terms.NotGiven).ToList() is [var kind, ..]
            ? $"{person.ShortName} is not given this kind of work: {Words.Of(kind)}."
        : null;

    private static string? WhyNot(Operation o, Station? place) =>
        place is null ? "There is no such place."
        : o.Station is not { } kind || o.Terms.Body != BodyUse.OnBody
            ? "This is not done in a place of its own: it goes on where the vehicle or the part is."
        : place.Kind != kind ? $"{place.Name} is no place for this, which asks for: {Words.Of(kind)}."
        : !kind.IsForVehicles() ? $"No vehicle stands in {place.Name}."
        : null;
}
