using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;

namespace FirstCoat.Server.Access;

/// <summary>
/// The cookie of a sign-in names a session and nothing else. Whose it is and what they may do is asked of the database
/// with every request, so that an end, a closed account or another role holds from the next request on.
/// </summary>
public static class SessionCookie
{
    private const string Session = "session";

    public static void Configure(CookieAuthenticationOptions o)
    {
        o.Cookie.Name = "firstcoat";
        o.Cookie.HttpOnly = true;
        o.Cookie.SameSite = SameSiteMode.Lax;
        o.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        o.ExpireTimeSpan = TimeSpan.FromDays(14);
        o.SlidingExpiration = true;
        // The browser drops cookies by its own clock, so a sign-in runs on the real one whatever day the shop shows.
        o.TimeProvider = TimeProvider.System;
        o.Events.OnRedirectToLogin = c => Status(c.HttpContext, 401);
        o.Events.OnRedirectToAccessDenied = c =>
            Results.Problem(ForWhom(c.HttpContext.GetEndpoint()), statusCode: 403).ExecuteAsync(c.HttpContext);
        o.Events.OnValidatePrincipal = Validate;
    }

    /// <summary>Gives the browser the cookie of a session that has begun.</summary>
    public static Task Give(HttpContext context, Entered entered) =>
        context.SignInAsync(
            IdentityConstants.ApplicationScheme,
            Principal(entered.SessionId, entered.AccountId, null),
            new() { IsPersistent = true }
        );

    public static Task Take(HttpContext context) => context.SignOutAsync(IdentityConstants.ApplicationScheme);

    /// <summary>The session of a signed-in request.</summary>
    public static Guid Of(ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(Session)!);

    private static async Task Validate(CookieValidatePrincipalContext context)
    {
        var owner = Guid.TryParse(context.Principal?.FindFirstValue(Session), out var session)
            ? await context
                .HttpContext.RequestServices.GetRequiredService<AccountsDesk>()
                .Owner(session, context.HttpContext.RequestAborted)
            : null;
        if (owner is null)
        {
            context.RejectPrincipal();
            await Take(context.HttpContext);
            return;
        }

        context.HttpContext.RequestServices.GetRequiredService<CurrentActor>().Actor = owner.Actor;
        context.ReplacePrincipal(Principal(session, owner.Actor.AccountId, owner.Actor));
    }

    private static ClaimsPrincipal Principal(Guid session, Guid account, Actor? actor) =>
        new(
            new ClaimsIdentity(
                [
                    new(Session, session.ToString()),
                    new(ClaimTypes.NameIdentifier, account.ToString()),
                    .. actor is null
                        ? Array.Empty<Claim>()
                        : [new(ClaimTypes.Name, actor.Name), new(ClaimTypes.Role, actor.Role)],
                ],
                IdentityConstants.ApplicationScheme
            )
        );

    /// <summary>Who may do what an endpoint does, in a sentence for whoever may not.</summary>
    private static string ForWhom(Endpoint? endpoint)
    {
        var policies = endpoint?.Metadata.GetOrderedMetadata<IAuthorizeData>().Select(a => a.Policy).ToList() ?? [];
        return policies.Contains(Policies.Manager) ? "Only the manager may see or do this."
            : policies.Contains(Policies.Desk) ? "Only the manager and the office may see or do this."
            : policies.Contains(Policies.Floor) ? "Only the manager and the technicians may do this."
            : "Your account may not see or do this. Ask the manager.";
    }

    private static Task Status(HttpContext context, int status)
    {
        context.Response.StatusCode = status;
        return Task.CompletedTask;
    }
}
