using System.Buffers;

namespace Auxilium.Planning.Scheduling;

/// <summary>A pooled array for one calculation: plans are calculated at every keystroke, and must leave no garbage.</summary>
internal readonly struct Scratch<T>(int length) : IDisposable
    where T : struct
{
    private readonly T[] _rented = Cleared(length);

    public T[] Array => _rented;

    public void Dispose() => ArrayPool<T>.Shared.Return(_rented);

    private static T[] Cleared(int length)
    {
        var rented = ArrayPool<T>.Shared.Rent(length);
        System.Array.Clear(rented, 0, length);
        return rented;
    }
}
