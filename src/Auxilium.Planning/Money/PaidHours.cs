using Auxilium.Planning.Load;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Money;

/// <summary>Hours that somebody worked, with how much of them is overtime (rule H4).</summary>
/// <param name="Overtime">Minutes beyond the time that they had that day.</param>
public readonly record struct PaidHours(WorkedHours Worked, decimal Overtime)
{
    /// <summary>What they cost.</summary>
    public decimal Cost(Rate rate) => (rate.Hour * (Worked.Minutes - Overtime) + (rate.Overtime ?? rate.Hour) * Overtime) / 60;

    /// <param name="entries">Of all projects, in the order they were made.</param>
    /// <param name="capacities">How much time people have.</param>
    public static IEnumerable<PaidHours> Of(IEnumerable<WorkedHours> entries, Capacities capacities)
    {
        var worked = new Dictionary<(string, DateOnly), decimal>();
        foreach (var entry in entries)
        {
            var before = worked.GetValueOrDefault((entry.Person, entry.Day));
            var after = worked[(entry.Person, entry.Day)] = before + entry.Minutes;
            var room = capacities.Of(entry.Person, entry.Day);
            yield return new PaidHours(entry, Math.Max(0, after - Math.Max(room, before)));
        }
    }
}
