using System.Security.Claims;
using FirstCoat.Core.Access;
using FirstCoat.Server.Access;
using Microsoft.AspNetCore.Antiforgery;

namespace FirstCoat.Server.Web;

/// <summary>Before an endpoint runs: the anti-forgery token of unsafe calls, and who asks.</summary>
public static class RequestGuard
{
    public static async Task Check(HttpContext context, RequestDelegate next)
    {
        if (context.User.Identity?.IsAuthenticated == true)
        {
            context.RequestServices.GetRequiredService<CurrentActor>().Actor = Read(context.User);
        }

        var unsafeCall = context.Request.Path.StartsWithSegments("/api") && !HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method);
        if (unsafeCall)
        {
            try
            {
                await context.RequestServices.GetRequiredService<IAntiforgery>().ValidateRequestAsync(context);
            }
            catch (AntiforgeryValidationException)
            {
                await Results.Problem("Your page is out of date. Load it again.", statusCode: 400, extensions: new Dictionary<string, object?> { ["field"] = "X-XSRF-TOKEN" }).ExecuteAsync(context);
                return;
            }
        }

        await next(context);
    }

    private static Actor Read(ClaimsPrincipal user) => new(
        Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!),
        user.FindFirstValue(AccountClaims.Person) is { } person ? Guid.Parse(person) : null,
        user.FindFirstValue(AccountClaims.Name) ?? user.Identity!.Name ?? "",
        user.FindFirstValue(ClaimTypes.Role) ?? Roles.Technician);
}
