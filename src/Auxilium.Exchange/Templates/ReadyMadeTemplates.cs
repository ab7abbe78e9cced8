using System.Collections.Immutable;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.Templates;

/// <summary>A template that ships with the product.</summary>
/// <param name="Id">As its address says it.</param>
/// <param name="Kind">The kind of project that it is for.</param>
public sealed record ReadyMadeTemplate(string Id, string Kind)
{
    private readonly Lazy<Plan> _plan = new(() => PlanDocumentReader.Read(BytesOf(Id)));

    /// <summary>What it holds: tasks say their role, and nobody has them.</summary>
    public Plan Plan => _plan.Value;

    private static byte[] BytesOf(string id)
    {
        using var from = typeof(ReadyMadeTemplate).Assembly.GetManifestResourceStream($"template-{id}.json")
            ?? throw new InvalidOperationException($"There is no template “{id}”.");
        var bytes = new byte[from.Length];
        from.ReadExactly(bytes);
        return bytes;
    }
}

/// <summary>
/// Two for each kind of project that a small organisation has. A new one is a plan document beside this, and a line here.
/// </summary>
public static class ReadyMadeTemplates
{
    public static ImmutableArray<ReadyMadeTemplate> All { get; } =
    [
        new("hall-concert", "Events"),
        new("street-festival", "Events"),
        new("fundraising-appeal", "Campaigns"),
        new("volunteer-drive", "Campaigns"),
        new("kitchen-renovation", "Renovations"),
        new("hall-repaint", "Renovations"),
    ];
}
