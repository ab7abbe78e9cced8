using System.Collections.Concurrent;

namespace Auxilium.Storage;

/// <summary>
/// Lets one edit of a plan through at a time, before it takes a connection: however many wait for one plan, the connections are there for
/// the others. Between processes the row of the project does the same.
/// </summary>
public sealed class PlanGates
{
    /// <summary>At most so many wait for one plan.</summary>
    public const int MostWaiting = 200;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    private readonly ConcurrentDictionary<Guid, Gate> _gates = new();

    /// <summary>Waits for one's turn; the plan is free again when what is returned is disposed of.</summary>
    /// <exception cref="PlanBusyException">It took too long, or too many wait already.</exception>
    public async Task<IDisposable> EnterAsync(Guid plan, CancellationToken cancel)
    {
        Gate gate;
        while (true)
        {
            gate = _gates.GetOrAdd(plan, _ => new Gate());
            lock (gate)
            {
                // One that nobody was at any more has been taken away meanwhile.
                if (gate.IsGone) continue;
                if (gate.Inside > MostWaiting) throw new PlanBusyException();
                gate.Inside++;
                break;
            }
        }
        try
        {
            if (!await gate.Turn.WaitAsync(Patience, cancel)) throw new PlanBusyException();
        }
        catch
        {
            Leave(plan, gate);
            throw;
        }
        return new Turn(() =>
        {
            gate.Turn.Release();
            Leave(plan, gate);
        });
    }

    private void Leave(Guid plan, Gate gate)
    {
        lock (gate)
        {
            if (--gate.Inside > 0) return;
            gate.IsGone = true;
            _gates.TryRemove(plan, out _);
        }
    }

    private sealed class Gate
    {
        public SemaphoreSlim Turn { get; } = new(1);

        /// <summary>How many wait or are through.</summary>
        public int Inside;

        public bool IsGone;
    }

    private sealed class Turn(Action leave) : IDisposable
    {
        private int _isOver;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _isOver, 1) == 0) leave();
        }
    }
}

/// <summary>So many change a plan that an edit did not get its turn. Nothing was done; it can be sent again.</summary>
public sealed class PlanBusyException() : Exception("Many people are changing this plan at once: your edit did not get its turn yet.");
