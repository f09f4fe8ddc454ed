using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Builds;

/// <summary>A vehicle's arrival record with its build; null: nobody has written one yet.</summary>
public sealed record ArrivalLook(Build Build, Arrival? Arrival, IReadOnlyList<RoundStation> Round);

/// <summary>Commands of the builds room about how a vehicle came.</summary>
public sealed class ArrivalDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>The record as it stands.</summary>
    public async Task<ArrivalLook> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        return new(
            build,
            await Db.Arrivals.AsNoTracking().SingleOrDefaultAsync(a => a.BuildId == buildId, cancel),
            Round(build)
        );
    }

    /// <summary>Writes the record or changes it. Requests, pictures of the round and what was returned stay with their
    /// pieces.</summary>
    public async Task<Arrival> Put(Guid buildId, Action<Arrival> change, uint? version, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        var arrival = await OrNew(buildId, cancel);
        Expect(arrival, version);
        var asked = arrival.Promised.ToDictionary(p => p.Id);
        change(arrival);
        arrival.Promised = arrival
            .Promised.Select(p =>
                asked.TryGetValue(p.Id, out var was)
                    ? p with
                    {
                        AskedOn = was.AskedOn,
                        By = was.By,
                        PartId = was.PartId,
                    }
                    : p with
                    {
                        AskedOn = null,
                        By = null,
                        PartId = null,
                    }
            )
            .ToList();
        Refusal.When(
            asked.Values.Any(p => p.PartId is not null && arrival.Promised.All(x => x.Id != p.Id)),
            "promised",
            "What was asked for stays in the list."
        );
        arrival.Check();
        await Save(cancel);
        return arrival;
    }

    /// <summary>Asks the client for what is missing of a promised piece: a line that the plan waits for until its
    /// day.</summary>
    /// <param name="operationId">The work that cannot go on without it.</param>
    public async Task<Arrival> Ask(Guid buildId, Guid piece, LocalDate by, Guid? operationId, CancellationToken cancel)
    {
        Plausible(by, "by");
        Refusal.When(
            operationId is { } o
                && !await Db.Operations.AnyAsync(x => x.Id == o && x.BuildId == buildId && !x.Removed, cancel),
            "operationId",
            "There is no such operation on this build."
        );
        var arrival = await Db.Arrivals.SingleOrDefaultAsync(a => a.BuildId == buildId, cancel)
            ?? throw Refusal.Missing("arrival record");
        var asked = arrival.Ask(piece, by, await Today(cancel), Guid.CreateVersion7());
        var line = await Db.Parts.FindAsync([asked.PartId!.Value], cancel);
        if (line is null)
        {
            line = new()
            {
                Id = asked.PartId.Value,
                BuildId = buildId,
                Name = asked.What,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(line);
        }

        (line.Name, line.Quantity, line.ClientSupplied, line.OperationId) = (
            $"{asked.What}, from the client",
            asked.Missing,
            true,
            operationId ?? line.OperationId
        );
        line.Move(PartState.Expected, by);
        await Save(cancel);
        return arrival;
    }

    /// <summary>Settles a danger that was noticed, by the method that is used.</summary>
    public async Task<Arrival> Settle(Guid buildId, Guid hazard, string method, CancellationToken cancel)
    {
        var arrival = await Db.Arrivals.SingleOrDefaultAsync(a => a.BuildId == buildId, cancel)
            ?? throw Refusal.Missing("arrival record");
        arrival.Settle(hazard, method, Actor.Name, Clock.Now);
        await Save(cancel);
        return arrival;
    }

    /// <summary>Puts a picture to a place of the round; another one takes its place.</summary>
    public async Task<Arrival> Shoot(Guid buildId, string station, Guid photoId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        Refusal.When(Round(build).All(r => r.Key != station), "station", "The round has no such place.");
        Refusal.When(
            !await Db.Photos.AnyAsync(p => p.Id == photoId && p.BuildId == buildId, cancel),
            "photoId",
            "There is no such photo of this build."
        );
        var arrival = await OrNew(buildId, cancel);
        arrival.Round = [.. arrival.Round.Where(r => r.Station != station), new(station, photoId)];
        await Save(cancel);
        return arrival;
    }

    /// <summary>What was borrowed goes back.</summary>
    public async Task<Arrival> Return(Guid buildId, Guid standIn, CancellationToken cancel)
    {
        var arrival = await Db.Arrivals.SingleOrDefaultAsync(a => a.BuildId == buildId, cancel)
            ?? throw Refusal.Missing("arrival record");
        Refusal.When(arrival.StandIns.All(s => s.Id != standIn), "id", "There is no such stand-in.");
        var today = await Today(cancel);
        arrival.StandIns = arrival
            .StandIns.Select(s => s.Id == standIn ? s with { ReturnedOn = s.ReturnedOn ?? today } : s)
            .ToList();
        await Save(cancel);
        return arrival;
    }

    private static IReadOnlyList<RoundStation> Round(Build build) =>
        ArrivalRound.Of(build.Vehicle.Dimensions.LengthMm, build.Vehicle.Dimensions.WidthMm);

    private async Task<Arrival> OrNew(Guid buildId, CancellationToken cancel)
    {
        var arrival = await Db.Arrivals.SingleOrDefaultAsync(a => a.BuildId == buildId, cancel);
        if (arrival is null)
        {
            arrival = new()
            {
                Id = Guid.CreateVersion7(),
                BuildId = buildId,
                CameOn = await Today(cancel),
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(arrival);
        }

        return arrival;
    }
}
