using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Who owns a task, and who is on the plan.</summary>
internal static class PeopleEdits
{
    private const int LongestName = 80;
    private const int MostPeople = 2_000;

    public static AppliedEdit SetOwner(Plan plan, SetOwner edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var typed = (edit.Owner ?? "").Trim();
        var helpers = task.Assignments.Skip(1);
        if (typed.Length == 0) return SetAssignments(plan, new SetAssignments(task.Id, [.. helpers]), context);
        var named = NamesOf(plan, context, typed).Select(name => Named(plan, context, name, task.Id)).DistinctBy(n => n.Person.Id).ToList();
        var share = task.Assignments.IsEmpty ? 1 : task.Assignments[0].Share;
        var owner = new Assignment(named[0].Person.Id, share);
        var others = helpers.Concat(named.Skip(1).Select(n => new Assignment(n.Person.Id, 1))).Where(h => h.Person != owner.Person).DistinctBy(h => h.Person);
        return Assign(plan, named, new SetAssignments(task.Id, [owner, .. others]), context);
    }

    public static AppliedEdit AddHelper(Plan plan, AddHelper edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var typed = edit.Helper.Trim();
        if (typed.Length == 0) throw new EditRefusedException("name", "Who helps? Type a name.", task.Id, EditField.Owner);
        var named = NamesOf(plan, context, typed).Select(name => Named(plan, context, name, task.Id)).DistinctBy(n => n.Person.Id).ToList();
        if (named.FirstOrDefault(n => task.Assignments.Any(a => a.Person == n.Person.Id)).Person is { } known) throw new EditRefusedException("duplicatePerson", $"{known.Name} is on this task already: change their share instead.", task.Id, EditField.Owner);
        var assign = new SetAssignments(task.Id, [.. task.Assignments, .. named.Select(n => new Assignment(n.Person.Id, edit.Share))], edit.Hands);
        return Assign(plan, named, assign, context);
    }

    private static AppliedEdit Assign(Plan plan, IReadOnlyList<(Person Person, bool Joins)> named, SetAssignments assign, EditContext context) =>
        named.Any(n => n.Joins)
            ? PlanEditor.ApplyAll(plan, [.. named.Where(n => n.Joins).Select(n => new JoinPlan(n.Person)), assign], context)
            : SetAssignments(plan, assign, context);

    /// <summary>What was typed, name by name: one that has a comma in it and is somebody's, either way round, is one.</summary>
    private static string[] NamesOf(Plan plan, EditContext context, string typed)
    {
        var parts = typed.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length < 2 || Known(plan, context, typed) is not null) return [typed];
        if (parts is [var last, var first] && Known(plan, context, $"{first} {last}") is { } turned) return [turned.Id];
        return parts;
    }

    private static Person? Known(Plan plan, EditContext context, string typed) => PersonText.Find(plan.People, typed) ?? PersonText.Find(context.Directory, typed);

    /// <summary>Who is meant by what was typed: somebody on the plan, else in the directory, else somebody new.</summary>
    private static (Person Person, bool Joins) Named(Plan plan, EditContext context, string typed, string task)
    {
        if (PersonText.Find(plan.People, typed) is { } here) return (here, false);
        if (PersonText.Find(context.Directory, typed) is { } known) return (known, true);
        if (PersonText.Find(context.Left ?? [], typed) is { } gone) throw HasLeft(gone, task);
        return (NewPerson(plan, context.Directory, typed, task), true);
    }

    private static EditRefusedException HasLeft(Person person, string task) =>
        new("left", $"{person.Name} has left: choose somebody else, or ask an organiser to bring them back.", task, EditField.Owner);

    public static AppliedEdit SetAssignments(Plan plan, SetAssignments edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Assignments.FirstOrDefault(a => plan.FindPerson(a.Person) is null) is { Person: { } unknown })
            throw new EditRefusedException("unknownPerson", $"Nobody on this plan has the id “{unknown}”.", task.Id, EditField.Owner);
        if (context.Left?.FirstOrDefault(p => edit.Assignments.Any(a => a.Person == p.Id) && task.Assignments.All(a => a.Person != p.Id)) is { } gone) throw HasLeft(gone, task.Id);
        if (edit.Assignments.Any(a => a.Share is <= 0 or > 1))
            throw new EditRefusedException("share", "A share of a person's time is above 0 and at most 1.", task.Id, EditField.Owner);
        if (edit.Assignments.DistinctBy(a => a.Person).Count() < edit.Assignments.Length)
            throw new EditRefusedException("duplicatePerson", "Each person can be named once on a task.", task.Id, EditField.Owner);
        // With a length it is decided already, as when an edit is taken back.
        if (edit.Length is { } length && LengthText.WhyUnusable(length, plan.Project.Units) is { } why) throw new EditRefusedException("length", why, task.Id, EditField.Length);
        var after = edit.Length is { } given
            ? task with { Assignments = edit.Assignments, Hands = edit.Hands, Length = given }
            : WithHands(plan, task with { Assignments = edit.Assignments, Hands = edit.Hands ?? task.Hands }, task.People);
        if (after.Hands == task.Hands && after.Length == task.Length)
            return PlanEditor.Changed(plan, after, edit with { Hands = null, Length = null }, new SetAssignments(task.Id, task.Assignments), EditField.Owner);
        var decided = new SetAssignments(task.Id, after.Assignments, after.Hands, after.Length);
        var inverse = new SetAssignments(task.Id, task.Assignments, task.Hands, task.Length);
        Touch[] touched = after.Length == task.Length ? [new(task.Id, EditField.Owner)] : [new(task.Id, EditField.Owner), new(task.Id, EditField.Length)];
        return new AppliedEdit(PlanEditor.Replace(plan, after), decided, inverse, touched);
    }

    /// <summary>The effort of a task that more hands make shorter stays what it was: its length follows.</summary>
    private static PlanTask WithHands(Plan plan, PlanTask task, decimal peopleBefore)
    {
        var isFixed = task.Hands != MoreHands.Shorter || peopleBefore == 0 || task.People == 0 || peopleBefore == task.People || task.Milestone || task.Length.IsZero || plan.Index.IsPhase(plan.Index.RowOf(task.Id));
        if (isFixed) return task;
        var minutes = Math.Max(1, (int)Math.Round(plan.LengthOf(task).Count * peopleBefore / task.People));
        return task with { Length = plan.Project.Units.ToLength(new WorkMinutes(minutes)) };
    }

    public static AppliedEdit SetOwnTime(Plan plan, SetOwnTime edit, EditContext context)
    {
        var person = plan.FindPerson(edit.Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        var id = OwnCalendarOf(person.Id);
        var own = person.Calendar == id ? plan.CalendarBook.Find(id) : null;
        var under = own is null ? person.Calendar ?? plan.Project.Calendar : own.Base;
        if (edit.Time is not { } time)
            return (own is null ? PlanEditor.ApplyAll(plan, [], context) : PlanEditor.ApplyAll(plan, [new SetPersonCalendar(person.Id, under == plan.Project.Calendar ? null : under), new RemoveCalendar(id)], context)) with { Edit = edit };
        var name = $"{LengthText.Shorten(person.Name)}’s time";
        var calendar = time with
        {
            Id = id,
            Name = plan.Calendars.Any(c => c.Id != id && c.Name.Equals(name, StringComparison.OrdinalIgnoreCase)) ? $"{name} ({person.Id})" : name,
            Base = under,
            // Without a calendar to build on, the days that are not said are those of everybody.
            Week = under is null ? [.. time.Week.Select((day, i) => day ?? WorkCalendar.Weekdays.Week[i])] : time.Week,
        };
        return PlanEditor.ApplyAll(plan, [new SaveCalendar(calendar), new SetPersonCalendar(person.Id, id)], context) with { Edit = edit };
    }

    public static AppliedEdit SetCoordinator(Plan plan, SetCoordinator edit)
    {
        if (edit.Person is not null && plan.FindPerson(edit.Person) is null) throw new EditRefusedException("unknownPerson", "That person is not on this plan: take them in first.", null, EditField.Coordinator);
        var after = plan with { Project = plan.Project with { Coordinator = edit.Person } };
        return new AppliedEdit(after, edit, new SetCoordinator(plan.Project.Coordinator), [new Touch(null, EditField.Coordinator)]);
    }

    /// <summary>Id of the calendar that a plan keeps somebody's own time in.</summary>
    internal static string OwnCalendarOf(string person) => "own-" + (person.Length > 60 ? person[..60] : person);

    public static AppliedEdit Join(Plan plan, JoinPlan edit, EditContext context)
    {
        if (plan.FindPerson(edit.Person.Id) is not null) throw new EditRefusedException("duplicatePerson", $"{edit.Person.Name} is on this plan already.");
        if (plan.People.Length >= MostPeople) throw new EditRefusedException("tooMany", $"A plan holds at most {MostPeople:N0} people.");
        if (!PlanIds.IsId(edit.Person.Id)) throw new EditRefusedException("id", "A person's id is 1 to 64 letters, digits, “-” or “_”.");
        if (context.Left?.FirstOrDefault(p => p.Id == edit.Person.Id) is { } gone) throw new EditRefusedException("left", $"{gone.Name} has left: an organiser can bring them back.");
        var known = context.Directory.FirstOrDefault(p => p.Id == edit.Person.Id);
        if (known is not null && !context.IsTakenBack && !known.Name.Equals(edit.Person.Name, StringComparison.OrdinalIgnoreCase)) throw new EditRefusedException("personClash", $"The id “{known.Id}” is {known.Name}’s here: give this person another id, or {known.Name}’s name.");
        CheckName(edit.Person.Name, null);
        if (PersonText.WhyNot(edit.Person) is { } why) throw new EditRefusedException("person", why);
        // Somebody the organisation knows is as it knows them. Their calendar is one of another plan's, so here they work by the project's.
        var person = (known ?? edit.Person) with { Calendar = edit.Person.Calendar is { } c && plan.CalendarBook.Find(c) is not null ? c : null };
        var people = plan.People.Insert(Math.Clamp(edit.Position ?? int.MaxValue, 0, plan.People.Length), person);
        var like = known is null ? PersonText.Nearest(plan.People.Concat(context.Directory), person.Name)?.Name : null;
        return new AppliedEdit(plan with { People = people }, edit with { Person = person, New = known is null, Like = like }, new LeavePlan(person.Id), []);
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
        return new Person(PlanIds.FreeId(name, taken), name, PlanIds.InitialsOf(name));
    }

    private static void CheckName(string name, string? task)
    {
        if (name.Length > LongestName)
            throw new EditRefusedException("name", $"This name has {name.Length:N0} characters: shorten it to {LongestName} or fewer.", task, EditField.Owner);
        if (name.Any(char.IsControl) || !name.Any(char.IsLetterOrDigit))
            throw new EditRefusedException("name", "An owner is a person: type their name in one line.", task, EditField.Owner);
    }
}
