using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Storage.Plans;

/// <summary>What an edit did, as the journal keeps it: times in minutes, start and finish in turn.</summary>
internal static class JournalRipple
{
    public static string Write(Ripple ripple) =>
        JsonSerializer.Serialize(
            new Kept(
                [
                    .. ripple.Moves.Select(m => new KeptMove(
                        m.Task,
                        [m.Before.Start.Minutes, m.Before.Finish.Minutes],
                        [m.After.Start.Minutes, m.After.Finish.Minutes],
                        [m.StartShift.Count, m.FinishShift.Count]
                    )),
                ],
                [.. ripple.NewWarnings.Select(w => w.Message)],
                [.. ripple.GoneWarnings.Select(w => w.Message)],
                [.. ripple.Deadlines.Select(d => new KeptDeadline(d.Task, d.Before.Count, d.After.Count))],
                [.. ripple.Path],
                ripple.PathChanged
            )
        );

    /// <summary>Entries of before there was more than moves to keep are a list of these.</summary>
    public static EditRecord Read(
        string json,
        System.Collections.Immutable.ImmutableArray<TextRun> sentence,
        PlanTime finishBefore,
        PlanTime finishAfter
    )
    {
        var kept = json.StartsWith('[')
            ? new Kept(JsonSerializer.Deserialize<KeptMove[]>(json)!, [], [], [], [], false)
            : JsonSerializer.Deserialize<Kept>(json)!;
        return new EditRecord(
            sentence,
            finishBefore,
            finishAfter,
            [
                .. kept.Moves.Select(m => new Move(
                    m.Task,
                    Stretch(m.Before),
                    Stretch(m.After),
                    new WorkMinutes(m.Shift[0]),
                    new WorkMinutes(m.Shift[1])
                )),
            ],
            kept.NewWarnings,
            kept.GoneWarnings,
            [.. kept.Deadlines.Select(d => new DeadlineChange(d.Task, new WorkMinutes(d.Before), new WorkMinutes(d.After)))],
            kept.Path,
            kept.PathChanged
        );
    }

    private static Segment Stretch(int[] times) => new(new PlanTime(times[0]), new PlanTime(times[1]));

    private sealed record Kept(
        KeptMove[] Moves,
        string[] NewWarnings,
        string[] GoneWarnings,
        KeptDeadline[] Deadlines,
        string[] Path,
        bool PathChanged
    );

    private sealed record KeptMove(string Task, int[] Before, int[] After, int[] Shift);

    private sealed record KeptDeadline(string Task, int Before, int After);
}
