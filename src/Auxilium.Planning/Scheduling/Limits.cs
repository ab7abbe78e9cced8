using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>How late a start and a finish may be.</summary>
internal struct Limit(CountedTime start, CountedTime finish)
{
    public CountedTime Start { get; private set; } = start;

    public CountedTime Finish { get; private set; } = finish;

    /// <summary>Whether it binds at the same times as another.</summary>
    public readonly bool IsAt(in Limit other) => Start.Time == other.Start.Time && Finish.Time == other.Finish.Time;

    public readonly bool BindsStart => Start.Time != WorkTime.Never;

    /// <summary>The earlier of the two: what a gate passes on, which binds starts only.</summary>
    public readonly Limit OfBoth => CountedTime.Min(Start, Finish) is var both ? new(both, both) : default;

    public void BoundStart(CountedTime limit) => Start = CountedTime.Min(Start, limit);

    public void BoundFinish(CountedTime limit) => Finish = CountedTime.Min(Finish, limit);

    /// <summary>Takes on a limit that a successor puts on the date that an edge goes by.</summary>
    public void Bound(Edge edge, CountedTime limit)
    {
        BoundStart(CountedTime.Either(edge.FromStart, limit, CountedTime.Never));
        BoundFinish(CountedTime.Either(edge.FromStart, CountedTime.Never, limit));
    }

    public void NotAfter(DateConstraint notAfter)
    {
        if (notAfter.IsOfFinish)
            BoundFinish(new(notAfter.Date!.Value));
        else
            BoundStart(new(notAfter.Date!.Value));
    }

    /// <summary>The number of the last working minute that starts by a limit.</summary>
    public static int LatestStart(WorkTime calendar, CountedTime limit, WorkTime counted)
    {
        var worked = limit.WorkedBy(calendar, counted);
        return calendar.MinuteStart(worked) == limit.Time ? worked : worked - 1;
    }
}

/// <summary>The limits that nodes put on what comes before them, by node: of the start and of the finish in turn.</summary>
internal sealed class Limits
{
    private readonly CountedTime[] _limits;

    public Limits(int nodes) => _limits = GC.AllocateUninitializedArray<CountedTime>(2 * nodes);

    private Limits(CountedTime[] limits) => _limits = [.. limits];

    public Limit this[int node] => new(Start(node), Finish(node));

    public Limits Copy() => new(_limits);

    public CountedTime Start(int node) => _limits[2 * node];

    public CountedTime Finish(int node) => _limits[2 * node + 1];

    public CountedTime Of(Edge edge) => _limits[edge.End];

    public void Set(int node, in Limit limit) => Set(node, limit.Start, limit.Finish);

    public void Set(int node, CountedTime start, CountedTime finish) => (_limits[2 * node], _limits[2 * node + 1]) = (start, finish);

    public void SetFinish(int node, CountedTime finish) => _limits[2 * node + 1] = finish;
}

/// <summary>Both kinds of limits of a plan, kept for the next plan that comes of it.</summary>
/// <param name="Late">How late what a node binds may be with the finish kept …</param>
/// <param name="Still">… and with no early date of another task moving.</param>
internal sealed record BothLimits(Limits Late, Limits Still)
{
    public static BothLimits Of(Network network) => new(new Limits(network.Order.Length), new Limits(network.Order.Length));

    public BothLimits Copy() => new(Late.Copy(), Still.Copy());
}
