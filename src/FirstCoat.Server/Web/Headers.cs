namespace FirstCoat.Server.Web;

/// <summary>Headers of every answer.</summary>
public static class Headers
{
    private const string Policy =
        "default-src 'self'; script-src 'self'; style-src 'self'; style-src-elem 'self' 'unsafe-inline'; style-src-attr 'none'; img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public static Task Add(HttpContext context, RequestDelegate next)
    {
        context.Response.OnStarting(() =>
        {
            var headers = context.Response.Headers;
            headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "no-referrer";
            if (context.Request.IsHttps)
            {
                headers.StrictTransportSecurity = "max-age=31536000";
            }

            if (context.Request.Path.StartsWithSegments("/assets") && context.Response.StatusCode == 200)
            {
                headers.CacheControl = "public, max-age=31536000, immutable";
            }
            else if (context.Request.Path.StartsWithSegments("/api") && !headers.ContainsKey("Cache-Control"))
            {
                headers.CacheControl = "no-store";
            }

            return Task.CompletedTask;
        });
        return next(context);
    }
}
