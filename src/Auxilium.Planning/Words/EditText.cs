using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Words;

/// <summary>Words that the sentences of edits are made of.</summary>
internal static class EditText
{
    /// <summary>Of several edits made together, one may remove what another speaks of.</summary>
    public static TextRun Called(Schedule schedule, string task) =>
        new(schedule.Plan.Find(task) is { } found ? LengthText.Shorten(found.Name) : "a row that is gone", true);

    public static TextRun PersonCalled(Schedule before, Schedule after, string id) =>
        new((after.Plan.FindPerson(id) ?? before.Plan.FindPerson(id))?.Name ?? id, true);

    public static TextRun CalendarCalled(Schedule before, Schedule after, string id) =>
        new((after.Plan.CalendarBook.Find(id) ?? before.Plan.CalendarBook.Find(id))?.Name ?? id, true);
}
