using System.Collections.Immutable;

namespace Auxilium.Planning.Levelling;

/// <summary>How far levelling may go.</summary>
public enum LevellingMode
{
    /// <summary>Neither the finish nor a deadline moves.</summary>
    WithinFloat,

    /// <summary>The plan takes as long as it must.</summary>
    AsLongAsItTakes,
}

/// <summary>What to level.</summary>
/// <param name="People">Ids of those who should not be overbooked.</param>
/// <param name="Mode">How far it may go.</param>
public sealed record LevellingWish(ImmutableArray<string> People, LevellingMode Mode)
{
    /// <summary>The longest that anybody waits.</summary>
    public static readonly TimeSpan LongestTime = TimeSpan.FromSeconds(30);

    /// <summary>At most so many restarts.</summary>
    public const int MostRestarts = 100_000;

    /// <summary>The first day that overbooking matters on; <c>null</c> for today.</summary>
    public DateOnly? From { get; init; }

    /// <summary>The last one; <c>null</c> for all to come.</summary>
    public DateOnly? To { get; init; }

    /// <summary>The same seed, and as many restarts, give the same answer.</summary>
    public int Seed { get; init; } = 1;

    /// <summary>How often it begins anew; <c>null</c> for as often as there is time.</summary>
    public int? Restarts { get; init; }

    /// <summary>How long it may look for a better answer.</summary>
    public TimeSpan TimeLimit { get; init; } = TimeSpan.FromSeconds(0.8);

    /// <summary>Ids of the only tasks that may be delayed; <c>null</c> for any.</summary>
    public IReadOnlyCollection<string>? Only { get; init; }

    /// <summary>What is delayed starts when a day begins, and not in the middle of one.</summary>
    public bool WholeDays { get; init; }

    /// <summary>Minutes of work in other projects, by person and day.</summary>
    public IReadOnlyDictionary<(string Person, DateOnly Day), decimal> Elsewhere { get; init; } =
        ImmutableDictionary<(string, DateOnly), decimal>.Empty;

    /// <summary>So many minutes more than there are, nobody minds.</summary>
    public decimal Tolerance { get; init; }
}
