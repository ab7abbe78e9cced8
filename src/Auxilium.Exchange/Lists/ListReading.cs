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
);

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
);
