using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Storage;

/// <summary>What an edit moved, as the journal keeps it: times in minutes, start and finish in turn.</summary>
internal static class JournalMoves
{
    public static string Write(IReadOnlyList<Move> moves) => JsonSerializer.Serialize(moves.Select(m => new Kept(
        m.Task,
        [m.Before.Start.Minutes, m.Before.Finish.Minutes],
        [m.After.Start.Minutes, m.After.Finish.Minutes],
        [m.StartShift.Count, m.FinishShift.Count],
        m.HeldBy)));

    public static IReadOnlyList<Move> Read(string json) => [.. JsonSerializer.Deserialize<Kept[]>(json)!.Select(m => new Move(
        m.Task,
        Stretch(m.Before),
        Stretch(m.After),
        new WorkMinutes(m.Shift[0]),
        new WorkMinutes(m.Shift[1]),
        m.HeldBy))];

    private static Segment Stretch(int[] times) => new(new PlanTime(times[0]), new PlanTime(times[1]));

    private sealed record Kept(string Task, int[] Before, int[] After, int[] Shift, IReadOnlyList<string> HeldBy);
}
