namespace Auxilium.Drawing.Sheets;

/// <summary>
/// Puts linked rows in layers from left to right, each right of all that it waits for and close to their height, as the screen does. A
/// link past several layers keeps a place free in each of them.
/// </summary>
internal sealed class ChainsLayout
{
    private const float GapX = 64;
    private const float GapY = 18;
    private const float Margin = 12;
    private const int Sweeps = 6;
    private const float Pass = 10;

    private readonly Dictionary<Node, (float X, float Y)> _places = [];
    private readonly Dictionary<(int From, int To), List<Node>> _ways = [];

    /// <param name="rows">Rows, in the plan's order.</param>
    /// <param name="links">By row, of which both ends are among them.</param>
    public ChainsLayout(IReadOnlyList<int> rows, IReadOnlyList<(int From, int To)> links)
    {
        var (before, after) = Neighbours(links.Select(link => (new Node(link.From), new Node(link.To))));
        var linked = rows.Where(row => before.ContainsKey(new(row)) || after.ContainsKey(new(row))).Select(row => new Node(row)).ToList();
        var depth = DepthsOf(linked, before, after);
        var layers = Enumerable.Range(0, linked.Count == 0 ? 0 : depth.Values.Max() + 1).Select(_ => new List<Node>()).ToList();
        foreach (var node in linked)
            layers[depth[node]].Add(node);
        var steps = new List<(Node From, Node To)>();
        foreach (var (from, to) in links.Distinct())
        {
            var way = _ways[(from, to)] = [];
            for (var at = depth[new(from)] + 1; at < depth[new(to)]; at++)
            {
                way.Add(new Node(from, to, at));
                layers[at].Add(way[^1]);
            }
            List<Node> all = [new(from), .. way, new(to)];
            for (var i = 1; i < all.Count; i++)
                steps.Add((all[i - 1], all[i]));
        }
        var beside = Neighbours(steps);
        for (var sweep = 0; sweep < Sweeps; sweep++)
            Untangle(layers, sweep % 2 == 0 ? beside.Before : beside.After, sweep % 2 == 0);
        for (var at = 0; at < layers.Count; at++)
            Stack(layers[at], at, beside.Before);
        var bottom = _places.Count == 0 ? 0 : _places.Max(place => place.Value.Y + Boxes.Height);
        var columns = Math.Max(4, layers.Count);
        Alone = [.. rows.Where(row => !before.ContainsKey(new(row)) && !after.ContainsKey(new(row)))];
        for (var i = 0; i < Alone.Count; i++)
            _places[new(Alone[i])] = (XOf(i % columns), bottom + 44 + i / columns * (Boxes.Height + GapY));
        AloneTop = bottom + 30;
        Width = _places.Count == 0 ? 0 : _places.Max(place => place.Value.X + Boxes.Width) + Margin;
        Height = _places.Count == 0 ? 0 : _places.Max(place => place.Value.Y + Boxes.Height) + Margin;
    }

    public float Width { get; }

    public float Height { get; }

    /// <summary>Rows without links, below all others.</summary>
    public IReadOnlyList<int> Alone { get; }

    public float AloneTop { get; }

    public (float X, float Y) Of(int row) => _places[new(row)];

    /// <summary>Where a link goes past layers, at their left.</summary>
    public IEnumerable<(float X, float Y)> PointsOf(int from, int to) =>
        _ways[(from, to)].Select(node => (_places[node].X, _places[node].Y + Pass / 2));

    private static float XOf(int layer) => Margin + layer * (Boxes.Width + GapX);

    private static (Dictionary<Node, List<Node>> Before, Dictionary<Node, List<Node>> After) Neighbours(
        IEnumerable<(Node From, Node To)> links
    )
    {
        var (before, after) = (new Dictionary<Node, List<Node>>(), new Dictionary<Node, List<Node>>());
        foreach (var (from, to) in links)
        {
            (after.TryGetValue(from, out var next) ? next : after[from] = []).Add(to);
            (before.TryGetValue(to, out var last) ? last : before[to] = []).Add(from);
        }
        return (before, after);
    }

    /// <summary>By the longest way from a start.</summary>
    private static Dictionary<Node, int> DepthsOf(
        List<Node> nodes,
        Dictionary<Node, List<Node>> before,
        Dictionary<Node, List<Node>> after
    )
    {
        var waits = nodes.ToDictionary(node => node, node => before.GetValueOrDefault(node)?.Count ?? 0);
        var depth = nodes.ToDictionary(node => node, _ => 0);
        var ready = nodes.Where(node => waits[node] == 0).ToList();
        for (var at = 0; at < ready.Count; at++)
            foreach (var next in after.GetValueOrDefault(ready[at]) ?? [])
            {
                depth[next] = Math.Max(depth[next], depth[ready[at]] + 1);
                if (--waits[next] == 0)
                    ready.Add(next);
            }
        return depth;
    }

    /// <summary>Orders each layer by where its neighbours in the layers beside it stand.</summary>
    private static void Untangle(List<List<Node>> layers, Dictionary<Node, List<Node>> beside, bool forward)
    {
        var place = new Dictionary<Node, float>();
        foreach (var layer in layers)
            Number(layer);
        for (var i = 0; i < layers.Count; i++)
        {
            var at = forward ? i : layers.Count - 1 - i;
            layers[at] =
            [
                .. layers[at]
                    .OrderBy(node => beside.TryGetValue(node, out var others) ? others.Average(other => place[other]) : place[node]),
            ];
            Number(layers[at]);
        }

        void Number(List<Node> layer)
        {
            for (var i = 0; i < layer.Count; i++)
                place[layer[i]] = i / (float)layer.Count;
        }
    }

    /// <summary>From top to bottom, each as near as it can be to what it waits for.</summary>
    private void Stack(List<Node> layer, int at, Dictionary<Node, List<Node>> before)
    {
        var free = Margin;
        foreach (var node in layer)
        {
            var y = free;
            if (before.TryGetValue(node, out var others))
                y = Math.Max(free, others.Average(other => _places[other].Y + other.Height / 2) - node.Height / 2);
            _places[node] = (XOf(at), y);
            free = y + node.Height + (node.IsPass ? GapY / 2 : GapY);
        }
    }

    /// <summary>A row, or where a link goes past a layer.</summary>
    private readonly record struct Node(int Row, int To = -1, int Layer = -1)
    {
        public bool IsPass => Layer >= 0;

        public float Height => IsPass ? Pass : Boxes.Height;
    }
}
