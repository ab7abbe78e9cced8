using Auxilium.Storage.People;
using Auxilium.Storage.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>How somebody belongs to the organisation. Kept by name.</summary>
public enum PersonKind
{
    Staff,
    Volunteer,
    Supplier,
}

/// <summary>Somebody of the organisation, whether they sign in or not.</summary>
public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    public required string Initials { get; set; }

    public string? Email { get; set; }

    /// <summary>What they do, in the organisation's own words.</summary>
    public string Role { get; set; } = "";

    public string Team { get; set; } = "";

    /// <summary>Id of the person they report to.</summary>
    public string? ReportsTo { get; set; }

    public PersonKind Kind { get; set; }

    /// <summary>Their own week as the JSON of a calendar; <c>null</c> for that of each project.</summary>
    public string? Calendar { get; set; }

    /// <summary>How much of their time they give, as <see cref="PersonTimes"/> writes it; <c>null</c> for all of it.</summary>
    public string? Availability { get; set; }

    /// <summary>Money for an hour; only organisers see it, as the other three.</summary>
    public decimal? HourlyRate { get; set; }

    public decimal? OvertimeRate { get; set; }

    public decimal? CostPerUse { get; set; }

    /// <summary>Rates that begin on later days, as <see cref="Money.PersonRates"/> writes them.</summary>
    public string? LaterRates { get; set; }

    /// <summary>The day they left. They stay on what they did.</summary>
    public DateOnly? LeftOn { get; set; }

    /// <summary>Id of the edit that made them by naming them in a plan; <c>null</c> once somebody has said more of them.</summary>
    public Guid? MadeBy { get; set; }
}

/// <summary>Days that somebody is away.</summary>
public sealed class TimeOffRow
{
    public long Id { get; set; }

    public required string PersonId { get; set; }

    public DateOnly From { get; set; }

    /// <summary>The last day.</summary>
    public DateOnly To { get; set; }

    /// <summary>For the person and those who enter it: no plan has it.</summary>
    public string Note { get; set; } = "";

    /// <summary>Where they count; <c>null</c> for everywhere. Whoever coordinates a project enters days off for that project.</summary>
    public Guid[]? Projects { get; set; }
}

/// <summary>Somebody's part in a project.</summary>
public sealed class MemberRow
{
    public Guid PlanId { get; set; }

    public required string PersonId { get; set; }

    public int Position { get; set; }

    /// <summary>Id of the plan's calendar that this person works by here.</summary>
    public string? Calendar { get; set; }
}

/// <summary>What somebody may do in a project, where it is said and does not follow from their part in it.</summary>
public sealed class RoleRow
{
    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    public ProjectRole Role { get; set; }
}

/// <summary>What a person may do in a project, the least first. Kept by name.</summary>
public enum ProjectRole
{
    /// <summary>Nothing: for them there is no such project.</summary>
    None,

    /// <summary>Looks.</summary>
    Viewer,

    /// <summary>Looks, reports on their own tasks, comments, and proposes changes.</summary>
    Member,

    /// <summary>Everything in it.</summary>
    Coordinator,
}

/// <summary>Somebody's own week or days off changed, and not all their plans have that yet.</summary>
public sealed class TimeChangeRow
{
    public required string PersonId { get; set; }

    /// <summary>Who changed them.</summary>
    public required string ChangedBy { get; set; }

    /// <summary>In UTC.</summary>
    public DateTime At { get; set; }
}
