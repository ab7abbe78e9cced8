namespace Auxilium.Web.Access;

/// <summary>
/// Whether a request comes from a page of ours. A browser names the page's origin when it opens a connection that stays, and sends its
/// cookies whatever that page is: so others are turned away.
/// </summary>
internal static class OwnOrigin
{
    public static bool Allows(HttpContext context)
    {
        if (context.Request.Headers.Origin is not [{ } origin, ..])
            return true;
        if (!Uri.TryCreate(origin, UriKind.Absolute, out var from))
            return false;
        var address = context.RequestServices.GetRequiredService<IConfiguration>()["ADDRESS"];
        return string.Equals(from.Authority, context.Request.Host.Value, StringComparison.OrdinalIgnoreCase)
            || (
                Uri.TryCreate(address, UriKind.Absolute, out var own)
                && Uri.Compare(from, own, UriComponents.SchemeAndServer, UriFormat.Unescaped, StringComparison.OrdinalIgnoreCase) == 0
            );
    }
}
