using Auxilium.Storage;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>
/// Turns for work that keeps a processor busy. One person has one at a time, and together they leave one processor free, so that nobody
/// holds up the others, whatever they ask for. A turn is taken once the whole request has arrived, so that a slow sender holds none.
/// </summary>
internal sealed class Budgets : IDisposable
{
    /// <summary>How many requests of one person may wait.</summary>
    internal const int MostWaiting = 4;

    private const string Busy = "The server has much to work out just now: try again in a moment.";

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    private readonly Turns<(string Person, bool IsLarge)> _own = new(MostWaiting, Patience);
    private readonly SemaphoreSlim _all = new(Math.Max(1, Environment.ProcessorCount - 1));

    /// <summary>Waits for a turn, which ends when what is returned is disposed of.</summary>
    /// <param name="context">Of whoever asks.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="isLarge">Whether it takes noticeable time; what does not waits only for the same
    /// person's.</param>
    /// <exception cref="TooMuchAtOnceException">They ask for too much at once, or it took too long.</exception>
    public async Task<IDisposable> EnterAsync(HttpContext context, CancellationToken cancel, bool isLarge = true)
    {
        var key = (context.User.PersonId() ?? $"{context.Connection.RemoteIpAddress}", isLarge);
        var own = await _own.EnterAsync(
            key,
            tooMany => new TooMuchAtOnceException(
                tooMany ? "You have several calculations under way: wait until one of them is done." : Busy
            ),
            cancel
        );
        if (!isLarge)
            return own;
        try
        {
            if (!await _all.WaitAsync(Patience, cancel))
                throw new TooMuchAtOnceException(Busy);
        }
        catch
        {
            own.Dispose();
            throw;
        }
        return new Both(own, _all);
    }

    public void Dispose() => _all.Dispose();

    /// <summary>A person's turn and one of all.</summary>
    private sealed class Both(IDisposable own, SemaphoreSlim all) : IDisposable
    {
        private int _isOver;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _isOver, 1) == 1)
                return;
            all.Release();
            own.Dispose();
        }
    }
}

/// <summary>One person asks for too much at once.</summary>
internal sealed class TooMuchAtOnceException(string message) : Exception(message);
