using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage;

namespace Auxilium.Web.Api;

/// <summary>What an edit did, as the API tells it.</summary>
/// <param name="Sentence">In words, with what matters most marked.</param>
public sealed record RippleDocument(ImmutableArray<TextRun> Sentence, string FinishBefore, string FinishAfter, int? SpareMinutes, IReadOnlyList<MoveDocument> Moves)
{
    public static RippleDocument Of(EditedPlan edited, ImmutableArray<TextRun>? sentence = null)
    {
        var ripple = edited.Ripple;
        return new RippleDocument(
            sentence ?? RippleText.Of(edited),
            ripple.FinishBefore.ToString(),
            ripple.FinishAfter.ToString(),
            ripple.SpareAfter?.Count,
            [.. ripple.Moves.Select(m => MoveDocument.Of(m, edited.After))]);
    }

    /// <param name="did">What the edit that made this plan did.</param>
    /// <param name="plan">The plan as it made it.</param>
    public static RippleDocument Of(EditRecord did, Schedule plan) => new(
        did.Sentence,
        did.FinishBefore.ToString(),
        did.FinishAfter.ToString(),
        Ripple.Spare(plan)?.Count,
        [.. did.Moves.Select(m => MoveDocument.Of(m, plan))]);
}

/// <param name="Why">What holds it where it is now.</param>
public sealed record MoveDocument(string Task, string StartBefore, string FinishBefore, string StartAfter, string FinishAfter, int FinishShiftMinutes, string Shift, string Why)
{
    internal static MoveDocument Of(Move move, Schedule after)
    {
        var units = after.Plan.Project.Units;
        var shift = RippleText.Shift(move.FinishShift, units);
        if (shift.Length == 0) shift = RippleText.Shift(move.StartShift, units) is { Length: > 0 } start ? $"starts {start}" : "the same working time";
        return new MoveDocument(
            move.Task,
            move.Before.Start.ToString(),
            move.Before.Finish.ToString(),
            move.After.Start.ToString(),
            move.After.Finish.ToString(),
            move.FinishShift.Count,
            shift,
            RippleText.WhyMoved(move, after));
    }
}
