namespace Auxilium.Web.Api;

/// <summary>A form with a file in it (<c>multipart/form-data</c>).</summary>
/// <param name="FileName">What the file is called.</param>
/// <param name="File">What is in it.</param>
/// <param name="Fields">The other fields, by name.</param>
internal sealed record Multipart(string FileName, ReadOnlyMemory<byte> File, IReadOnlyDictionary<string, string> Fields)
{
    /// <summary>What the fields beside the file may take.</summary>
    private const int MostOfFields = 256 * 1024;

    /// <summary>Lets a route take forms with a file of so many bytes.</summary>
    public static TBuilder TakeFile<TBuilder>(TBuilder route, int most)
        where TBuilder : IEndpointConventionBuilder =>
        route
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(most + MostOfFields))
            .WithFormOptions(multipartBodyLengthLimit: most + MostOfFields, valueLengthLimit: MostOfFields, valueCountLimit: 40);

    /// <summary>Reads a form whose file is called <c>file</c>; <c>null</c> where there is none.</summary>
    /// <exception cref="BadHttpRequestException">It is larger, or no such form.</exception>
    public static async Task<Multipart?> ReadAsync(HttpRequest request, CancellationToken cancel)
    {
        if (!request.HasFormContentType)
            throw new BadHttpRequestException(
                "Send a form with a file: the content type must be multipart/form-data.",
                StatusCodes.Status415UnsupportedMediaType
            );
        try
        {
            var form = await request.ReadFormAsync(cancel);
            if (form.Files.GetFile("file") is not { } file)
                return null;
            var content = new byte[file.Length];
            await using (var from = file.OpenReadStream())
                await from.ReadExactlyAsync(content, cancel);
            var name = Exchange.FileKinds.CleanName(file.FileName);
            return new Multipart(name.Length > 0 ? name : "This file", content, form.ToDictionary(f => f.Key, f => f.Value.ToString()));
        }
        catch (Exception broken) when (broken is InvalidDataException or IOException and not BadHttpRequestException)
        {
            throw new BadHttpRequestException("This form is cut off, broken or too large: send it again, or a smaller one.");
        }
    }

    /// <summary>A field as a number; <c>null</c> where it is left out or is none.</summary>
    public int? Number(string field) =>
        Fields.TryGetValue(field, out var text) && int.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out var number)
            ? number
            : null;
}
