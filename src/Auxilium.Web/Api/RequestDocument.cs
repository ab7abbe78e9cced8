using System.Buffers;

namespace Auxilium.Web.Api;

/// <summary>Reads the body of a request as a whole, up to a limit.</summary>
internal static class RequestDocument
{
    /// <summary>The largest plan document: 10 MB.</summary>
    public const int MostBytes = 10 * 1024 * 1024;

    /// <summary>Media type of plan documents.</summary>
    public const string PlanType = "application/vnd.auxilium.plan+json";

    /// <exception cref="BadHttpRequestException">It is larger, or of another type than JSON.</exception>
    public static async Task<ReadOnlyMemory<byte>> ReadAsync(HttpRequest request, int most)
    {
        var type = request.ContentType?.Split(';')[0].Trim();
        if (type is not ("application/json" or PlanType))
            throw new BadHttpRequestException($"Send JSON: the content type must be application/json or {PlanType}.", StatusCodes.Status415UnsupportedMediaType);
        return await ReadBytesAsync(request, most);
    }

    /// <summary>The body whatever its type says it is.</summary>
    /// <exception cref="BadHttpRequestException">It is larger.</exception>
    public static async Task<ReadOnlyMemory<byte>> ReadBytesAsync(HttpRequest request, int most)
    {
        if (request.ContentLength > most) throw TooLarge(most);
        var buffer = new ArrayBufferWriter<byte>(Math.Clamp((int)(request.ContentLength ?? 4096), 256, most));
        while (true)
        {
            var read = await request.Body.ReadAsync(buffer.GetMemory(4096), request.HttpContext.RequestAborted);
            if (read == 0) return buffer.WrittenMemory;
            buffer.Advance(read);
            if (buffer.WrittenCount > most) throw TooLarge(most);
        }
    }

    private static BadHttpRequestException TooLarge(int most) =>
        new($"This is larger than the {most / 1024:N0} kB that can be taken at once: leave something out.", StatusCodes.Status413PayloadTooLarge);
}
