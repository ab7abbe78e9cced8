using System.Collections.Immutable;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Plans;

/// <summary>The links of a plan by rows: where each leads from and to, its lag, and which lead to a row. In the order of the links.</summary>
internal sealed class LinkEnds
{
    private int[]? _firstTo;
    private int[]? _to;

    public LinkEnds(PlanIndex index, ImmutableArray<PlanLink> links, WorkUnits units)
    {
        Outline = index.Outline;
        Links = links;
        Units = units;
        Rows = index.Count;
        From = new int[links.Length];
        Edges = new Edge[links.Length];
        for (var i = 0; i < links.Length; i++)
        {
            From[i] = index.RowOf(links[i].From);
            Edges[i] = Edge.Of(links[i], index.RowOf(links[i].To), links[i].LagMinutes(units));
        }
    }

    /// <summary>See <see cref="PlanIndex.Outline"/>.</summary>
    public object Outline { get; }

    public ImmutableArray<PlanLink> Links { get; }

    public WorkUnits Units { get; }

    public int[] From { get; }

    /// <summary>The row each leads to, with its kind and its lag in minutes.</summary>
    public Edge[] Edges { get; }

    private int Rows { get; }

    /// <summary>Positions of the links that lead to a row itself.</summary>
    public ReadOnlySpan<int> LeadingTo(int row)
    {
        if (_to is null) Gather();
        return _to.AsSpan(_firstTo![row].._firstTo[row + 1]);
    }

    private void Gather()
    {
        var first = new int[Rows + 1];
        foreach (var edge in Edges) first[edge.Target + 1]++;
        for (var row = 0; row < Rows; row++) first[row + 1] += first[row];
        var next = first.AsSpan().ToArray();
        var to = new int[Edges.Length];
        for (var link = 0; link < Edges.Length; link++) to[next[Edges[link].Target]++] = link;
        _firstTo = first;
        _to = to;
    }
}
