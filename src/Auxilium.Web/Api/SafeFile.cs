using Microsoft.Net.Http.Headers;

namespace Auxilium.Web.Api;

/// <summary>Hands out what people added as files.</summary>
internal static class SafeFile
{
    /// <summary>It can be read and saved, but nothing in it is ever run here.</summary>
    public static IResult Of(HttpContext context, string name, string mediaType, byte[] content)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = "sandbox; default-src 'none'; frame-ancestors 'none'";
        var isPicture = mediaType.StartsWith("image/", StringComparison.Ordinal);
        headers.ContentDisposition = new ContentDispositionHeaderValue(isPicture ? "inline" : "attachment")
        {
            FileNameStar = name,
            FileName = "file" + Path.GetExtension(name),
        }.ToString();
        return Results.Bytes(content, mediaType == "text/plain" ? "text/plain; charset=utf-8" : mediaType);
    }
}
