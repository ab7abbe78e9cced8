using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;

namespace Auxilium.Planning.Plans;

/// <summary>A named, dated record of a plan as it was, of all its rows or of chosen ones. It never changes (rule S1).</summary>
/// <param name="Taken">The day it was taken, or of a past version the day that version was made.</param>
/// <param name="Whole">Whether it is of all rows.</param>
/// <param name="Start">The project's start.</param>
/// <param name="Finish">The project's finish.</param>
/// <param name="Rows">In outline order; inactive rows have no dates and are left out.</param>
public sealed record Baseline(
    string Id,
    string Name,
    DateOnly Taken,
    bool Whole,
    PlanTime Start,
    PlanTime Finish,
    ImmutableArray<BaselineRow> Rows
)
{
    /// <summary>A plan has at most this many.</summary>
    public const int Most = 50;

    /// <summary>Its name is at most this many characters.</summary>
    public const int LongestName = 80;

    private Dictionary<string, int>? _positions;

    /// <summary>Minutes of work of all tasks together.</summary>
    public decimal Effort => Rows.Where(row => !row.Phase).Sum(row => row.Effort);

    /// <summary>Progress of all tasks by their length, 0 to 1 (rule P2).</summary>
    public decimal Progress
    {
        get
        {
            var leaves = Rows.Where(row => !row.Phase).ToList();
            var length = leaves.Sum(row => (decimal)row.Length);
            return length > 0 ? leaves.Sum(row => row.Length * row.Progress) / length
                : leaves.Count > 0 ? (decimal)leaves.Count(row => row.Progress == 1) / leaves.Count
                : 0;
        }
    }

    /// <summary>A row as it was; <c>null</c> where the baseline does not know it.</summary>
    public BaselineRow? Find(string task) => Positions.TryGetValue(task, out var position) ? Rows[position] : null;

    private Dictionary<string, int> Positions =>
        _positions ??= Rows.Select((row, position) => (row.Task, position)).ToDictionary(row => row.Task, row => row.position);

    /// <summary>Two are the same where they say the same, row for row.</summary>
    public bool Equals(Baseline? other) =>
        ReferenceEquals(this, other)
        || (
            other is not null
            && (Id, Name, Taken, Whole, Start, Finish) == (other.Id, other.Name, other.Taken, other.Whole, other.Start, other.Finish)
            && Rows.SequenceEqual(other.Rows)
        );

    public override int GetHashCode() => HashCode.Combine(Id, Name, Taken, Rows.Length);
}

/// <summary>A row of a plan as a baseline keeps it.</summary>
/// <param name="Name">What it was called.</param>
/// <param name="Length">Working minutes: of a phase those of the project calendar from start to finish.</param>
/// <param name="Effort">Minutes of work of all its people (rule E1); of a phase those of its rows.</param>
/// <param name="Progress">0 to 1.</param>
/// <param name="Milestone">Whether it was a milestone.</param>
/// <param name="Phase">Whether it held other rows.</param>
/// <param name="Cost">Planned cost (rule M4).</param>
public sealed record BaselineRow(
    string Task,
    string Name,
    PlanTime Start,
    PlanTime Finish,
    int Length,
    decimal Effort,
    decimal Progress,
    bool Milestone,
    bool Phase,
    PlannedCost Cost
);

/// <summary>Planned cost in its three parts, in the project's currency (rule M4).</summary>
/// <param name="AtStart">Due when the work starts.</param>
/// <param name="Evenly">Due as the work goes on.</param>
/// <param name="AtFinish">Due when the work is finished.</param>
public readonly record struct PlannedCost(decimal AtStart, decimal Evenly, decimal AtFinish)
{
    public static PlannedCost None => default;

    public decimal Whole => AtStart.Plus(Evenly).Plus(AtFinish);

    public PlannedCost Plus(in PlannedCost other) =>
        new(AtStart.Plus(other.AtStart), Evenly.Plus(other.Evenly), AtFinish.Plus(other.AtFinish));

    /// <summary>What is left of each part without another; none is below 0.</summary>
    public PlannedCost Less(PlannedCost other) =>
        new(Math.Max(0, AtStart - other.AtStart), Math.Max(0, Evenly - other.Evenly), Math.Max(0, AtFinish - other.AtFinish));
}
