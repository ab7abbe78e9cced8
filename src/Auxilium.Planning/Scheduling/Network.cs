using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>One way on from a node: the node it binds, which dates of both it is about, and the lag in minutes.</summary>
internal readonly struct Edge(int packed, int lag)
{
    private const int FromStartBit = 1;
    private const int ElapsedBit = 2;
    private const int ToFinishBit = 4;
    private const int EndShift = 2;
    private const int Bits = 3;

    public int Target => packed >> Bits;

    /// <summary>Where the date that it binds stands in a list of starts and finishes in turn.</summary>
    public int End => packed >> EndShift;

    public bool FromStart => (packed & FromStartBit) != 0;

    public bool ToFinish => (packed & ToFinishBit) != 0;

    public bool Elapsed => (packed & ElapsedBit) != 0;

    public int Lag => lag;

    public static Edge To(int target) => new(target << Bits, 0);

    /// <param name="link">The link.</param>
    /// <param name="target">The node it leads to.</param>
    /// <param name="lag">Its lag in minutes.</param>
    public static Edge Of(PlanLink link, int target, int lag) =>
        new(
            (target << Bits) | (link.FromStart ? FromStartBit : 0) | (link.ToFinish ? ToFinishBit : 0) | (link.Elapsed ? ElapsedBit : 0),
            lag
        );
}

/// <summary>
/// The links of a plan as a graph in arrays. A leaf is the node of its row. Where phases are linked, a phase has two nodes: its
/// row is the gate that what comes before it opens for all its rows (K3), and row + count is the end where their dates meet.
/// Inactive rows have no edges (K4).
/// </summary>
internal sealed class Network
{
    private readonly TaskInputs _facts;
    private readonly int _rows;
    private readonly int[] _firstEdge;
    private readonly Edge[] _edges;
    private int[]? _positions;

    private Network(TaskInputs facts, int rows, int nodes, int edges)
    {
        _facts = facts;
        _rows = rows;
        _firstEdge = new int[nodes + 1];
        _edges = new Edge[edges];
        Order = new int[nodes];
    }

    private Network(TaskInputs facts, Network known)
    {
        (_facts, _rows, _firstEdge, _edges, Order) = (facts, known._rows, known._firstEdge, known._edges, known.Order);
        _positions = known._positions;
        (BindsFinishes, GoesByPhaseStarts) = (known.BindsFinishes, known.GoesByPhaseStarts);
    }

    /// <summary>Every node after all that come before it.</summary>
    public int[] Order { get; }

    /// <summary>By node: where in the order it stands. Not to be changed.</summary>
    public int[] Positions => _positions ??= FindPositions();

    /// <summary>Whether phases are linked, and so have nodes.</summary>
    public bool HasPhases => Order.Length > _rows;

    /// <summary>Whether any link binds a finish.</summary>
    public bool BindsFinishes { get; private set; }

    /// <summary>Whether any link goes by the start of a phase.</summary>
    public bool GoesByPhaseStarts { get; private set; }

    public ReadOnlySpan<Edge> EdgesOf(int node) => _edges.AsSpan(_firstEdge[node].._firstEdge[node + 1]);

    /// <summary>Whether a node is the end of a phase.</summary>
    public bool IsEnd(int node) => node >= _rows;

    /// <summary>The row of a phase's end node.</summary>
    public int RowOfEnd(int node) => node - _rows;

    /// <summary>The same network for rows whose facts changed, if the same rows are active.</summary>
    public Network With(TaskInputs facts) => ReferenceEquals(facts, _facts) ? this : new Network(facts, this);

    /// <exception cref="UnsoundPlanException">The links go round in a circle; it is named in order.</exception>
    public static Network Of(Plan plan, TaskInputs facts)
    {
        var rows = plan.Index.Count;
        var from = plan.LinkEnds.From;
        var edges = plan.LinkEnds.Edges;
        var someOff = (facts.Any & TaskTraits.Off) != 0;
        var gated = false;
        var links = from.Length;
        for (var i = 0; i < from.Length; i++)
        {
            if (someOff && (facts.IsOff(from[i]) || facts.IsOff(edges[i].Target)))
                links--;
            else
                gated |= facts.IsPhase(from[i]) || facts.IsPhase(edges[i].Target);
        }
        var network = new Network(facts, rows, gated ? 2 * rows : rows, links + (gated ? CountInside(plan.Index, facts) : 0));
        using var scratch = new Scratch<int>(network.Order.Length);
        var waits = scratch.Array;
        network.Fill(plan.Index, from, edges, someOff, waits);
        if (network.Sort(waits) < network.Order.Length)
            throw new UnsoundPlanException([LinkRules.Circle(plan, network.FindCircle(plan, waits))]);
        return network;
    }

    private static int CountInside(PlanIndex index, TaskInputs facts)
    {
        var edges = 0;
        for (var row = 0; row < index.Count; row++)
            if (index.ParentOf(row) >= 0 && !facts.IsOff(row))
                edges += 2;
        return edges;
    }

    private int[] FindPositions()
    {
        var positions = new int[Order.Length];
        for (var i = 0; i < positions.Length; i++)
            positions[Order[i]] = i;
        return positions;
    }

    private int EndNode(int row) => HasPhases && _facts.IsPhase(row) ? row + _rows : row;

    private void Fill(PlanIndex index, int[] from, Edge[] edges, bool someOff, int[] waits)
    {
        var gated = HasPhases;
        for (var i = 0; i < from.Length; i++)
            if (!someOff || !(_facts.IsOff(from[i]) || _facts.IsOff(edges[i].Target)))
                _firstEdge[EndNode(from[i])]++;
        for (var row = 0; gated && row < index.Count; row++)
        {
            if (index.ParentOf(row) < 0 || _facts.IsOff(row))
                continue;
            _firstEdge[index.ParentOf(row)]++;
            _firstEdge[EndNode(row)]++;
        }
        var sum = 0;
        for (var node = 0; node < _firstEdge.Length; node++)
            (_firstEdge[node], sum) = (sum, sum + _firstEdge[node]);
        var all = TaskTraits.None;
        for (var i = 0; i < from.Length; i++)
        {
            if (someOff && (_facts.IsOff(from[i]) || _facts.IsOff(edges[i].Target)))
                continue;
            var edge = edges[i];
            var bound = edge.ToFinish ? TaskTraits.FinishBound : TaskTraits.None;
            _facts.Traits[edge.Target] |= bound;
            all |= bound;
            GoesByPhaseStarts |= gated && edge.FromStart && _facts.IsPhase(from[i]);
            Add(EndNode(from[i]), edge, waits);
        }
        for (var row = 0; gated && row < index.Count; row++)
        {
            if (index.ParentOf(row) < 0 || _facts.IsOff(row))
                continue;
            Add(index.ParentOf(row), Edge.To(row), waits);
            Add(EndNode(row), Edge.To(index.ParentOf(row) + _rows), waits);
        }
        BindsFinishes = all != TaskTraits.None;
        Array.Copy(_firstEdge, 0, _firstEdge, 1, _firstEdge.Length - 1);
        _firstEdge[0] = 0;
    }

    /// <summary>Places an edge at its node's cursor; the cursors end up one node ahead and are shifted back afterwards.</summary>
    private void Add(int node, Edge edge, int[] waits)
    {
        _edges[_firstEdge[node]++] = edge;
        waits[edge.Target]++;
    }

    /// <summary>
    /// Puts the nodes in order; returns how many could be. What a node sets free follows right after it: tasks that are linked stand
    /// near each other, and so stay in the processor's cache.
    /// </summary>
    private int Sort(int[] waits)
    {
        const int Taken = -1;
        using var scratch = new Scratch<int>(Order.Length);
        var free = scratch.Array;
        var sorted = 0;
        for (var first = 0; first < Order.Length; first++)
        {
            if (waits[first] != 0)
                continue;
            waits[first] = Taken;
            free[0] = first;
            for (var top = 1; top > 0; )
            {
                var node = free[--top];
                Order[sorted++] = node;
                foreach (var edge in EdgesOf(node))
                {
                    if (--waits[edge.Target] > 0)
                        continue;
                    waits[edge.Target] = Taken;
                    free[top++] = edge.Target;
                }
            }
        }
        return sorted;
    }

    /// <summary>
    /// Walks among the nodes that could not be sorted until one comes up again; each of them has such a successor's successor.
    /// </summary>
    private List<string> FindCircle(Plan plan, int[] waits)
    {
        var before = new Dictionary<int, int>();
        for (var node = 0; node < Order.Length; node++)
            if (waits[node] > 0)
                foreach (var edge in EdgesOf(node))
                    if (waits[edge.Target] > 0)
                        before[edge.Target] = node;
        var seen = new Dictionary<int, int>();
        var path = new List<int>();
        for (var at = before.Keys.First(); seen.TryAdd(at, path.Count); at = before[at])
            path.Add(at);
        var start = seen[before[path[^1]]];
        var rows = path[start..].AsEnumerable().Reverse().Select(node => node % plan.Index.Count).ToList();
        return Linked(plan, rows);
    }

    /// <summary>
    /// Without the rows that a circle only passes on its way into or out of a linked phase; the first of the list leads.
    /// </summary>
    private static List<string> Linked(Plan plan, List<int> rows)
    {
        var ids = rows.Distinct().Select(row => plan.Tasks[row].Id).ToList();
        var inCircle = ids.ToHashSet();
        var ends = plan
            .Links.Where(l => inCircle.Contains(l.From) && inCircle.Contains(l.To))
            .SelectMany(l => new[] { l.From, l.To })
            .ToHashSet();
        var circle = ids.Where(ends.Contains).ToList();
        var first = circle.IndexOf(circle.MinBy(plan.Index.RowOf)!);
        return [.. circle[first..], .. circle[..first]];
    }
}
