namespace Auxilium.Planning.Plans;

/// <summary>Which date of a task waits for which date of the one before it (rule K1).</summary>
public enum LinkKind
{
    FinishToStart,
    StartToStart,
    FinishToFinish,
    StartToFinish,
}

/// <summary>A link between two tasks (rule K1).</summary>
/// <param name="Lag">Time between the two dates; negative is a lead.</param>
/// <param name="Kind">Which dates it is about.</param>
/// <param name="Elapsed">Whether the lag counts every minute of the clock instead of working time of the project calendar.</param>
public sealed record PlanLink(string From, string To, Length Lag = default, LinkKind Kind = LinkKind.FinishToStart, bool Elapsed = false)
{
    public Length Lag { get; init; } = Lag == default ? Length.Zero : Lag;

    /// <summary>Whether it goes by the start of the task before.</summary>
    public bool FromStart => Kind is LinkKind.StartToStart or LinkKind.StartToFinish;

    /// <summary>Whether it binds the finish of the task after.</summary>
    public bool ToFinish => Kind is LinkKind.FinishToFinish or LinkKind.StartToFinish;

    /// <summary>
    /// Its lag in minutes: of the clock when elapsed, else of the project calendar. A day is the same either way (rule T4).
    /// </summary>
    public int LagMinutes(WorkUnits units) => Lag.IsZero ? 0 : units.Minutes(Lag).Count;
}
