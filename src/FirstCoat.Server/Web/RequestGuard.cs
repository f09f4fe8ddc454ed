using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;

namespace FirstCoat.Server.Web;

/// <summary>Before an endpoint runs: an address that can be read, a body of a likely size, who asks, and the
/// anti-forgery token of unsafe calls.</summary>
public static class RequestGuard
{
    /// <summary>Bytes of a body in JSON; the largest that a screen sends is a sequence of some hundred
    /// kilobytes.</summary>
    public const int MostJson = 1024 * 1024;

    /// <summary>Bytes of any body: the largest picture and what the form adds to it.</summary>
    public const int MostBody = Store.Photos.PhotoFiles.MaxBytes + (1024 * 1024);

    public static async Task Check(HttpContext context, RequestDelegate next)
    {
        if (
            context.Request.Path.Value!.Contains('\0', StringComparison.Ordinal)
            || context.Request.QueryString.Value!.Contains("%00", StringComparison.Ordinal)
        )
        {
            await Refuse(context, 400, "This address holds a sign that no address has.", "path");
            return;
        }

        if (!context.Request.HasFormContentType)
        {
            if (context.Request.ContentLength > MostJson)
            {
                await Refuse(context, 413, "This is more than one request may say.", "body");
                return;
            }

            if (context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size)
            {
                size.MaxRequestBodySize = MostJson;
            }
        }

        if (context.User.Identity?.IsAuthenticated != true)
        {
            context.RequestServices.GetRequiredService<CurrentActor>().Actor = Actor.Visitor;
        }

        var unsafeCall =
            context.Request.Path.StartsWithSegments("/api")
            && !HttpMethods.IsGet(context.Request.Method)
            && !HttpMethods.IsHead(context.Request.Method);
        if (unsafeCall)
        {
            try
            {
                await context.RequestServices.GetRequiredService<IAntiforgery>().ValidateRequestAsync(context);
            }
            catch (AntiforgeryValidationException)
            {
                await Refuse(context, 400, "Your page is out of date. Load it again.", "X-XSRF-TOKEN");
                return;
            }
        }

        await next(context);
    }

    private static Task Refuse(HttpContext context, int status, string why, string field) =>
        Results
            .Problem(why, statusCode: status, extensions: new Dictionary<string, object?> { ["field"] = field })
            .ExecuteAsync(context);
}
