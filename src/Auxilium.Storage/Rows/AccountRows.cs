using Auxilium.Storage.Notices;
using Microsoft.AspNetCore.Identity;

namespace Auxilium.Storage.Rows;

/// <summary>Lets a person sign in. Its id is the person's.</summary>
public sealed class Account : IdentityUser
{
    /// <summary>May do everything, in every project.</summary>
    public bool IsOrganiser { get; set; }

    /// <summary>May make new projects.</summary>
    public bool MayMakeProjects { get; set; }

    /// <summary>Which notices they want and how, as JSON; <c>null</c> for the usual ones.</summary>
    public string? NoticeWishes { get; set; }

    /// <summary>The last day that their weekly mail was written for.</summary>
    public DateOnly? WeeklyOn { get; set; }

    /// <summary>
    /// The half minute, counted from 1970, of the newest two-step code that was used: no code up to it is accepted again.
    /// </summary>
    public long LastCodeStep { get; set; }
}

/// <summary>A browser that is signed in. Ending it signs that browser out at its next request.</summary>
public sealed class SessionRow
{
    public Guid Id { get; set; }

    /// <summary>SHA-256 of the key that its cookie has.</summary>
    public required byte[] KeyHash { get; set; }

    public required string PersonId { get; set; }

    public DateTime StartedAt { get; set; }

    public DateTime SeenAt { get; set; }

    public DateTime EndsAt { get; set; }

    /// <summary>What the browser says it is.</summary>
    public string Browser { get; set; } = "";

    /// <summary>Whether it is kept when the browser is closed.</summary>
    public bool IsLasting { get; set; }
}

/// <summary>A secret that somebody was given: only its hash is kept, so it can be shown once.</summary>
public abstract class SecretRow
{
    public Guid Id { get; set; }

    /// <summary>SHA-256 of it.</summary>
    public required byte[] Hash { get; set; }

    public DateTime MadeAt { get; set; }

    public DateTime? EndsAt { get; set; }

    /// <summary>When it was used last.</summary>
    public DateTime? UsedAt { get; set; }
}

/// <summary>Lets a program work as a person.</summary>
public sealed class TokenRow : SecretRow
{
    public required string PersonId { get; set; }

    public required string Name { get; set; }

    /// <summary>How much of what the person may do it may do.</summary>
    public TokenScope Scope { get; set; }
}

/// <summary>The least first. Kept by name.</summary>
public enum TokenScope
{
    /// <summary>Reads.</summary>
    Look,

    /// <summary>Reads, reports and comments.</summary>
    Report,

    /// <summary>All that its person may do in projects.</summary>
    Edit,
}

/// <summary>Asks a person to choose a password, once.</summary>
public sealed class InvitationRow : SecretRow
{
    public required string PersonId { get; set; }

    public required string InvitedBy { get; set; }

    public bool IsOrganiser { get; set; }

    public bool MayMakeProjects { get; set; }
}

/// <summary>Shows a project to whoever has the address.</summary>
public sealed class ShareLinkRow : SecretRow
{
    public Guid ProjectId { get; set; }

    public required string MadeBy { get; set; }

    /// <summary>Whom it is for.</summary>
    public required string Name { get; set; }

    public string? PasswordHash { get; set; }

    /// <summary>The columns it shows besides the task's name.</summary>
    public string[] Columns { get; set; } = [];

    /// <summary>Whether what it shows may be had as files.</summary>
    public bool AllowsExport { get; set; }
}

/// <summary>Tasks of a project as a calendar that programs fetch.</summary>
public sealed class ProjectFeedRow : SecretRow
{
    public Guid ProjectId { get; set; }

    /// <summary>It shows something for as long as this person may look at the project.</summary>
    public required string MadeBy { get; set; }

    /// <summary>What it is for.</summary>
    public required string Name { get; set; }

    /// <summary>Whose tasks; <c>null</c> for everybody's.</summary>
    public string? PersonId { get; set; }

    public bool MilestonesOnly { get; set; }

    public bool AsToDos { get; set; }

    /// <summary>So many days before they start there is an alarm; <c>null</c> for none.</summary>
    public int? AlarmDays { get; set; }
}

/// <summary>Somebody's tasks as a calendar that programs fetch.</summary>
public sealed class FeedRow : SecretRow
{
    public required string PersonId { get; set; }
}
