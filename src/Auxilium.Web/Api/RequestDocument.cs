using System.Buffers;

namespace Auxilium.Web.Api;

/// <summary>Reads the body of a request, up to a size and time limit.</summary>
internal static class RequestDocument
{
    /// <summary>The largest plan document: 10 MB.</summary>
    public const int MostBytes = 10 * 1024 * 1024;

    /// <summary>The least time that any body has to arrive.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);

    private const long SlowestBytesASecond = 100_000;

    /// <summary>Media type of plan documents.</summary>
    public const string PlanType = "application/vnd.auxilium.plan+json";

    /// <exception cref="BadHttpRequestException">It is larger, or not JSON.</exception>
    public static async Task<ReadOnlyMemory<byte>> ReadAsync(HttpRequest request, int most, TimeSpan? patience = null)
    {
        var type = request.ContentType?.Split(';')[0].Trim();
        if (type is not ("application/json" or PlanType))
            throw new BadHttpRequestException(
                $"Send JSON: the content type must be application/json or {PlanType}.",
                StatusCodes.Status415UnsupportedMediaType
            );
        return await ReadBytesAsync(request, most, patience);
    }

    /// <summary>The body, whatever its media type.</summary>
    /// <exception cref="BadHttpRequestException">It is larger.</exception>
    public static async Task<ReadOnlyMemory<byte>> ReadBytesAsync(HttpRequest request, int most, TimeSpan? patience = null)
    {
        if (request.ContentLength > most)
            throw TooLarge(most);
        var buffer = new ArrayBufferWriter<byte>(4096);
        using var end = CancellationTokenSource.CreateLinkedTokenSource(request.HttpContext.RequestAborted);
        end.CancelAfter((patience ?? Patience) + TimeSpan.FromSeconds((request.ContentLength ?? most) / SlowestBytesASecond));
        try
        {
            while (true)
            {
                var read = await request.Body.ReadAsync(buffer.GetMemory(4096), end.Token);
                if (read == 0)
                    return buffer.WrittenMemory;
                buffer.Advance(read);
                if (buffer.WrittenCount > most)
                    throw TooLarge(most);
            }
        }
        catch (OperationCanceledException) when (!request.HttpContext.RequestAborted.IsCancellationRequested)
        {
            throw new BadHttpRequestException(
                "This took too long to arrive: send it again, over a faster connection or in parts.",
                StatusCodes.Status408RequestTimeout
            );
        }
    }

    private static BadHttpRequestException TooLarge(int most) =>
        new(
            $"This is larger than the {most / 1024:N0} kB that can be taken at once: leave something out.",
            StatusCodes.Status413PayloadTooLarge
        );
}
