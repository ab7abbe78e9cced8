using Auxilium.Planning.Editing;

namespace Auxilium.Exchange.Lists;

/// <summary>Which number of a date such as 4/5 is the day.</summary>
public enum DateOrder
{
    /// <summary>The list does not say: both could be meant.</summary>
    Unknown,
    DayFirst,
    MonthFirst,
}

/// <summary>A column as it was understood.</summary>
/// <param name="Kind">What it holds.</param>
/// <param name="Heading">What its first line calls it; empty without such a line.</param>
/// <param name="Sample">The first text in it.</param>
public sealed record ListColumn(ListColumnKind Kind, string Heading, string Sample);

/// <summary>What could not be read, or was read differently from how it is written.</summary>
/// <param name="Column">What the column it is in holds; <c>null</c> for the row.</param>
public sealed record ListProblem(ListColumnKind? Column, string Message);

/// <summary>A line of the list as a row of the plan.</summary>
/// <param name="Line">Which line of the text it is, from 1.</param>
/// <param name="Task">The id that its row gets.</param>
/// <param name="Level">How deep it stands, from 0.</param>
/// <param name="Number">The list's own number of it.</param>
/// <param name="Cells">What its columns say, by column, as understood.</param>
public sealed record ListRow(
    int Line,
    string Task,
    int Level,
    string Number,
    string Name,
    bool IsPhase,
    IReadOnlyDictionary<ListColumnKind, string> Cells,
    IReadOnlyList<ListProblem> Problems
)
{
    /// <summary>What of it is in the plan; <c>null</c> where the list is not compared with it.</summary>
    public ListRowState? State { get; init; }

    /// <summary>What of a row that is in the plan is other than the list says.</summary>
    public IReadOnlyList<ListChange> Changes { get; init; } = [];
}

/// <summary>What of a list is in the plan already.</summary>
public enum ListRowState
{
    New,
    Changed,
    Same,
}

/// <summary>What of a row is other than the list says.</summary>
/// <param name="Column">What the column that says it holds; <c>null</c> for its place.</param>
/// <param name="Before">As it is in the plan; empty where there is nothing.</param>
public sealed record ListChange(ListColumnKind? Column, string Before, string After);

/// <summary>A row of the plan that the list no longer has.</summary>
/// <param name="Phase">Name of the phase it is in; empty at the top.</param>
/// <param name="Inside">How many rows go with it.</param>
public sealed record ListGone(string Task, string Name, string Phase, int Inside);

/// <summary>How a pasted list was understood, before anything is made of it.</summary>
/// <param name="Columns">From left to right.</param>
/// <param name="Rows">Those that become rows of the plan.</param>
/// <param name="Order">How dates such as 4/5 are read.</param>
/// <param name="AskOrder">Whether they could be read both ways, so that a person has to say.</param>
/// <param name="NewPeople">Names of owners whom nobody here has.</param>
/// <param name="Problem">Why nothing can be made of it; <c>null</c> when something can.</param>
/// <param name="Edit">The edit that adds the rows; <c>null</c> when there is none to add.</param>
public sealed record ListReading(
    IReadOnlyList<ListColumn> Columns,
    IReadOnlyList<ListRow> Rows,
    DateOrder Order,
    bool AskOrder,
    IReadOnlyList<string> NewPeople,
    string? Problem,
    PlanEdit? Edit
)
{
    /// <summary>How many of its rows are in the plan already, by source id or name.</summary>
    public int Matches { get; init; }

    /// <summary>Whether most of them are, so that it was probably brought in before.</summary>
    public bool IsLikelyAgain { get; init; }

    /// <summary>What the plan has beside those rows and the list has not, where the two are compared.</summary>
    public IReadOnlyList<ListGone> Gone { get; init; } = [];
}
