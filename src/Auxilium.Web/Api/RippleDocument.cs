using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Api;

/// <summary>What an edit did, as the API tells it.</summary>
/// <param name="Sentence">In words, with what matters most marked.</param>
/// <param name="NewWarnings">What it broke, in sentences.</param>
/// <param name="GoneWarnings">What it mended.</param>
/// <param name="Floats">Tasks with other total float; only of a preview, or of an edit as it is answered.</param>
/// <param name="Path">Ids of the tasks that set the finish now, from the first to the last.</param>
public sealed record RippleDocument(
    ImmutableArray<TextRun> Sentence,
    string FinishBefore,
    string FinishAfter,
    int? SpareMinutes,
    IReadOnlyList<MoveDocument> Moves,
    IReadOnlyList<string> NewWarnings,
    IReadOnlyList<string> GoneWarnings,
    IReadOnlyList<FloatDocument> Floats,
    IReadOnlyList<DeadlineDocument> Deadlines,
    IReadOnlyList<string> Path,
    bool PathChanged
)
{
    public static RippleDocument Of(EditedPlan edited, ImmutableArray<TextRun>? sentence = null)
    {
        var ripple = edited.Ripple;
        return new RippleDocument(
            sentence ?? RippleText.Of(edited),
            ripple.FinishBefore.ToString(),
            ripple.FinishAfter.ToString(),
            ripple.SpareAfter?.Count,
            [.. ripple.Moves.Select(m => MoveDocument.Of(m, edited.After))],
            [.. ripple.NewWarnings.Select(w => w.Message)],
            [.. ripple.GoneWarnings.Select(w => w.Message)],
            [.. ripple.Floats.Select(f => new FloatDocument(f.Task, f.Before?.Count, f.After?.Count))],
            [.. ripple.Deadlines.Select(d => new DeadlineDocument(d.Task, d.Before.Count, d.After.Count))],
            ripple.Path,
            ripple.PathChanged
        );
    }

    /// <param name="did">What the edit that made this plan did.</param>
    /// <param name="plan">The plan as it made it.</param>
    public static RippleDocument Of(EditRecord did, Schedule plan) =>
        new(
            did.Sentence,
            did.FinishBefore.ToString(),
            did.FinishAfter.ToString(),
            Ripple.Spare(plan)?.Count,
            [.. did.Moves.Select(m => MoveDocument.Of(m, plan))],
            did.NewWarnings,
            did.GoneWarnings,
            [],
            [.. did.Deadlines.Select(d => new DeadlineDocument(d.Task, d.Before.Count, d.After.Count))],
            did.Path,
            did.PathChanged
        );
}

/// <summary>Total float in minutes of the task's effective calendar; <c>null</c> where it has none.</summary>
public sealed record FloatDocument(string Task, int? MinutesBefore, int? MinutesAfter);

/// <summary>Working minutes left before a deadline; negative when it is missed.</summary>
public sealed record DeadlineDocument(string Task, int MinutesBefore, int MinutesAfter);

/// <param name="Why">What holds it where it is now.</param>
public sealed record MoveDocument(
    string Task,
    string StartBefore,
    string FinishBefore,
    string StartAfter,
    string FinishAfter,
    int FinishShiftMinutes,
    string Shift,
    string Why
)
{
    internal static MoveDocument Of(Move move, Schedule after)
    {
        var units = after.Plan.Project.Units;
        var shift = RippleText.Shift(move.FinishShift, units);
        if (shift.Length == 0)
            shift = RippleText.Shift(move.StartShift, units) is { Length: > 0 } start ? $"starts {start}" : "the same working time";
        return new MoveDocument(
            move.Task,
            move.Before.Start.ToString(),
            move.Before.Finish.ToString(),
            move.After.Start.ToString(),
            move.After.Finish.ToString(),
            move.FinishShift.Count,
            shift,
            RippleText.WhyMoved(move, after)
        );
    }
}
