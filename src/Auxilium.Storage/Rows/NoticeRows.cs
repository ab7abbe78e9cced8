using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;

namespace Auxilium.Storage.Rows;

/// <summary>What a notice is about. Kept by name.</summary>
public enum NoticeKind
{
    Assigned,
    Mentioned,
    CanStart,
    Moved,
    DueSoon,
    Overdue,
    Proposal,
    Decided,
    TimeOff,
    StartsSoon,
    LateToStart,
    MilestoneSoon,
    Drift,
    Reminder,

    /// <summary>A file that was asked for is there.</summary>
    Export,

    /// <summary>Somebody has more to do than time.</summary>
    Overbooked,
}

/// <summary>Something a person is told.</summary>
public sealed class NoticeRow
{
    public long Id { get; set; }

    public required string PersonId { get; set; }

    public DateTime At { get; set; }

    public NoticeKind Kind { get; set; }

    public Guid ProjectId { get; set; }

    /// <summary>The task that it is about, or the file; <c>null</c> where it is about the project.</summary>
    public string? TaskId { get; set; }

    public required string Text { get; set; }

    /// <summary>The same thing is told a person once: what makes it the same.</summary>
    public required string Once { get; set; }

    public DateTime? ReadAt { get; set; }

    /// <summary>Waits for the daily mail.</summary>
    public bool ForDigest { get; set; }
}

/// <summary>How far a mail is. Kept by name.</summary>
public enum MailState
{
    Waiting,

    /// <summary>Being handed over. If it stays so, the process died: it may have been sent, and is not sent again.</summary>
    Sending,
    Sent,
    Failed,
}

/// <summary>A mail to be sent.</summary>
public sealed class MailRow
{
    public Guid Id { get; set; }

    public required string To { get; set; }

    public required string Subject { get; set; }

    public required string Body { get; set; }

    public DateTime MadeAt { get; set; }

    public DateTime NotBefore { get; set; }

    public int Tries { get; set; }

    public MailState State { get; set; }

    public DateTime? SentAt { get; set; }

    /// <summary>Why the last try failed.</summary>
    public string? Problem { get; set; }

    /// <summary>A PDF that goes with it, until it was sent; <c>null</c> for none.</summary>
    public byte[]? Attachment { get; set; }

    /// <summary>What the PDF is called.</summary>
    public string? AttachmentName { get; set; }
}

/// <summary>A mail that the stand-in for a mail server took.</summary>
public sealed class PostRow
{
    public long Id { get; set; }

    public DateTime At { get; set; }

    public required string To { get; set; }

    public required string Subject { get; set; }

    public required string Body { get; set; }
}

/// <summary>What a project was like when its people were last told about it.</summary>
public sealed class WatchRow
{
    public Guid ProjectId { get; set; }

    public int Version { get; set; }

    public DateOnly Day { get; set; }

    /// <summary>JSON of what is told about each task.</summary>
    public required string Seen { get; set; }
}

/// <summary>How far a proposal is. Kept by name.</summary>
public enum ProposalState
{
    Open,
    Accepted,
    Declined,
    Withdrawn,
}

/// <summary>A change that somebody would like, who may not make it.</summary>
public sealed class ProposalRow
{
    public Guid Id { get; set; }

    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    public DateTime At { get; set; }

    public int BaseVersion { get; set; }

    public required string Edit { get; set; }

    public string? TaskId { get; set; }

    /// <summary>What it would do, in words.</summary>
    public required string Sentence { get; set; }

    /// <summary>Why, in its author's words.</summary>
    public string Note { get; set; } = "";

    public ProposalState State { get; set; }

    public string? DecidedBy { get; set; }

    public DateTime? DecidedAt { get; set; }
}

/// <summary>A page of a plan that is open somewhere.</summary>
public sealed class PresenceRow
{
    /// <summary>Id of its connection.</summary>
    public required string Id { get; set; }

    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    /// <summary>The row its person is on.</summary>
    public string? TaskId { get; set; }

    public DateTime SeenAt { get; set; }
}

/// <summary>The organisation: one row.</summary>
public sealed class OrganisationRow
{
    public int Id { get; set; } = 1;

    public required string Name { get; set; }

    /// <summary>Made up, for trying: anybody may be anybody.</summary>
    public bool IsDemo { get; set; }

    /// <summary>Where its clocks are, as the time zone database names it; <c>null</c> for where the server is.</summary>
    public string? TimeZone { get; set; }

    /// <summary>The currency of all money, as banks write it: EUR.</summary>
    public string Currency { get; set; } = "EUR";

    /// <summary>What an hour of a volunteer is worth, told beside the cost; <c>null</c> where that is not told.</summary>
    public decimal? VolunteerHour { get; set; }

    /// <summary>The day that weeks begin with, where nobody chose another.</summary>
    public DayOfWeek FirstWeekday { get; set; } = DayOfWeek.Monday;

    /// <summary>Id of the ready-made calendar that new projects work by.</summary>
    public string Calendar { get; set; } = "weekdays";

    /// <summary>Id of the public holidays that new projects keep; <c>null</c> for none.</summary>
    public string? Holidays { get; set; }

    /// <summary>Fields that all its projects have, as JSON.</summary>
    public string Fields { get; set; } = "[]";

    /// <summary>A PNG or JPEG picture.</summary>
    public byte[]? Logo { get; set; }

    /// <summary>The last day whose daily mail was written.</summary>
    public DateOnly? DigestOn { get; set; }
}
