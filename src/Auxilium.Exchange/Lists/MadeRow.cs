using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.Lists;

/// <summary>A line of a list while a row is made of it.</summary>
/// <param name="Existing">The row of the plan that it is, where a list is compared with the plan.</param>
/// <param name="Phase">The row that it is in.</param>
/// <param name="At">Its place in the list.</param>
/// <param name="End">The place after the last row inside it.</param>
internal sealed record MadeRow(ListReader.Entry Entry, PlanTask? Existing, MadeRow? Phase, int At, int End)
{
    public string Id { get; } = Existing?.Id ?? PlanIds.New();

    /// <summary>Whether the row of the plan holds others.</summary>
    public bool HoldsRows { get; init; }

    public bool IsPhase => End > At + 1 || HoldsRows;

    public bool Holds(MadeRow other) => At < other.At && other.At < End;

    public List<ListProblem> Problems { get; } = [];

    /// <summary>What its columns say, as understood.</summary>
    public Dictionary<ListColumnKind, string> Cells { get; } = [];

    /// <summary>What the row is given, by the column that says it.</summary>
    public List<(ListColumnKind Column, PlanEdit Edit)> Facts { get; } = [];

    /// <summary>When it is to start, where nothing fixes that yet.</summary>
    public PlanTime? Place { get; set; }

    public List<Predecessor> Before { get; } = [];

    /// <summary>The rows that those links come from.</summary>
    public List<MadeRow> Waits { get; } = [];

    /// <summary>What of an existing row is other than the list says.</summary>
    public List<ListChange> Changes { get; } = [];

    public static string Short(string text) => text.Length <= 40 ? text : text[..39] + "…";
}
