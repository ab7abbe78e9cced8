namespace Auxilium.Web.Access;

/// <summary>Headers of every answer: only our own scripts and styles, no frames, no guessing of types.</summary>
public static class SecurityHeaders
{
    private const string Policy =
        "default-src 'none'; script-src 'self' {0}; style-src 'self'; img-src 'self'; font-src 'self'; connect-src 'self'; "
        + "form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    public static IApplicationBuilder UseSecurityHeaders(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                var headers = context.Response.Headers;
                headers.ContentSecurityPolicy = Policy.Replace(
                    "{0}",
                    context.RequestServices.GetRequiredService<ScriptMap>().Source,
                    StringComparison.Ordinal
                );
                headers.XContentTypeOptions = "nosniff";
                headers.XFrameOptions = "DENY";
                if (context.Request.IsHttps)
                    headers.StrictTransportSecurity = "max-age=31536000";
                headers["Referrer-Policy"] = "same-origin";
                headers["Cross-Origin-Opener-Policy"] = "same-origin";
                headers["Cross-Origin-Resource-Policy"] = "same-origin";
                headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
                // What one person is answered is for nobody who comes after them. What may be kept says so itself.
                context.Response.OnStarting(() =>
                {
                    if (headers.CacheControl.Count == 0)
                        headers.CacheControl = "no-store";
                    return Task.CompletedTask;
                });
                return next(context);
            }
        );
}
