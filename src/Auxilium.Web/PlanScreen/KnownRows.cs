using Auxilium.Planning.Facts;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Web.PlanScreen;

/// <summary>
/// The rows of the version before, of which those are taken over that an edit has left as they were: making a row anew costs more
/// than working out its dates.
/// </summary>
internal sealed class KnownRows
{
    private readonly Schedule _before;
    private readonly Schedule _after;
    private readonly IReadOnlyList<RowView> _rows;
    private readonly bool _isRenamed;

    private KnownRows(Schedule before, Schedule after, IReadOnlyList<RowView> rows, bool isRenamed) =>
        (_before, _after, _rows, _isRenamed) = (before, after, rows, isRenamed);

    /// <returns><c>null</c> where the edit was to more than some tasks, so that any row may be another.</returns>
    public static KnownRows? Of(Schedule before, Schedule after, IReadOnlyList<RowView> rows)
    {
        var (was, now) = (before.Plan, after.Plan);
        if (
            was.Project != now.Project
            || was.Links != now.Links
            || was.Calendars != now.Calendars
            || was.People != now.People
            || was.Baselines != now.Baselines
            || was.Tasks.Length != now.Tasks.Length
        )
            return null;
        var renamed = false;
        for (var row = 0; row < was.Tasks.Length; row++)
        {
            var (old, task) = (was.Tasks[row], now.Tasks[row]);
            if (ReferenceEquals(old, task))
                continue;
            // The outline, which rows are active, and progress affect other rows.
            if (old.Id != task.Id || old.Parent != task.Parent || old.Active != task.Active || old.Milestone != task.Milestone)
                return null;
            if (old.ActualStart != task.ActualStart || old.ActualFinish != task.ActualFinish || old.Progress != task.Progress)
                return null;
            // So does which milestone a row serves.
            if (PlainFacts.Serves.Of(old) != PlainFacts.Serves.Of(task))
                return null;
            renamed |= old.Name != task.Name;
        }
        return new KnownRows(before, after, rows, renamed);
    }

    /// <summary>The previous row, if only its dates and what follows from them changed.</summary>
    /// <param name="row">Its position.</param>
    public RowView? FindTask(int row) =>
        ReferenceEquals(_before.Plan.Tasks[row], _after.Plan.Tasks[row])
        && !_after.IsOff(row)
        && !_after.IsPhase(row)
        && _before.LengthOf(row) == _after.LengthOf(row)
            ? _rows[row]
            : null;

    /// <summary>The previous row, if nothing changed.</summary>
    /// <param name="row">Its position.</param>
    /// <param name="warning">What is wrong with its dates now.</param>
    public RowView? Find(int row, string? warning)
    {
        if (!ReferenceEquals(_before.Plan.Tasks[row], _after.Plan.Tasks[row]))
            return null;
        var known = _rows[row];
        if (_after.IsOff(row))
            return known;
        var isSame =
            _before.StartOf(row) == _after.StartOf(row)
            && _before.FinishOf(row) == _after.FinishOf(row)
            && _before.TotalFloatOf(row) == _after.TotalFloatOf(row)
            && _before.LateDatesOf(row) == _after.LateDatesOf(row)
            && _before.IsCritical(row) == _after.IsCritical(row)
            && _before.ProgressOf(row) == _after.ProgressOf(row)
            && _before.LengthOf(row) == _after.LengthOf(row)
            && known.Warning == warning
            && !(_isRenamed && known.WaitsFor is not null);
        return isSame ? known : null;
    }
}
