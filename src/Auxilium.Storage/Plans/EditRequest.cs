using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Storage.Plans;

/// <summary>Which of a person's own edits to take back.</summary>
public enum TakeBack
{
    /// <summary>The last one that still stands.</summary>
    LastEdit,

    /// <summary>The last taking back: the edit is done again.</summary>
    LastTakeBack,

    /// <summary>One entry of the journal, whoever made it.</summary>
    Entry,
}

/// <summary>Somebody wants a plan changed.</summary>
/// <param name="EditId">Made by the client; the same id is never applied twice.</param>
/// <param name="BaseVersion">The version of the plan that its author saw.</param>
/// <param name="Edit">The edit, or <c>null</c> when <paramref name="TakeBack"/> says which one to take back.</param>
/// <param name="Person">Id of its author.</param>
/// <param name="SeenVersion">The version that its author saw when they began to type it, where that is an older one.</param>
/// <param name="Own">Ids of edits that its author made meanwhile on the same page: those they know of.</param>
/// <param name="Entry">Which entry of the journal to take back, with <see cref="TakeBack.Entry"/>.</param>
/// <param name="Allows">Whether its author may make an edit on the plan as it is then, be it new or one that is taken back; <c>null</c>
/// where they may make all.</param>
/// <param name="Overrule">Its author has seen what somebody else changed meanwhile, and wants this all the same.</param>
public sealed record EditRequest(
    Guid EditId,
    int BaseVersion,
    PlanEdit? Edit,
    TakeBack? TakeBack,
    string Person,
    bool Overrule = false,
    long? Entry = null,
    int? SeenVersion = null,
    IReadOnlyList<Guid>? Own = null,
    Func<PlanEdit, Plan, bool>? Allows = null
)
{
    /// <summary>What is done in the same transaction, once the edit is written; where it answers <c>false</c>, neither is done.</summary>
    public Func<AuxiliumDb, CancellationToken, Task<bool>>? Within { get; init; }
}

/// <summary>What became of a request.</summary>
public abstract record EditOutcome;

/// <summary>The plan has a new version.</summary>
/// <param name="Edited">What changed and what followed; <c>null</c> when the same edit had been applied before.</param>
public sealed record EditCommitted(StoredPlan Before, StoredPlan After, EditedPlan? Edited, ImmutableArray<TextRun> Sentence)
    : EditOutcome;

/// <summary>The edit that made a version of a plan, whoever made it, and what one person can take back.</summary>
/// <param name="Did">What it did; <c>null</c> before the first edit.</param>
public sealed record LastEdit(EditRecord? Did, bool CanUndo, bool CanRedo);

/// <summary>Edits as others are told of them: the last in words.</summary>
/// <param name="Moved">How many tasks it moved.</param>
/// <param name="Edits">Ids of all of them.</param>
public sealed record ToldEdit(string PersonId, string Name, ImmutableArray<TextRun> Sentence, int Moved, IReadOnlyList<Guid> Edits);

/// <summary>What an edit did, from the journal.</summary>
/// <param name="NewWarnings">What it broke, in sentences.</param>
/// <param name="GoneWarnings">What it mended.</param>
/// <param name="Path">Ids of the tasks that set the finish after it.</param>
public sealed record EditRecord(
    ImmutableArray<TextRun> Sentence,
    PlanTime FinishBefore,
    PlanTime FinishAfter,
    IReadOnlyList<Move> Moves,
    IReadOnlyList<string> NewWarnings,
    IReadOnlyList<string> GoneWarnings,
    IReadOnlyList<DeadlineChange> Deadlines,
    IReadOnlyList<string> Path,
    bool PathChanged
);

/// <summary>One edit as the journal lists it.</summary>
/// <param name="At">UTC.</param>
/// <param name="Version">The version of the plan that it made.</param>
/// <param name="Moved">How many tasks moved.</param>
/// <param name="TakesBack">The entry that it takes back, if it does.</param>
/// <param name="Stands">Whether it has not been taken back.</param>
public sealed record JournalEntry(
    long Id,
    DateTime At,
    int Version,
    string PersonId,
    string Person,
    ImmutableArray<TextRun> Sentence,
    int Moved,
    PlanTime FinishBefore,
    PlanTime FinishAfter,
    long? TakesBack,
    bool Stands
);

/// <summary>Somebody else changed the same thing meanwhile; nothing was done.</summary>
/// <param name="Theirs">What it is now.</param>
/// <param name="Yours">What it would become.</param>
/// <param name="IsOwn">Whether whoever makes the edit changed it themselves, on another page.</param>
public sealed record EditConflict(StoredPlan Current, Touch Touch, string By, bool IsOwn, string Theirs, string Yours) : EditOutcome;

/// <summary>What was to be done with the edit could not be, so that neither was.</summary>
public sealed record NotDecided : EditOutcome;

/// <summary>There is nothing of this person's to take back, or to do again.</summary>
public sealed record NothingToTakeBack : EditOutcome;

/// <summary>Its author may not make this edit.</summary>
public sealed record EditNotAllowed : EditOutcome;

/// <summary>There is no such project.</summary>
public sealed record NoSuchProject : EditOutcome;
