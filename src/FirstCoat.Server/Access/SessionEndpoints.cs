using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Access;
using FirstCoat.Core.Kernel;
using FirstCoat.Server.Web;
using Microsoft.AspNetCore.Antiforgery;

namespace FirstCoat.Server.Access;

/// <summary>Sign-in, sign-out, first visit, and what somebody does with their own account.</summary>
public static class SessionEndpoints
{
    public sealed record UserView(Guid AccountId, Guid? PersonId, string Name, string Role);

    public sealed record ShopHead(string Name, string Place, string Currency, string TimeZone, UnitSystem Units);

    /// <param name="NeedsSetUp">No account exists: the first visit makes the manager's.</param>
    /// <param name="DiskFull">So little is left on the disk that nothing can be kept.</param>
    public sealed record SessionView(bool NeedsSetUp, UserView? User, Instant Now, ShopHead? Shop, bool DiskFull);

    /// <param name="Chosen">A password of one's own, where the password given is a one-time word.</param>
    public sealed record SignIn(
        [property: StringLength(100)] string User,
        [property: StringLength(PasswordRules.Most)] string Password,
        [property: StringLength(PasswordRules.Most)] string? Chosen = null
    );

    /// <param name="Works">The manager works on vehicles too and gets a clock of their own.</param>
    public sealed record FirstVisit(
        [property: StringLength(100)] string ShopName,
        [property: StringLength(100)] string Name,
        [property: StringLength(100)] string User,
        [property: StringLength(PasswordRules.Most)] string Password,
        bool Works = false
    );

    public sealed record PasswordBody(
        [property: StringLength(PasswordRules.Most)] string Old,
        [property: StringLength(PasswordRules.Most)] string Chosen
    );

    /// <param name="Here">This very browser.</param>
    public sealed record OwnSession(Guid Id, string Device, Instant StartedAt, bool Here);

    public static void MapSession(this RouteGroupBuilder api)
    {
        api.MapGet("/session", Look).AllowAnonymous().WithName("getSession");
        api.MapPost("/session", Enter).AllowAnonymous().RequireRateLimiting(Policies.SignInLimit).WithName("signIn");
        api.MapDelete("/session", async (HttpContext context, AccountsDesk desk, CancellationToken cancel) =>
            {
                await desk.Leave(SessionCookie.Of(context.User), cancel);
                await SessionCookie.Take(context);
                return Results.NoContent();
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("signOut");
        api.MapPost("/first-visit", SetUp)
            .AllowAnonymous()
            .RequireRateLimiting(Policies.SignInLimit)
            .WithName("firstVisit");
        var own = api.MapGroup("/session").RequireAuthorization(Policies.Anyone);
        own.MapPut(
                "/password",
                async (PasswordBody b, HttpContext context, AccountsDesk desk, CancellationToken cancel) =>
                {
                    await desk.ChangePassword(b.Old, b.Chosen, SessionCookie.Of(context.User), cancel);
                    return Results.NoContent();
                }
            )
            .RequireRateLimiting(Policies.SignInLimit)
            .WithName("changePassword");
        own.MapGet("/all", async (HttpContext context, AccountsDesk desk, CancellationToken cancel) =>
                (await desk.Own(cancel))
                    .Select(s => new OwnSession(s.Id, s.Device, s.StartedAt, s.Id == SessionCookie.Of(context.User)))
                    .ToList()
            )
            .WithName("listSessions");
        own.MapDelete("/others", async (HttpContext context, AccountsDesk desk, CancellationToken cancel) =>
            {
                await desk.EndOthers(SessionCookie.Of(context.User), cancel);
                return Results.NoContent();
            })
            .WithName("endOtherSessions");
    }

    private static async Task<SessionView> Look(
        HttpContext context,
        ShopDb db,
        ShopClock clock,
        CurrentActor current,
        DiskSpace disk,
        IAntiforgery antiforgery,
        CancellationToken cancel
    )
    {
        var tokens = antiforgery.GetAndStoreTokens(context);
        context.Response.Cookies.Append(
            "XSRF-TOKEN",
            tokens.RequestToken!,
            new()
            {
                HttpOnly = false,
                SameSite = SameSiteMode.Lax,
                Secure = context.Request.IsHttps,
                Path = "/",
            }
        );
        var actor = current.Actor;
        var user =
            context.User.Identity?.IsAuthenticated == true
                ? new UserView(actor.AccountId, actor.PersonId, actor.Name, actor.Role)
                : null;
        var shop = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel);
        return new(
            user is null && !await db.Users.AnyAsync(cancel),
            user,
            clock.Now,
            shop is null ? null : new(shop.Name, shop.Place, shop.Currency, shop.TimeZone, shop.Units),
            disk.IsFull
        );
    }

    private static async Task<IResult> Enter(
        SignIn ask,
        HttpContext context,
        AccountsDesk desk,
        SignInPace pace,
        CancellationToken cancel
    )
    {
        var address = context.Connection.RemoteIpAddress?.ToString() ?? "";
        if (pace.Wait(ask.User, address) is { } wait && wait > TimeSpan.Zero)
        {
            throw new TooMany($"Too many wrong tries. Wait {InWords(wait)}, then try again.", wait);
        }

        try
        {
            // A technician's phone and a desk of the same account stay signed in side by side.
            await SessionCookie.Give(
                context,
                await desk.Enter(
                    ask.User,
                    ask.Password,
                    ask.Chosen,
                    context.Request.Headers.UserAgent.ToString(),
                    cancel
                )
            );
            pace.Right(ask.User, address);
            return Results.NoContent();
        }
        catch (NotLetIn e)
        {
            pace.Wrong(ask.User, address);
            return Results.Problem(
                e.Message,
                statusCode: 401,
                extensions: new Dictionary<string, object?> { ["field"] = "password" }
            );
        }
    }

    private static string InWords(TimeSpan wait) =>
        wait.TotalSeconds < 90
            ? $"{Math.Ceiling(wait.TotalSeconds):0} seconds"
            : $"{Math.Ceiling(wait.TotalMinutes):0} minutes";

    private static async Task<IResult> SetUp(
        FirstVisit ask,
        HttpContext context,
        ShopDb db,
        CurrentActor current,
        AccountsDesk accounts,
        Store.Shop.ShopDesk desk,
        CancellationToken cancel
    )
    {
        current.Actor = Actor.Application;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlRawAsync("select pg_advisory_xact_lock(1)", cancel);
        Refusal.When(await db.Users.AnyAsync(cancel), "user", "The shop has been set up. Sign in.");
        await desk.SaveSettings(
            s => (s.Name, s.Week) = (Refusal.Text(ask.ShopName, "shopName", 100), StandardWeek()),
            null,
            cancel
        );
        Guid? person = ask.Works
            ? (await desk.PutPerson(Guid.CreateVersion7(), ask.Name, [], true, null, cancel)).Id
            : null;
        var account = await accounts.AddWithin(
            Guid.CreateVersion7(),
            ask.User,
            ask.Password,
            ask.Name,
            Roles.Manager,
            person,
            cancel
        );
        var entered = await accounts.BeginWithin(account, context.Request.Headers.UserAgent.ToString(), cancel);
        await transaction.CommitAsync(cancel);
        await SessionCookie.Give(context, entered);
        return Results.NoContent();
    }

    /// <summary>Where a new shop starts from; all of it can be changed.</summary>
    public static List<DayShift> StandardWeek() =>
        [
            .. Enumerable
                .Range(1, 5)
                .Select(d => new DayShift((IsoDayOfWeek)d, new(8, 0), new(16, 30), [new(new(12, 0), new(12, 30))])),
        ];
}
