using System.Collections.Immutable;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;

namespace Auxilium.Exchange.Lists;

/// <summary>What a column of a pasted list holds.</summary>
public sealed class ListColumnKind
{
    private const string NewPrefix = "new:";

    private ListColumnKind(string name, string headings, Fact? fact = null) => (Name, Headings, Fact) = (name, headings.Split(", "), fact);

    /// <summary>Its name in JSON.</summary>
    public string Name { get; }

    /// <summary>What people write above such a column, in small letters.</summary>
    public IReadOnlyList<string> Headings { get; }

    /// <summary>The plain fact that it holds, if it does.</summary>
    public Fact? Fact { get; }

    /// <summary>The field that people added which it holds, if it does.</summary>
    public OwnField? Field { get; private init; }

    /// <summary>Whether a field is made of it, called as its heading.</summary>
    public bool IsNew => Name.StartsWith(NewPrefix, StringComparison.Ordinal);

    public static ListColumnKind Ignored { get; } = new("ignored", "");

    /// <summary>What the row is called; its indentation, or an outline number before it, says which phase it is in.</summary>
    public static ListColumnKind Task { get; } = new("name", "task, tasks, name, task name, title, what, activity, item, to do, job");

    /// <summary>The list's own number of the row, such as 4 or 2.1.</summary>
    public static ListColumnKind Number { get; } = new("number", "no, nr, number, #, id, outline, outline number, row");

    public static ListColumnKind Length { get; } = new("length", "length, duration, days, takes, how long, time, estimate");

    public static ListColumnKind Start { get; } = new("start", "start, starts, start date, begin, begins, from");

    public static ListColumnKind Finish { get; } =
        new("finish", "finish, finishes, finish date, end, ends, end date, until, to, due, due date, by");

    /// <summary>When it should be finished, which moves nothing.</summary>
    public static ListColumnKind Deadline { get; } = new("deadline", "deadline, latest, must be done by, finish by, due by");

    /// <summary>The owner; of several names, the others help.</summary>
    public static ListColumnKind Owner { get; } =
        new("owner", "owner, owners, who, responsible, person, people, assigned to, assignee, lead");

    /// <summary>What comes before, by the list's own numbers or by name.</summary>
    public static ListColumnKind After { get; } =
        new("after", "after, predecessor, predecessors, depends on, waits for, comes after, needs");

    public static ListColumnKind Progress { get; } = new("progress", "progress, done, %, % done, complete, state, status");

    /// <summary>What the row is called where the list is from: a list that comes again is known by it.</summary>
    public static ListColumnKind SourceId { get; } = OfFact(PlainFacts.SourceId);

    public static ListColumnKind Note { get; } = new("note", "note, notes, comment, comments, remark, remarks, details, description");

    public static ImmutableArray<ListColumnKind> All { get; } =
    [
        Ignored,
        Task,
        Number,
        Length,
        Start,
        Finish,
        Deadline,
        Owner,
        After,
        Progress,
        Note,
        .. PlainFacts.All.Where(fact => !fact.NamesRow && fact != PlainFacts.SourceId).Select(OfFact),
        SourceId,
    ];

    private static ListColumnKind OfFact(Fact fact) => new(fact.Name, fact.Headings, fact);

    /// <summary>The kinds of a plan's own fields, but for those that are retired.</summary>
    public static ImmutableArray<ListColumnKind> Of(IEnumerable<OwnField> fields) =>
        [
            .. fields
                .Where(field => !field.Retired)
                .Select(field => new ListColumnKind(OwnFact.Prefix + field.Id, field.Name.ToLowerInvariant()) { Field = field }),
        ];

    /// <summary>The kind with a name; <c>null</c> where there is none.</summary>
    /// <param name="name">Of a column that a field is to be made of, “new:” and anything that no other such column has.</param>
    public static ListColumnKind? Find(string name, IEnumerable<OwnField> fields) =>
        name.StartsWith(NewPrefix, StringComparison.Ordinal)
            ? new ListColumnKind(name, "")
            : All.FirstOrDefault(kind => kind.Name == name) ?? Of(fields).FirstOrDefault(kind => kind.Name == name);

    /// <summary>Whether it is one of several.</summary>
    internal bool IsOneOf(params ReadOnlySpan<ListColumnKind> kinds) => kinds.Contains(this);

    public override string ToString() => Name;
}
