using System.Collections.Concurrent;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>
/// Turns for what keeps a processor busy. One person has one at a time, and all together leave a processor free: so nobody holds the
/// others up, whatever they ask for. Taken once the request is there as a whole, so that a slow sender holds none.
/// </summary>
internal sealed class Budgets : IDisposable
{
    /// <summary>So many of one person's wait for their turn.</summary>
    internal const int MostWaiting = 4;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    private readonly ConcurrentDictionary<(string Person, bool IsLarge), Own> _own = new();
    private readonly SemaphoreSlim _all = new(Math.Max(1, Environment.ProcessorCount - 1));

    /// <summary>Waits for a turn, which ends when what is returned is disposed of.</summary>
    /// <param name="context">Of whoever asks.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="isLarge">Whether it keeps a processor busy for longer than a blink; what does not waits only for the same person's.</param>
    /// <exception cref="TooMuchAtOnceException">They ask for too much at once, or it took too long.</exception>
    public async Task<IDisposable> EnterAsync(HttpContext context, CancellationToken cancel, bool isLarge = true)
    {
        var key = (context.User.PersonId() ?? $"{context.Connection.RemoteIpAddress}", isLarge);
        Own own;
        while (true)
        {
            own = _own.GetOrAdd(key, _ => new Own());
            lock (own)
            {
                // One that nobody was at any more has been taken away meanwhile.
                if (own.IsGone) continue;
                if (own.Inside > MostWaiting) throw new TooMuchAtOnceException("You have several calculations under way: wait until one of them is done.");
                own.Inside++;
                break;
            }
        }
        try
        {
            if (!await own.Turn.WaitAsync(Patience, cancel)) throw new TooMuchAtOnceException("The server has much to work out just now: try again in a moment.");
            try
            {
                if (isLarge && !await _all.WaitAsync(Patience, cancel)) throw new TooMuchAtOnceException("The server has much to work out just now: try again in a moment.");
            }
            catch
            {
                own.Turn.Release();
                throw;
            }
        }
        catch
        {
            Leave(key, own);
            throw;
        }
        return new Turn(() =>
        {
            if (isLarge) _all.Release();
            own.Turn.Release();
            Leave(key, own);
        });
    }

    public void Dispose() => _all.Dispose();

    private void Leave((string, bool) key, Own own)
    {
        lock (own)
        {
            if (--own.Inside > 0) return;
            own.IsGone = true;
            _own.TryRemove(key, out _);
        }
    }

    private sealed class Own
    {
        public SemaphoreSlim Turn { get; } = new(1);

        /// <summary>How many wait or have their turn.</summary>
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

/// <summary>Somebody asks for more at once than is given to one.</summary>
internal sealed class TooMuchAtOnceException(string message) : Exception(message);
