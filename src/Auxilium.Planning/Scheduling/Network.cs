using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// The links of a plan as a graph in arrays. A leaf is the node of its row. Where phases are linked, a phase has two nodes: its
/// row is the gate that what comes before it opens for all its rows (K3), and row + count is where their finishes meet.
/// </summary>
internal sealed class Network
{
    private readonly int[] _firstEdge;
    private readonly int[] _target;
    private readonly int[] _lag;

    private Network(int nodes, int edges)
    {
        _firstEdge = new int[nodes + 1];
        _target = new int[edges];
        _lag = new int[edges];
        Order = new int[nodes];
    }

    /// <summary>Every node after all that come before it.</summary>
    public int[] Order { get; }

    public ReadOnlySpan<int> TargetsOf(int node) => _target.AsSpan(_firstEdge[node].._firstEdge[node + 1]);

    /// <summary>Lag in minutes of each edge of a node, beside <see cref="TargetsOf"/>; 0 inside phases.</summary>
    public ReadOnlySpan<int> LagsOf(int node) => _lag.AsSpan(_firstEdge[node].._firstEdge[node + 1]);

    /// <exception cref="UnsoundPlanException">The links go round in a circle; it is named in order.</exception>
    public static Network Of(Plan plan)
    {
        var index = plan.Index;
        var rows = index.Count;
        var links = plan.Links.Length;
        var from = plan.LinkEnds.From;
        var to = plan.LinkEnds.To;
        var gated = false;
        for (var i = 0; i < links; i++) gated |= index.IsPhase(from[i]) || index.IsPhase(to[i]);
        var inside = gated ? CountInside(index) : 0;
        var network = new Network(gated ? 2 * rows : rows, links + inside);
        var waits = new int[network.Order.Length];
        network.Fill(plan, from, to, gated, waits);
        if (network.Sort(waits) < network.Order.Length) throw new UnsoundPlanException([LinkRules.Circle(plan, network.FindCircle(plan, waits))]);
        return network;
    }

    private static int CountInside(PlanIndex index)
    {
        var edges = 0;
        for (var row = 0; row < index.Count; row++)
            if (index.ParentOf(row) >= 0)
                edges += 2;
        return edges;
    }

    private static int FinishNode(PlanIndex index, int row) => index.IsPhase(row) ? row + index.Count : row;

    private void Fill(Plan plan, int[] from, int[] to, bool gated, int[] waits)
    {
        var index = plan.Index;
        var units = plan.Project.Units;
        for (var i = 0; i < from.Length; i++) _firstEdge[FinishNode(index, from[i])]++;
        for (var row = 0; gated && row < index.Count; row++)
        {
            if (index.ParentOf(row) < 0) continue;
            _firstEdge[index.ParentOf(row)]++;
            _firstEdge[FinishNode(index, row)]++;
        }
        var sum = 0;
        for (var node = 0; node < _firstEdge.Length; node++) (_firstEdge[node], sum) = (sum, sum + _firstEdge[node]);
        for (var i = 0; i < from.Length; i++)
        {
            var lag = plan.Links[i].Lag;
            Add(FinishNode(index, from[i]), to[i], lag.IsZero ? 0 : units.Minutes(lag).Count, waits);
        }
        for (var row = 0; gated && row < index.Count; row++)
        {
            if (index.ParentOf(row) < 0) continue;
            Add(index.ParentOf(row), row, 0, waits);
            Add(FinishNode(index, row), index.ParentOf(row) + index.Count, 0, waits);
        }
        Array.Copy(_firstEdge, 0, _firstEdge, 1, _firstEdge.Length - 1);
        _firstEdge[0] = 0;
    }

    /// <summary>Places an edge at its node's cursor; the cursors end up one node ahead and are shifted back afterwards.</summary>
    private void Add(int node, int target, int lag, int[] waits)
    {
        var edge = _firstEdge[node]++;
        _target[edge] = target;
        _lag[edge] = lag;
        waits[target]++;
    }

    /// <summary>
    /// Puts the nodes in order; returns how many could be. What a node sets free follows right after it: tasks that are linked stand
    /// near each other, and so stay in the processor's cache.
    /// </summary>
    private int Sort(int[] waits)
    {
        const int Taken = -1;
        var free = new int[waits.Length];
        var sorted = 0;
        for (var node = 0; node < waits.Length; node++)
        {
            var top = 0;
            if (waits[node] == 0) Take(node);
            while (top > 0)
            {
                Order[sorted] = free[--top];
                foreach (var target in TargetsOf(Order[sorted++]))
                    if (--waits[target] == 0)
                        Take(target);
            }

            void Take(int found)
            {
                waits[found] = Taken;
                free[top++] = found;
            }
        }
        return sorted;
    }

    /// <summary>Walks among the nodes that could not be sorted until one comes up again; each of them has such a successor's successor.</summary>
    private List<string> FindCircle(Plan plan, int[] waits)
    {
        var before = new Dictionary<int, int>();
        for (var node = 0; node < waits.Length; node++)
            if (waits[node] > 0)
                foreach (var target in TargetsOf(node))
                    if (waits[target] > 0)
                        before[target] = node;
        var seen = new Dictionary<int, int>();
        var path = new List<int>();
        for (var at = before.Keys.First(); seen.TryAdd(at, path.Count); at = before[at]) path.Add(at);
        var start = seen[before[path[^1]]];
        var rows = path[start..].AsEnumerable().Reverse().Select(node => node % plan.Index.Count).ToList();
        return Linked(plan, rows);
    }

    /// <summary>Without the rows that a circle only passes on its way into or out of a linked phase; the first of the list leads.</summary>
    private static List<string> Linked(Plan plan, List<int> rows)
    {
        var ids = rows.Distinct().Select(row => plan.Tasks[row].Id).ToList();
        var inCircle = ids.ToHashSet();
        var ends = plan.Links.Where(l => inCircle.Contains(l.From) && inCircle.Contains(l.To)).SelectMany(l => new[] { l.From, l.To }).ToHashSet();
        var circle = ids.Where(ends.Contains).ToList();
        var first = circle.IndexOf(circle.MinBy(plan.Index.RowOf)!);
        return [.. circle[first..], .. circle[..first]];
    }
}
