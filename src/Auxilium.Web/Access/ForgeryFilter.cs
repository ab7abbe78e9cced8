using Microsoft.AspNetCore.Antiforgery;

namespace Auxilium.Web.Access;

/// <summary>
/// Keeps other sites from using a person's browser to change things: a request that a browser sends must carry the antiforgery
/// token of a page of ours. Every browser names the origin of what it posts; programs that do not are no browsers to abuse.
/// </summary>
public sealed class ForgeryFilter(IAntiforgery antiforgery) : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var headers = context.HttpContext.Request.Headers;
        var fromBrowser = headers.ContainsKey("Origin") || headers.ContainsKey("Sec-Fetch-Site");
        if (fromBrowser && !await antiforgery.IsRequestValidAsync(context.HttpContext))
            return Results.Problem("This page is out of date: reload it and try again.", statusCode: StatusCodes.Status400BadRequest, title: "Forgery check failed");
        return await next(context);
    }
}
