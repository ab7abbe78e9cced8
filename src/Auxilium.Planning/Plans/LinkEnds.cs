using System.Collections.Immutable;

namespace Auxilium.Planning.Plans;

/// <summary>The rows that the links of a plan lead from and to, in the order of the links.</summary>
internal sealed class LinkEnds
{
    public LinkEnds(PlanIndex index, ImmutableArray<PlanLink> links)
    {
        Outline = index.Outline;
        Links = links;
        From = new int[links.Length];
        To = new int[links.Length];
        for (var i = 0; i < links.Length; i++)
        {
            From[i] = index.RowOf(links[i].From);
            To[i] = index.RowOf(links[i].To);
        }
    }

    /// <summary>See <see cref="PlanIndex.Outline"/>.</summary>
    public object Outline { get; }

    public ImmutableArray<PlanLink> Links { get; }

    public int[] From { get; }

    public int[] To { get; }
}
