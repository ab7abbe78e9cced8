using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tracking;

/// <summary>What became of a row from one record of a plan to another.</summary>
public enum RowChange
{
    /// <summary>It starts or finishes at another time.</summary>
    Moved,

    /// <summary>It takes more or less work, at the same time.</summary>
    Grew,
    New,
    Dropped,
}

/// <summary>A row in which two records of a plan differ.</summary>
/// <param name="From">As the first has it; <c>null</c> of a new one.</param>
/// <param name="To">As the second has it; <c>null</c> of a dropped one.</param>
/// <param name="Start">Working minutes of the project calendar by which it starts later.</param>
/// <param name="Finish">Working minutes of the project calendar by which it finishes later.</param>
public sealed record ComparedRow(RowChange Change, BaselineRow? From, BaselineRow? To, WorkMinutes Start, WorkMinutes Finish)
{
    /// <summary>The row as it is known last.</summary>
    public BaselineRow Row => (To ?? From)!;

    /// <summary>Minutes of work that it takes more.</summary>
    public decimal Effort => (To?.Effort ?? 0) - (From?.Effort ?? 0);

    /// <summary>What the differences are ordered by: the largest comes first.</summary>
    internal decimal Size =>
        Change is RowChange.New or RowChange.Dropped
            ? Math.Max(Row.Length, Row.Effort)
            : Math.Max(Math.Max(Math.Abs(Start.Count), Math.Abs(Finish.Count)), Math.Abs(Effort));
}

/// <summary>Two records of one plan side by side (rule S4).</summary>
/// <param name="Start">Working minutes by which the project starts later in the second.</param>
/// <param name="Finish">Working minutes by which it finishes later.</param>
/// <param name="Rows">Where they differ, the largest difference first; a phase counts as its rows do, and is left out.</param>
public sealed record Comparison(Baseline From, Baseline To, WorkMinutes Start, WorkMinutes Finish, ImmutableArray<ComparedRow> Rows)
{
    /// <param name="from">The earlier one.</param>
    /// <param name="to">The later one.</param>
    /// <param name="calendar">The project calendar that differences are counted by.</param>
    public static Comparison Of(Baseline from, Baseline to, WorkTime calendar)
    {
        var rows = new List<ComparedRow>();
        foreach (var now in to.Rows.Where(row => !row.Phase))
        {
            // What one of them was not taken of has not come or gone.
            if (from.Find(now.Task) is { } was)
                AddChanged(rows, was, now, calendar);
            else if (from.Whole)
                rows.Add(new ComparedRow(RowChange.New, null, now, default, default));
        }
        if (to.Whole)
            rows.AddRange(
                from.Rows.Where(row => !row.Phase && to.Find(row.Task) is null)
                    .Select(was => new ComparedRow(RowChange.Dropped, was, null, default, default))
            );
        return new Comparison(
            from,
            to,
            new WorkMinutes(calendar.Between(from.Start, to.Start)),
            new WorkMinutes(calendar.Between(from.Finish, to.Finish)),
            // Rows that differ by as much stay in the order of the plan.
            [.. rows.OrderByDescending(row => row.Size)]
        );
    }

    private static void AddChanged(List<ComparedRow> rows, BaselineRow was, BaselineRow now, WorkTime calendar)
    {
        var (start, finish) = (calendar.Between(was.Start, now.Start), calendar.Between(was.Finish, now.Finish));
        if (was.Start != now.Start || was.Finish != now.Finish)
            rows.Add(new ComparedRow(RowChange.Moved, was, now, new WorkMinutes(start), new WorkMinutes(finish)));
        else if (was.Effort != now.Effort)
            rows.Add(new ComparedRow(RowChange.Grew, was, now, default, default));
    }
}
