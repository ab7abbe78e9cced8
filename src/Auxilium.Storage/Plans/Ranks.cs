namespace Auxilium.Storage.Plans;

/// <summary>Numbers that order rows, with gaps, so that a row that is put between two others seldom changes any but its own.</summary>
internal static class Ranks
{
    private const long Gap = 1 << 20;

    /// <param name="order">All keys in their order.</param>
    /// <param name="known">The ranks so far.</param>
    /// <param name="moved">Keys whose rank no longer holds; others keep theirs unless there is no room.</param>
    public static Dictionary<TKey, long> Assign<TKey>(
        IReadOnlyList<TKey> order,
        IReadOnlyDictionary<TKey, long> known,
        IReadOnlySet<TKey> moved
    )
        where TKey : notnull
    {
        var ranks = new Dictionary<TKey, long>(order.Count);
        long last = 0;
        for (var i = 0; i < order.Count; )
        {
            if (Keeps(order[i], out var rank))
            {
                if (rank <= last)
                    return Afresh(order);
                ranks[order[i++]] = last = rank;
                continue;
            }
            var run = i;
            long next = 0;
            while (run < order.Count && !Keeps(order[run], out next))
                run++;
            var step = run == order.Count ? Gap : (next - last) / (run - i + 1);
            if (step <= 0)
                return Afresh(order);
            for (; i < run; i++)
                ranks[order[i]] = last += step;
        }
        return ranks;

        bool Keeps(TKey key, out long rank)
        {
            rank = 0;
            return !moved.Contains(key) && known.TryGetValue(key, out rank);
        }
    }

    private static Dictionary<TKey, long> Afresh<TKey>(IReadOnlyList<TKey> order)
        where TKey : notnull => order.Select((key, i) => (key, Rank: (i + 1) * Gap)).ToDictionary(r => r.key, r => r.Rank);
}
