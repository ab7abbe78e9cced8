using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Tracking;

namespace Auxilium.Web.Pages.Projects;

/// <summary>A fact of projects, by which they are sorted, and which the table has a column for.</summary>
/// <param name="Key">Kept with how somebody looks at projects: it never changes.</param>
/// <param name="Order">What comes first is least; what has none comes last.</param>
/// <param name="Text">What the table says of it; <c>null</c> for a fact that it has no column for.</param>
public sealed record ProjectColumn(
    string Key,
    string Title,
    Func<ProjectSummary, IComparable?> Order,
    Func<ProjectSummary, string>? Text = null
)
{
    /// <summary>In the order of the table. A new one is a line here.</summary>
    public static ImmutableArray<ProjectColumn> All { get; } =
    [
        // They come the newest first.
        new("newest", "Newest", _ => 0),
        new("name", "Name", p => p.Name.ToUpperInvariant()),
        new("status", "Status", p => (int)p.Known.Status, p => p.Status),
        new("coordinator", "Coordinator", p => p.Known.Coordinator?.ToUpperInvariant(), p => p.Known.Coordinator ?? ""),
        new("start", "Start", p => p.Plan?.Start.Minutes, p => p.Start),
        new("finish", "Finish", p => p.Plan?.Finish.Minutes, p => p.Finish),
        new("deadline", "Deadline", p => p.Plan?.FinishBy?.Minutes, p => p.Deadline),
        new("progress", "Done", p => p.Plan?.Progress, p => $"{p.Progress}%"),
        new("passed", "Time passed", p => p.Passed, p => p.Passed is { } passed ? $"{passed}%" : p.TimePassed),
        // The furthest behind its time first.
        new("behind", "Progress against time", p => p.Plan is null ? null : p.Progress - (p.Passed ?? 0)),
        new("overdue", "Overdue tasks", p => -p.CountOf(TaskState.Overdue)),
        new("overbooked", "Overbooked", p => -p.Overbooked, p => p.Overbooked == 0 ? "" : $"{p.Overbooked}"),
        new("spare", "Spare days", p => p.Plan?.Spare, p => p.ShortSpare),
        new("drift", "Drift", p => -p.Plan?.Drift, p => p.ShortDrift),
        new("chance", "Chance", p => p.Known.Chance, p => p.Chance),
        new("budget", "Budget", p => -p.Money?.Budget, p => p.Budget),
        new("expected", "Expected cost", p => -p.Money?.Expected, p => p.Expected),
        new("free", "Free budget", p => p.Money?.Free),
        new("priority", "Priority", p => -p.Known.Priority, p => $"{p.Known.Priority}"),
    ];

    /// <summary>With a column of each fact that people added to projects.</summary>
    public static IReadOnlyList<ProjectColumn> Of(IEnumerable<ProjectSummary> projects) =>
        [.. All, .. projects.SelectMany(project => project.Known.Own).DistinctBy(field => (field.Id, field.Kind)).Select(Own)];

    /// <summary>Whether there may be such a column: a fact that people added can come and go.</summary>
    public static bool IsKey(string? key) =>
        All.Any(column => column.Key == key) || (key is { Length: < 60 } && key.StartsWith(OwnFact.Prefix, StringComparison.Ordinal));

    /// <param name="columns">Those that there are.</param>
    public static ProjectColumn Find(IReadOnlyList<ProjectColumn> columns, string? key) =>
        columns.FirstOrDefault(c => c.Key == key) ?? All[0];

    private static ProjectColumn Own(OwnField field)
    {
        return new(OwnFact.Prefix + field.Id, field.Name, Order, project => Of(project) is { } own ? OwnText.InWords(own, own.Value) : "");

        OwnField? Of(ProjectSummary project) =>
            project.Known.Own.FirstOrDefault(own => (own.Id, own.Kind) == (field.Id, field.Kind) && own.Value is not null);

        IComparable? Order(ProjectSummary project) =>
            Of(project) is not { Value: { } value } own ? null
            : field.Kind is OwnKind.Number or OwnKind.Amount ? decimal.Parse(value, CultureInfo.InvariantCulture)
            : field.Kind is OwnKind.Date ? value
            : OwnText.InWords(own, value).ToUpperInvariant();
    }

    /// <summary>Projects in the order of this fact; those that have none last, whichever way.</summary>
    public IEnumerable<ProjectSummary> Sorted(IEnumerable<ProjectSummary> projects, bool down)
    {
        var known = projects.ToLookup(p => Order(p) is not null);
        var sorted = down ? known[true].OrderByDescending(Order) : known[true].OrderBy(Order);
        return sorted.Concat(known[false]);
    }
}
