using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Auxilium.Web.Pages;

/// <summary>Refuses posts that no form sends: to handlers that the page does not have.</summary>
internal sealed class KnownHandlers : IPageFilter
{
    /// <summary>Reads a form before anything asks for it, so that a malformed one is refused as such.</summary>
    public static async Task ReadFormAsync(HttpContext context, RequestDelegate next)
    {
        if (HttpMethods.IsPost(context.Request.Method) && context.Request.HasFormContentType)
        {
            try
            {
                await context.Request.ReadFormAsync(context.RequestAborted);
            }
            catch (Exception e) when (e is InvalidDataException or IOException and not BadHttpRequestException)
            {
                context.Response.StatusCode = StatusCodes.Status400BadRequest;
                return;
            }
        }
        await next(context);
    }

    public void OnPageHandlerSelected(PageHandlerSelectedContext context) { }

    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        var request = context.HttpContext.Request;
        // Pages only take forms: anything else would be read as an empty one, or not at all.
        if (HttpMethods.IsPost(request.Method) && !request.HasFormContentType && request.ContentLength > 0)
            context.Result = new StatusCodeResult(StatusCodes.Status415UnsupportedMediaType);
        else if (
            request.HasFormContentType
            && request.Form.Any(field => field.Value.Any(text => text?.Contains('\0', StringComparison.Ordinal) == true))
        )
            context.Result = new BadRequestResult();
        if (context.HandlerMethod is { } known)
        {
            // An unknown handler would otherwise fall back to the page's default one.
            if (
                context.HttpContext.Request.Query["handler"].ToString() is { Length: > 0 } named
                && !named.Equals(known.Name, StringComparison.OrdinalIgnoreCase)
            )
                context.Result = new BadRequestResult();
            return;
        }
        if (!HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method) || request.Query.ContainsKey("handler"))
            context.Result = new BadRequestResult();
    }

    public void OnPageHandlerExecuted(PageHandlerExecutedContext context) { }
}
