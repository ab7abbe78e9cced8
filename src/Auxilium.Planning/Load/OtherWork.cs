namespace Auxilium.Planning.Load;

/// <summary>What people have to do besides a plan, and how much time they have for all of it.</summary>
/// <param name="Minutes">By person and day.</param>
public sealed record OtherWork(Capacities Capacities, IReadOnlyDictionary<(string Person, DateOnly Day), decimal> Minutes);
