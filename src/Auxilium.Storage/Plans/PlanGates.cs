namespace Auxilium.Storage.Plans;

/// <summary>
/// Lets one edit of a plan through at a time, before it takes a connection: however many wait for one plan, the connections are there for
/// the others. Between processes the row of the project does the same.
/// </summary>
public sealed class PlanGates
{
    /// <summary>How many edits may wait for one plan.</summary>
    public const int MostWaiting = 200;

    private readonly Turns<Guid> _turns = new(MostWaiting, TimeSpan.FromSeconds(20));

    /// <summary>Waits for one's turn; the plan is free again when what is returned is disposed of.</summary>
    /// <exception cref="PlanBusyException">It took too long, or too many wait already.</exception>
    public Task<IDisposable> EnterAsync(Guid plan, CancellationToken cancel) =>
        _turns.EnterAsync(plan, _ => new PlanBusyException(), cancel);
}

/// <summary>Too many edits of one plan at once. Nothing was done; the edit can be sent again.</summary>
public sealed class PlanBusyException() : Exception("Many people are changing this plan at once: your edit did not get its turn yet.");
