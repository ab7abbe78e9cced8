using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Tables;

/// <summary>How the values of a column are shown.</summary>
public enum CellKind
{
    /// <summary>A <see cref="string"/>.</summary>
    Text,

    /// <summary>A <see cref="PlanTime"/>: the start of something, or its finish, which midnight is the end of a day for.</summary>
    Start,
    Finish,

    /// <summary>A <see cref="DateOnly"/>.</summary>
    Day,

    /// <summary>A <see cref="decimal"/>.</summary>
    Number,

    /// <summary>A <see cref="decimal"/>, 0 to 1.</summary>
    Percent,
}

/// <summary>A column of a table that a plan is handed out as.</summary>
/// <param name="Key">Its name in addresses: that of the field on the screen.</param>
/// <param name="Title">What stands above it; reading a list knows it again.</param>
/// <param name="Width">In characters.</param>
/// <param name="Of">The value of a row of a plan; <c>null</c> for an empty cell.</param>
public sealed record PlanColumn(string Key, string Title, int Width, CellKind Kind, Func<PlanTable, int, object?> Of);

/// <summary>The rows of a plan as a table.</summary>
public sealed class PlanTable
{
    private readonly Effort _effort;
    private readonly TaskStates _states;
    private readonly ILookup<string, PlanLink> _linksTo;

    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="today">Today: states go by it.</param>
    /// <param name="columns">Which, from left to right; the usual ones when left out.</param>
    /// <param name="rows">Ids of the rows, with what is in them left out; all when left out.</param>
    public PlanTable(Schedule schedule, DateOnly today, IReadOnlyList<PlanColumn>? columns = null, IReadOnlySet<string>? rows = null)
    {
        (Schedule, Today) = (schedule, today);
        Columns = [.. columns ?? Usual];
        Rows = [.. Enumerable.Range(0, Plan.Tasks.Length).Where(row => rows is null || rows.Contains(Plan.Tasks[row].Id))];
        (_effort, _states) = (new Effort(schedule), new TaskStates(schedule, today));
        _linksTo = Plan.Links.ToLookup(link => link.To);
    }

    /// <summary>Every column that there is.</summary>
    public static ImmutableArray<PlanColumn> All { get; } =
    [
        new("no", "No", 8, CellKind.Text, (table, row) => table.Plan.Index.NumberOf(row)),
        new("name", "Task", 40, CellKind.Text, (table, row) => table.Plan.Tasks[row].Name),
        new("owner", "Owner", 24, CellKind.Text, (table, row) => table.People(row)),
        new("length", "Days", 8, CellKind.Number, (table, row) => table.Days(row)),
        new("after", "After", 16, CellKind.Text, (table, row) => table.After(row)),
        new("start", "Start", 16, CellKind.Start, (table, row) => table.Schedule.IsOff(row) ? null : table.Schedule.StartOf(row)),
        new("finish", "Finish", 16, CellKind.Finish, (table, row) => table.Schedule.IsOff(row) ? null : table.Schedule.FinishOf(row)),
        new("progress", "Done", 8, CellKind.Percent, (table, row) => table.Progress(row)),
        new("state", "State today", 14, CellKind.Text, (table, row) => table.State(row)),
        new("deadline", "Deadline", 16, CellKind.Finish, (table, row) => table.Plan.Tasks[row].Deadline),
        new("effort", "Hours of work", 14, CellKind.Number, (table, row) => Math.Round(table._effort.Of(row) / 60, 2)),
        new("note", "Note", 60, CellKind.Text, (table, row) => Filled(table.Plan.Tasks[row].Note)),
        .. PlainFacts
            .All.Where(fact => !fact.NamesRow)
            .Select(fact => new PlanColumn(fact.Name, Capital(fact.Title), 16, CellKind.Text, (table, row) =>
                table.Plan.Tasks[row].Facts[fact] is var value && Equals(value, fact.UsualValue) ? null : Typed(fact, value)
            )),
    ];

    /// <summary>Every column of a plan, with those of the fields that people added.</summary>
    public static IReadOnlyList<PlanColumn> ColumnsOf(Plan plan) =>
        [.. All, .. plan.Project.FieldsOfTasks.Where(field => !field.Retired).Select(OwnColumn)];

    /// <summary>What a list to hand out has.</summary>
    public static ImmutableArray<PlanColumn> Usual { get; } =
    [
        .. All.Where(column =>
            column.Key is "no" or "name" or "owner" or "length" or "after" or "start" or "finish" or "progress" or "note"
        ),
    ];

    public Schedule Schedule { get; }

    /// <summary>The day that states go by.</summary>
    public DateOnly Today { get; }

    public Plan Plan => Schedule.Plan;

    public ImmutableArray<PlanColumn> Columns { get; }

    /// <summary>Rows of the plan, in their order.</summary>
    public ImmutableArray<int> Rows { get; }

    private static PlanColumn OwnColumn(OwnField field)
    {
        var fact = OwnFact.Of(field.Id);
        return new PlanColumn(
            fact.Name,
            field.Name,
            16,
            field.Kind switch
            {
                OwnKind.Number or OwnKind.Amount => CellKind.Number,
                OwnKind.Date => CellKind.Day,
                _ => CellKind.Text,
            },
            (table, row) =>
                (table.Plan.Tasks[row].Facts[fact] as string, field.Kind) switch
                {
                    (null, _) => null,
                    ({ } number, OwnKind.Number or OwnKind.Amount) => decimal.Parse(number, CultureInfo.InvariantCulture),
                    ({ } day, OwnKind.Date) => DateOnly.ParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture),
                    var (value, _) => OwnText.InWords(field, value),
                }
        );
    }

    private string? People(int row) =>
        Filled(string.Join(", ", Plan.Tasks[row].Assignments.Select(a => Plan.FindPerson(a.Person)?.Name ?? a.Person)));

    private decimal? Days(int row) =>
        !Schedule.IsLeaf(row)
            ? null
            : Math.Round(Plan.LengthOf(Plan.Tasks[row]).Count / (decimal)Plan.Project.Units.Minutes(Length.OneDay).Count, 4);

    private string? After(int row) =>
        Filled(
            string.Join(
                ", ",
                _linksTo[Plan.Tasks[row].Id].Select(link => LinkText.Format(Plan.Index.NumberOf(Plan.Index.RowOf(link.From)), link))
            )
        );

    private decimal? Progress(int row) => Schedule.IsLeaf(row) && !Schedule.IsOff(row) ? Plan.Tasks[row].Progress : null;

    private string? State(int row) =>
        Schedule.IsOff(row) ? "inactive"
        : !Schedule.IsLeaf(row) ? null
        : StateText.Of(_states.Of(row)).ToLowerInvariant();

    private static string Typed(Fact fact, object? value) => value is bool ? "yes" : value as string ?? fact.InWords(value);

    private static string? Filled(string text) => text.Length == 0 ? null : text;

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
