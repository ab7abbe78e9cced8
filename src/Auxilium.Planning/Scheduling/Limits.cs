using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>How late a start and a finish may be.</summary>
internal struct Limit(CountedTime start, CountedTime finish)
{
    public CountedTime Start { get; private set; } = start;

    public CountedTime Finish { get; private set; } = finish;

    public readonly bool BindsStart => Start.Time != WorkTime.Never;

    /// <summary>The earlier of the two: what a gate passes on, which binds starts only.</summary>
    public readonly Limit OfBoth => CountedTime.Min(Start, Finish) is var both ? new(both, both) : default;

    public void BoundStart(CountedTime limit)
    {
        if (limit.Time < Start.Time) Start = limit;
    }

    public void BoundFinish(CountedTime limit)
    {
        if (limit.Time < Finish.Time) Finish = limit;
    }

    /// <summary>Takes on a limit that a successor puts on the date that an edge goes by.</summary>
    public void Bound(Edge edge, CountedTime limit)
    {
        if (edge.FromStart) BoundStart(limit);
        else BoundFinish(limit);
    }

    public void NotAfter(DateConstraint notAfter)
    {
        if (notAfter.IsOfFinish) BoundFinish(new(notAfter.Date!.Value));
        else BoundStart(new(notAfter.Date!.Value));
    }

    /// <summary>The number of the last working minute that starts by a limit.</summary>
    public static int LatestStart(WorkTime calendar, CountedTime limit, WorkTime counted)
    {
        var worked = limit.WorkedBy(calendar, counted);
        return calendar.MinuteStart(worked) == limit.Time ? worked : worked - 1;
    }
}

/// <summary>The limits that nodes put on what comes before them, by node.</summary>
internal sealed class Limits : IDisposable
{
    private readonly Scratch<Limit> _scratch;
    private readonly Limit[] _limits;

    public Limits(Network network)
    {
        _scratch = new(network.Order.Length);
        _limits = _scratch.Array;
    }

    public void Dispose() => _scratch.Dispose();

    public CountedTime Start(int node) => _limits[node].Start;

    public CountedTime Finish(int node) => _limits[node].Finish;

    public CountedTime Of(Edge edge) => edge.ToFinish ? _limits[edge.Target].Finish : _limits[edge.Target].Start;

    public void Set(int node, in Limit limit) => _limits[node] = limit;

    public void Set(int node, CountedTime start, CountedTime finish) => _limits[node] = new(start, finish);
}
