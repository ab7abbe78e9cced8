using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads <c>$.links</c>.</summary>
internal static class LinkReader
{
    public static ImmutableArray<PlanLink> Read(JsonObjectReader root, HashSet<string> tasks, WorkUnits units)
    {
        var links = ImmutableArray.CreateBuilder<PlanLink>();
        foreach (var at in root.Objects("links", LinkRules.MostLinks))
        {
            var word = at.Text("kind", JsonObjectReader.LongestWord);
            var kind = Array.IndexOf(PlanDocumentNames.LinkKinds, word ?? "FS");
            if (kind < 0)
                at.Error(
                    "kind",
                    "value",
                    $"“{word}” is not a kind of link: give one of {string.Join(", ", PlanDocumentNames.LinkKinds)}."
                );
            var link = new PlanLink(
                End(at, "from", tasks),
                End(at, "to", tasks),
                at.Length("lag", units, signed: true) ?? Length.Zero,
                (LinkKind)Math.Max(0, kind),
                at.Flag("elapsed")
            );
            links.Add(link);
            at.Done();
        }
        return links.ToImmutable();
    }

    private static string End(JsonObjectReader at, string field, HashSet<string> tasks)
    {
        var id = at.RequiredText(field, 64);
        if (id.Length > 0 && !tasks.Contains(id))
            at.Error(field, "unknownId", $"There is no task with the id “{id}”.");
        return id;
    }
}
