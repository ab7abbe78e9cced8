using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Who owns a task, and who is on the plan.</summary>
internal static class PeopleEdits
{
    private const int LongestName = 80;
    private const int MostPeople = 2_000;
    private const int MostInitials = 16;
    private const int LongestEmail = 200;

    public static AppliedEdit SetOwner(Plan plan, SetOwner edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var typed = (edit.Owner ?? "").Trim();
        var helpers = task.Assignments.Skip(1);
        if (typed.Length == 0) return SetAssignments(plan, new SetAssignments(task.Id, [.. helpers]));
        var person = PersonText.Find(plan.People, typed);
        var joins = person is null;
        person ??= PersonText.Find(context.Directory, typed) ?? NewPerson(plan, context.Directory, typed, task.Id);
        var share = task.Assignments.IsEmpty ? 1 : task.Assignments[0].Share;
        var assign = new SetAssignments(task.Id, [new Assignment(person.Id, share), .. helpers.Where(h => h.Person != person.Id)]);
        return joins ? PlanEditor.ApplyAll(plan, [new JoinPlan(person), assign], context) : SetAssignments(plan, assign);
    }

    public static AppliedEdit SetAssignments(Plan plan, SetAssignments edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Assignments.FirstOrDefault(a => plan.FindPerson(a.Person) is null) is { Person: { } unknown })
            throw new EditRefusedException("unknownPerson", $"Nobody on this plan has the id “{unknown}”.", task.Id, EditField.Owner);
        if (edit.Assignments.Any(a => a.Share is <= 0 or > 1))
            throw new EditRefusedException("share", "A share of a person's time is above 0 and at most 1.", task.Id, EditField.Owner);
        if (edit.Assignments.DistinctBy(a => a.Person).Count() < edit.Assignments.Length)
            throw new EditRefusedException("duplicatePerson", "Each person can be named once on a task.", task.Id, EditField.Owner);
        return PlanEditor.Changed(plan, task with { Assignments = edit.Assignments }, edit, edit with { Assignments = task.Assignments }, EditField.Owner);
    }

    public static AppliedEdit Join(Plan plan, JoinPlan edit)
    {
        if (plan.FindPerson(edit.Person.Id) is not null) throw new EditRefusedException("duplicatePerson", $"{edit.Person.Name} is on this plan already.");
        if (plan.People.Length >= MostPeople) throw new EditRefusedException("tooMany", $"A plan holds at most {MostPeople:N0} people.");
        if (!PlanIds.IsId(edit.Person.Id)) throw new EditRefusedException("id", "A person's id is 1 to 64 letters, digits, “-” or “_”.");
        CheckName(edit.Person.Name, null);
        if (edit.Person.Initials.Length > MostInitials || edit.Person.Initials.Any(char.IsControl) || edit.Person.Email is { } email && (email.Length > LongestEmail || email.Any(char.IsControl)))
            throw new EditRefusedException("person", $"Initials have at most {MostInitials} characters and an address at most {LongestEmail}.");
        // Their calendar is one of another plan's, so here they work by the project's.
        var person = edit.Person with { Calendar = edit.Person.Calendar is { } c && plan.CalendarBook.Find(c) is not null ? c : null };
        var people = plan.People.Insert(Math.Clamp(edit.Position ?? int.MaxValue, 0, plan.People.Length), person);
        return new AppliedEdit(plan with { People = people }, edit with { Person = person }, new LeavePlan(person.Id), []);
    }

    public static AppliedEdit SetCalendar(Plan plan, SetPersonCalendar edit)
    {
        var person = plan.FindPerson(edit.Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        CalendarEdits.CheckKnown(plan, edit.Calendar, null, EditField.People);
        var people = plan.People.Replace(person, person with { Calendar = edit.Calendar });
        return new AppliedEdit(plan with { People = people }, edit, edit with { Calendar = person.Calendar }, [new Touch(null, EditField.People)]);
    }

    public static AppliedEdit Leave(Plan plan, LeavePlan edit)
    {
        var person = plan.FindPerson(edit.Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        // Somebody else may have given them a task since; then they stay.
        var stays = plan.Tasks.Any(t => t.Assignments.Any(a => a.Person == person.Id));
        return stays
            ? new AppliedEdit(plan, edit, new Together([]), [])
            : new AppliedEdit(plan with { People = plan.People.Remove(person) }, edit, new JoinPlan(person, plan.People.IndexOf(person)), []);
    }

    private static Person NewPerson(Plan plan, IReadOnlyList<Person> directory, string name, string task)
    {
        CheckName(name, task);
        var taken = plan.People.Concat(directory).Select(p => p.Id).ToHashSet();
        return new Person(FreeId(name, taken), name, PlanIds.InitialsOf(name));
    }

    private static void CheckName(string name, string? task)
    {
        if (name.Length > LongestName)
            throw new EditRefusedException("name", $"This name has {name.Length:N0} characters: shorten it to {LongestName} or fewer.", task, EditField.Owner);
        if (name.Any(char.IsControl) || !name.Any(char.IsLetterOrDigit))
            throw new EditRefusedException("name", "An owner is a person: type their name in one line.", task, EditField.Owner);
    }

    private static string FreeId(string name, HashSet<string> taken)
    {
        var letters = name.ToLowerInvariant()
            .Where(c => char.IsAsciiLetterOrDigit(c) || c == ' ').Select(c => c == ' ' ? '-' : c);
        var stem = string.Concat(letters).Trim('-');
        stem = stem.Length == 0 ? "person" : stem[..Math.Min(stem.Length, 40)];
        return Enumerable.Range(1, int.MaxValue).Select(n => n == 1 ? stem : $"{stem}-{n}").First(id => !taken.Contains(id));
    }
}
