using FirstCoat.Store.Overview;

namespace FirstCoat.Server.Rooms;

/// <summary>Overview: whatever lies across the rooms.</summary>
public static class OverviewEndpoints
{
    public static void MapOverview(this RouteGroupBuilder api) =>
        api.MapGet("/find", (string? q, int? here, FindDesk desk, CancellationToken cancel) =>
            {
                var asked = q ?? "";
                Core.Refusal.When(asked.Length > 200, "q", "At most 200 characters.");
                return desk.Find(asked, here, cancel);
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("find");
}
