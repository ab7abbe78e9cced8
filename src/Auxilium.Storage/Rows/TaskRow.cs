using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>A task as the table <c>tasks</c> keeps it.</summary>
public sealed class TaskRow
{
    public Guid PlanId { get; set; }

    public required string Id { get; set; }

    /// <summary>Orders the rows of a project; gaps are left so that most moves write one row.</summary>
    public long Rank { get; set; }

    public string? Parent { get; set; }

    public required string Name { get; set; }

    public required string Length { get; set; }

    public bool Tentative { get; set; }

    public bool Milestone { get; set; }

    public bool AroundTheClock { get; set; }

    public string? Calendar { get; set; }

    public bool Active { get; set; } = true;

    /// <summary>Low, likely and high, with spaces between.</summary>
    public string? Estimate { get; set; }

    public DateTime? Deadline { get; set; }

    /// <summary>Pauses as <c>after:for</c>, with spaces between.</summary>
    public string Splits { get; set; } = "";

    public string? Remaining { get; set; }

    public DateTime? PinnedStart { get; set; }

    public DateTime? PinnedFinish { get; set; }

    public ConstraintKind? ConstraintKind { get; set; }

    public DateTime? ConstraintDate { get; set; }

    public decimal Progress { get; set; }

    public DateTime? ActualStart { get; set; }

    public DateTime? ActualFinish { get; set; }

    public string Note { get; set; } = "";

    public MoreHands? Hands { get; set; }

    /// <summary>Steps as JSON.</summary>
    public string Checklist { get; set; } = "[]";

    /// <summary>Pages and addresses as JSON.</summary>
    public string WebReferences { get; set; } = "[]";

    /// <summary>The rule of a task that repeats, as JSON.</summary>
    public string? Repeats { get; set; }

    /// <summary>
    /// What else is known of a task, and no query filters by, as JSON: a <see cref="TaskFactsRow"/>; <c>null</c> for nothing.
    /// </summary>
    public string? Facts { get; set; }

    /// <summary>The owner first, then the helpers, as JSON.</summary>
    public required string Assignments { get; set; }
}

/// <summary>
/// Facts of a task that lie together in one column, plain ones by their names: another one needs no change of the database.
/// </summary>
internal sealed record TaskFactsRow : IHasFacts
{
    private static readonly JsonSerializerOptions Short = new()
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { FactFields.ToldBesideOthers } },
    };

    /// <summary>The day of its rule that it is the occurrence of.</summary>
    public DateOnly? Occurrence { get; init; }

    /// <summary>How far it was before it was done.</summary>
    public TrackedBefore? Before { get; init; }

    /// <summary>What a milestone took before it became one.</summary>
    public TypedLength? LengthBefore { get; init; }

    /// <summary>Work of all its people together, where somebody has said.</summary>
    public Length? Effort { get; init; }

    /// <summary>When people are reminded of it; <c>null</c> for never.</summary>
    public ImmutableArray<Reminder>? Reminders { get; init; }

    /// <summary>Where levelling set it.</summary>
    public PlanTime? DelayedUntil { get; init; }

    public FactValues Facts { get; init; } = FactValues.None;

    public static string? Write(PlanTask task) =>
        task
            is {
                Occurrence: null,
                Before: null,
                LengthBefore: null,
                Effort: null,
                DelayedUntil: null,
                Reminders.IsEmpty: true,
                Facts.IsEmpty: true
            }
            ? null
            : JsonSerializer.Serialize(
                new TaskFactsRow
                {
                    Occurrence = task.Occurrence,
                    Before = task.Before,
                    LengthBefore = task.LengthBefore,
                    Effort = task.Effort,
                    DelayedUntil = task.DelayedUntil,
                    Reminders = task.Reminders.IsEmpty ? null : task.Reminders,
                    Facts = task.Facts,
                },
                Short
            );

    public static TaskFactsRow Read(string json) => JsonSerializer.Deserialize<TaskFactsRow>(json, Short)!;
}
