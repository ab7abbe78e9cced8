using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>When people are reminded of a task.</summary>
public sealed record SetReminders(string Task, ImmutableArray<Reminder> Reminders) : PlanEdit, IEditKind
{
    public static string Wire => "setReminders";

    public override EditTraits Traits => new(Task, EditField.Reminders, EditRight.Edit);

    public override string Many => "reminders changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        ImmutableArray<Reminder> reminders = Reminders.IsDefaultOrEmpty
            ? []
            : [.. Reminders.Select(r => r with { People = r.People.IsDefault ? [] : [.. r.People.Distinct()] })];
        if (reminders.Length > Reminder.Most)
            throw Refused(task, $"A task has at most {Reminder.Most} reminders.");
        foreach (var reminder in reminders)
        {
            if (reminder.Days is < 0 or > Reminder.MostDays)
                throw Refused(task, $"A reminder comes 0 to {Reminder.MostDays} days before: type a number such as 3.");
            if (!context.IsTakenBack && reminder.People.FirstOrDefault(id => plan.FindPerson(id) is null) is { } unknown)
                throw Refused(task, $"Nobody on this plan has the id “{Typing.LengthText.Shorten(unknown)}”: add the person first.");
        }
        return PlanEditor.Changed(
            plan,
            task with
            {
                Reminders = reminders,
            },
            this with
            {
                Reminders = reminders,
            },
            this with
            {
                Reminders = task.Reminders,
            },
            EditField.Reminders
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        Reminders.IsEmpty
            ? [Called(after, Task), new(" has no reminders now.")]
            : [new("Reminders of "), Called(after, Task), new($": {ListText.Listed([.. Reminders.Select(r => r.InWords())])}.")];

    public static PlanEdit Sample(EditSampler from) =>
        new SetReminders(
            from.Any,
            from.Flip ? [] : [new(from.Random.Next(5), from.Flip ? TaskEnd.Start : TaskEnd.Finish, from.Flip ? [] : ["ann"])]
        );

    private static EditRefusedException Refused(PlanTask task, string why) => new("reminders", why, task.Id, EditField.Reminders);
}
