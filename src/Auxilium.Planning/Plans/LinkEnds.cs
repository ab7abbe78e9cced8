using System.Collections.Immutable;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Plans;

/// <summary>
/// The links of a plan by rows: where each leads from and to, its lag, and which lead to or from a row. In the order of the links.
/// </summary>
internal sealed class LinkEnds
{
    private Grouped? _to;
    private Grouped? _from;

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
    public ReadOnlyMemory<int> LeadingTo(int row) => (_to ??= new Grouped(Rows, Edges.Length, link => Edges[link].Target)).Of(row);

    /// <summary>Positions of the links that lead from a row itself.</summary>
    public ReadOnlyMemory<int> LeadingFrom(int row) => (_from ??= new Grouped(Rows, From.Length, link => From[link])).Of(row);

    /// <summary>Positions of links side by side for each row.</summary>
    private sealed class Grouped
    {
        private readonly int[] _first;
        private readonly int[] _links;

        public Grouped(int rows, int links, Func<int, int> rowOf)
        {
            _first = new int[rows + 1];
            for (var link = 0; link < links; link++)
                _first[rowOf(link) + 1]++;
            for (var row = 0; row < rows; row++)
                _first[row + 1] += _first[row];
            var next = _first.AsSpan().ToArray();
            _links = new int[links];
            for (var link = 0; link < links; link++)
                _links[next[rowOf(link)]++] = link;
        }

        public ReadOnlyMemory<int> Of(int row) => _links.AsMemory(_first[row].._first[row + 1]);
    }
}
