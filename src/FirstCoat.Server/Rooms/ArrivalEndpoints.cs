using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Store.Builds;

namespace FirstCoat.Server.Rooms;

/// <summary>The builds room: how a vehicle came.</summary>
public static class ArrivalEndpoints
{
    public sealed record PieceBody(Guid Id, [property: StringLength(100)] string What, int Promised, int Came);

    public sealed record ArrivalBody(
        LocalDate CameOn,
        ArrivedAs As,
        [property: StringLength(100)] string OnWhose,
        int? Serial,
        List<SerialBreak> Breaks,
        int? Odometer,
        int Keys,
        List<string> Fluids,
        BatteryKind Battery,
        [property: StringLength(100)] string Storage,
        List<PieceBody> Promised,
        List<string> CameUnasked,
        List<StandIn> StandIns,
        List<string> ToUndo,
        List<HazardBody> Hazards,
        Heights? Heights,
        uint? Version
    );

    public sealed record AskPieceBody(LocalDate By, Guid? OperationId);

    public sealed record ShotBody(Guid PhotoId);

    public sealed record StationOfRound(
        string Key,
        string Name,
        MapPoint At,
        MapPoint Aim,
        double HalfAngle,
        Guid? PhotoId
    );

    public sealed record PieceView(
        Guid Id,
        string What,
        int Promised,
        int Came,
        int Missing,
        LocalDate? AskedOn,
        LocalDate? By
    );

    public sealed record BreakView(int At, string Before, string From, string Fitted, int Past);

    public sealed record WayThrough(string How, int ByMm, double SpareMm);

    public sealed record DoorOnWay(
        Guid StationId,
        string Name,
        int DoorMm,
        double SpareMm,
        bool Fits,
        List<WayThrough> Ways
    );

    public sealed record HazardView(
        Guid Id,
        Hazard Hazard,
        string Where,
        string Next,
        LocalDate? ExpectedOn,
        bool Settled,
        string Method,
        string SettledBy,
        Instant? SettledAt,
        string Caution
    );

    public sealed record HazardBody(
        Guid Id,
        Hazard Hazard,
        [property: StringLength(100)] string Where,
        [property: StringLength(200)] string Next,
        bool Settled,
        LocalDate? ExpectedOn = null
    );

    public sealed record MethodBody([property: StringLength(300)] string Method);

    /// <param name="Written">False: nobody has written the record yet.</param>
    public sealed record ArrivalView(
        bool Written,
        LocalDate? CameOn,
        ArrivedAs As,
        string OnWhose,
        int? Serial,
        List<BreakView> Breaks,
        int? Odometer,
        int Keys,
        List<string> Fluids,
        BatteryKind Battery,
        string Storage,
        List<PieceView> Promised,
        int PiecesPromised,
        int PiecesCame,
        List<string> CameUnasked,
        List<StandIn> StandIns,
        List<string> ToUndo,
        List<HazardView> Hazards,
        Heights? Heights,
        List<DoorOnWay> Doors,
        List<StationOfRound> Round,
        int Taken,
        uint? Version
    );

    public static void MapArrival(this RouteGroupBuilder api)
    {
        var arrival = api.MapGroup("/builds/{id:guid}/arrival");
        arrival.MapGet("", Look).RequireAuthorization(Policies.Anyone).WithName("getArrival");
        arrival
            .MapPut("", async (Guid id, ArrivalBody b, ArrivalDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Put(id, a => Take(a, b), b.Version, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("putArrival");
        arrival
            .MapPost(
                "/pieces/{piece:guid}/ask",
                async (Guid id, Guid piece, AskPieceBody b, ArrivalDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Ask(id, piece, b.By, b.OperationId, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("askForPiece");
        arrival
            .MapPost(
                "/hazards/{hazard:guid}/settle",
                async (Guid id, Guid hazard, MethodBody b, ArrivalDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Settle(id, hazard, b.Method, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("settleHazard");
        arrival
            .MapPut(
                "/round/{station}",
                async (Guid id, string station, ShotBody b, ArrivalDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Shoot(id, station, b.PhotoId, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("shootRound");
        arrival
            .MapPost(
                "/stand-ins/{standIn:guid}/return",
                async (Guid id, Guid standIn, ArrivalDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Return(id, standIn, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("returnStandIn");
    }

    private static void Take(Arrival a, ArrivalBody b)
    {
        (a.CameOn, a.As, a.OnWhose, a.Serial, a.Breaks, a.Odometer, a.Keys, a.Fluids, a.Battery, a.Storage) = (
            b.CameOn,
            b.As,
            b.OnWhose.Trim(),
            b.Serial,
            b.Breaks,
            b.Odometer,
            b.Keys,
            b.Fluids,
            b.Battery,
            b.Storage.Trim()
        );
        a.Promised = b
            .Promised.Select(p => new PromisedPiece(p.Id, p.What.Trim(), p.Promised, p.Came, null, null, null))
            .ToList();
        (a.CameUnasked, a.StandIns, a.ToUndo, a.Heights) = (b.CameUnasked, b.StandIns, b.ToUndo, b.Heights);
        a.Notice([
            .. b.Hazards.Select(h => new NoticedHazard(h.Id, h.Hazard, h.Where, h.Next, h.Settled)
            {
                ExpectedOn = h.ExpectedOn,
            }),
        ]);
    }

    private static async Task<ArrivalView> Look(Guid id, ArrivalDesk desk, ShopDb db, CancellationToken cancel)
    {
        var look = await desk.Look(id, cancel);
        var a = look.Arrival ?? new Arrival { BuildId = id };
        var stations = await db
            .Stations.AsNoTracking()
            .Where(s => s.DoorHeightMm != null)
            .OrderBy(s => s.YMm)
            .ThenBy(s => s.XMm)
            .ToListAsync(cancel);
        var doors = stations
            .Select(s => (Station: s, Pass: a.Passes(s)))
            .Where(d => d.Pass is not null)
            .Select(d => new DoorOnWay(
                d.Station.Id,
                d.Station.Name,
                d.Pass!.DoorMm,
                d.Pass.SpareMm,
                d.Pass.Fits,
                d.Pass.Ways.Select(w => new WayThrough(w.Way.How, w.Way.ByMm, w.SpareMm)).ToList()
            ))
            .ToList();
        var fitted = a.Fitted().ToDictionary(f => f.Break.At);
        return new(
            look.Arrival is not null,
            look.Arrival?.CameOn,
            a.As,
            a.OnWhose,
            a.Serial,
            a.Breaks.OrderBy(b => b.At)
                .Select(b => new BreakView(
                    b.At,
                    b.Before,
                    b.From,
                    fitted.TryGetValue(b.At, out var f) ? f.Fitted : "",
                    fitted.TryGetValue(b.At, out var g) ? g.Past : 0
                ))
                .ToList(),
            a.Odometer,
            a.Keys,
            a.Fluids,
            a.Battery,
            a.Storage,
            a.Promised.Select(p => new PieceView(p.Id, p.What, p.Promised, p.Came, p.Missing, p.AskedOn, p.By))
                .ToList(),
            a.PiecesPromised,
            a.PiecesCame,
            a.CameUnasked,
            a.StandIns,
            a.ToUndo,
            a.Hazards.Select(h => new HazardView(
                    h.Id,
                    h.Hazard,
                    h.Where,
                    h.Next,
                    h.ExpectedOn,
                    h.Settled,
                    h.Method,
                    h.SettledBy,
                    h.SettledAt,
                    Cautions.Text(h.Hazard)
                ))
                .ToList(),
            a.Heights,
            doors,
            look.Round.Select(r => new StationOfRound(
                    r.Key,
                    r.Name,
                    r.At,
                    r.Aim,
                    r.HalfAngle,
                    a.Round.FirstOrDefault(s => s.Station == r.Key)?.PhotoId
                ))
                .ToList(),
            a.Round.Count,
            look.Arrival?.Version
        );
    }
}
