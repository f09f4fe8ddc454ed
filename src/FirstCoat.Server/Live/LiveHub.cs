using System.Collections.Concurrent;
using System.Text.Json;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Reports;
using FirstCoat.Core.Survey;
using FirstCoat.Server.Access;
using Microsoft.AspNetCore.SignalR;

namespace FirstCoat.Server.Live;

/// <summary>Tells signed-in browsers that something changed; they ask again for what they show.</summary>
public sealed class LiveHub(LiveConnections live) : Hub
{
    public override async Task OnConnectedAsync()
    {
        var user = Context.User!;
        await Groups.AddToGroupAsync(
            Context.ConnectionId,
            user.IsInRole(Roles.Technician) ? LiveConnections.Floor : LiveConnections.Desk
        );
        live.Add(Context, SessionCookie.Of(user));
        await base.OnConnectedAsync();
    }

    public override Task OnDisconnectedAsync(Exception? exception)
    {
        live.Remove(Context);
        return base.OnDisconnectedAsync(exception);
    }
}

/// <summary>The live connections of this server, by the session that each belongs to: it ends with it.</summary>
public sealed class LiveConnections(IHubContext<LiveHub> hub, IServiceScopeFactory scopes)
{
    public const string Desk = "desk",
        Floor = "floor",
        Everything = ShopChanges.Everything;

    /// <summary>Kinds of record whose very happening is not the floor's to know.</summary>
    private static readonly HashSet<string> DeskOnly =
    [
        nameof(ClientPaper),
        nameof(ApprovalCode),
        nameof(WrongAnswer),
        nameof(PrivateLink),
        nameof(Payment),
        nameof(ClientReport),
        nameof(Client),
        nameof(OtherBody),
        nameof(WhatIf),
        nameof(Account),
        nameof(Baseline),
        nameof(AcceptedTurns),
        nameof(SettledContention),
    ];

    private readonly ConcurrentDictionary<string, (HubCallerContext Context, Guid Session)> _open = new();

    public void Add(HubCallerContext context, Guid session) => _open[context.ConnectionId] = (context, session);

    public void Remove(HubCallerContext context) => _open.TryRemove(context.ConnectionId, out _);

    /// <summary>Says that a kind of record changed, and no more: who shows it asks again, as the role it has.</summary>
    public async Task Tell(string what, CancellationToken cancel)
    {
        await hub.Clients.Group(Desk).SendAsync("changed", what, cancel);
        if (!DeskOnly.Contains(what))
        {
            await hub.Clients.Group(Floor).SendAsync("changed", what, cancel);
        }
    }

    /// <summary>Sends a gauge's figure to the windows of one account alone.</summary>
    public Task Press(Guid account, decimal value, LengthUnit unit, CancellationToken cancel) =>
        hub
            .Clients.User(account.ToString())
            .SendAsync("gauge", new { value, unit = JsonNamingPolicy.CamelCase.ConvertName($"{unit}") }, cancel);

    /// <summary>Cuts the connections of a session that ended.</summary>
    public void End(Guid session)
    {
        foreach (var (context, _) in _open.Values.Where(o => o.Session == session))
        {
            context.Abort();
        }
    }

    /// <summary>Cuts the connections whose sessions ended while nobody listened.</summary>
    public async Task EndThoseThatEnded(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
        var desk = scope.ServiceProvider.GetRequiredService<AccountsDesk>();
        foreach (var session in _open.Values.Select(o => o.Session).Distinct().ToList())
        {
            if (await desk.Owner(session, cancel) is null)
            {
                End(session);
            }
        }
    }

    /// <summary>Lets only the application's own pages listen: a browser names the page that asks.</summary>
    public static async Task CheckOrigin(HttpContext context, RequestDelegate next)
    {
        var origin = context.Request.Headers.Origin.ToString();
        if (
            context.Request.Path.StartsWithSegments("/live")
            && origin.Length > 0
            && !(Uri.TryCreate(origin, UriKind.Absolute, out var from) && from.Authority == context.Request.Host.Value)
        )
        {
            await Results
                .Problem("Only the application's own pages listen here.", statusCode: 403)
                .ExecuteAsync(context);
            return;
        }

        await next(context);
    }
}
