using FirstCoat.Core.Builds;

namespace FirstCoat.Server.Rooms;

/// <summary>Lists of a build that is not there are not found, instead of being empty.</summary>
public static class KnownBuild
{
    /// <summary>Answers 404 where the address's <c>id</c> names no build.</summary>
    public static RouteHandlerBuilder OfKnownBuild(this RouteHandlerBuilder route) =>
        route.AddEndpointFilter(
            async (context, next) =>
            {
                var http = context.HttpContext;
                var id = Guid.Parse((string)http.Request.RouteValues["id"]!);
                return await http
                    .RequestServices.GetRequiredService<ShopDb>()
                    .Set<Build>()
                    .AnyAsync(b => b.Id == id, http.RequestAborted)
                    ? await next(context)
                    : throw Refusal.Missing("build");
            }
        );
}
