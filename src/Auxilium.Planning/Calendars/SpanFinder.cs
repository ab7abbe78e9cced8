namespace Auxilium.Planning.Calendars;

/// <summary>
/// Finds the last entry of an ascending list that is at most a value, in constant time for entries spread as evenly as holidays are:
/// a table of buckets says where to begin, and a step or two lead on from there.
/// </summary>
internal sealed class SpanFinder
{
    private const int BucketsPerEntry = 4;

    private readonly int[] _ascending;
    private readonly int[] _bucket;
    private readonly int _first;
    private readonly int _shift;

    /// <param name="ascending">Not empty. Its first entry is at most every value that is asked for.</param>
    public SpanFinder(int[] ascending)
    {
        _ascending = ascending;
        // The first entry lies far before the others and would stretch the table.
        _first = ascending.Length > 1 ? ascending[1] : 0;
        var range = ascending.Length > 1 ? (long)ascending[^1] - _first : 0;
        while (range >> _shift > (long)ascending.Length * BucketsPerEntry)
            _shift++;
        _bucket = new int[(range >> _shift) + 1];
        var at = 0;
        for (var bucket = 0; bucket < _bucket.Length; bucket++)
        {
            var start = _first + ((long)bucket << _shift);
            while (at + 1 < ascending.Length && ascending[at + 1] <= start)
                at++;
            _bucket[bucket] = at;
        }
    }

    public int LastAtMost(int value)
    {
        if (_ascending.Length == 1 || value < _first)
            return 0;
        var bucket = (value - _first) >> _shift;
        var at = _bucket[Math.Min(bucket, _bucket.Length - 1)];
        while (at + 1 < _ascending.Length && _ascending[at + 1] <= value)
            at++;
        return at;
    }
}
