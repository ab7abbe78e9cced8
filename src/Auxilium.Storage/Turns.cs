using System.Collections.Concurrent;

namespace Auxilium.Storage;

/// <summary>Lets one caller in at a time for each key; a key that nobody uses takes no memory.</summary>
/// <param name="mostWaiting">At most so many wait for one key.</param>
/// <param name="patience">How long somebody waits.</param>
public sealed class Turns<TKey>(int mostWaiting, TimeSpan patience)
    where TKey : notnull
{
    private readonly ConcurrentDictionary<TKey, Gate> _gates = new();

    /// <summary>Waits for a turn, which ends when what is returned is disposed of.</summary>
    /// <param name="key">Whose turn.</param>
    /// <param name="refused">What is thrown: told <c>true</c> where too many wait already, <c>false</c> where it took too long.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IDisposable> EnterAsync(TKey key, Func<bool, Exception> refused, CancellationToken cancel)
    {
        var gate = Come(key, refused);
        try
        {
            if (!await gate.Turn.WaitAsync(patience, cancel))
                throw refused(false);
        }
        catch
        {
            Leave(key, gate);
            throw;
        }
        return new Turn(() =>
        {
            gate.Turn.Release();
            Leave(key, gate);
        });
    }

    private Gate Come(TKey key, Func<bool, Exception> refused)
    {
        while (true)
        {
            var gate = _gates.GetOrAdd(key, _ => new Gate());
            lock (gate)
            {
                // It was removed meanwhile because nobody used it any more.
                if (gate.IsGone)
                    continue;
                if (gate.Inside > mostWaiting)
                    throw refused(true);
                gate.Inside++;
                return gate;
            }
        }
    }

    private void Leave(TKey key, Gate gate)
    {
        lock (gate)
        {
            if (--gate.Inside > 0)
                return;
            gate.IsGone = true;
            _gates.TryRemove(key, out _);
        }
    }

    private sealed class Gate
    {
        public SemaphoreSlim Turn { get; } = new(1);

        /// <summary>How many are waiting or inside.</summary>
        public int Inside;

        public bool IsGone;
    }

    private sealed class Turn(Action leave) : IDisposable
    {
        private int _isOver;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _isOver, 1) == 0)
                leave();
        }
    }
}
