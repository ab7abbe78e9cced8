using Auxilium.Web.Api;
using Microsoft.AspNetCore.Antiforgery;

namespace Auxilium.Web.Access;

/// <summary>
/// Keeps other sites from using a person's browser to change things: whoever comes with a cookie must carry the antiforgery token of a
/// page of ours. Only a program that sends its own token needs none, since no other site can make a browser send that. It stands before
/// the whole API; what only reads, or is marked <see cref="ChangesNothing"/>, passes.
/// </summary>
public sealed class ForgeryFilter(IAntiforgery antiforgery) : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        if (HttpMethods.IsGet(http.Request.Method) || http.GetEndpoint()?.Metadata.GetMetadata<ChangesNothing>() is not null)
            return await next(context);
        var isProgram = http.User.Identity?.AuthenticationType == TokenSignIn.SchemeName;
        if (!isProgram && !await antiforgery.IsRequestValidAsync(http))
            return Problems.Forged();
        return await next(context);
    }
}

/// <summary>Marks a route that works something out of what it is sent, and neither reads nor keeps anything else.</summary>
internal sealed record ChangesNothing;
