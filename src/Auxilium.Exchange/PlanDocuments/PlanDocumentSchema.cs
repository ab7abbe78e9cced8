namespace Auxilium.Exchange.PlanDocuments;

/// <summary>The JSON Schema (2020-12) of <c>auxilium-plan/1</c>.</summary>
public static class PlanDocumentSchema
{
    /// <summary>UTF-8 JSON.</summary>
    public static byte[] Utf8 { get; } = Load();

    private static byte[] Load()
    {
        using var stream = typeof(PlanDocumentSchema).Assembly.GetManifestResourceStream("auxilium-plan-1.schema.json")!;
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }
}
