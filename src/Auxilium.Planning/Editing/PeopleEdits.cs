using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.PeopleEdits;
using static Auxilium.Planning.Words.EditText;
using static Auxilium.Planning.Words.ListText;

namespace Auxilium.Planning.Editing;

/// <summary>
/// Names the owner as typed: the name, initials or id of a known person, or the name of a new one; empty for nobody. Of several, with
/// commas between them, the first owns the task and the others help.
/// </summary>
public sealed record SetOwner(string Task, string? Owner) : UndecidedEdit, IEditKind
{
    public static string Wire => "setOwner";

    public override EditTraits Traits => new(Task, EditField.Owner, EditRight.Edit, EditNeeds.Names);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var typed = (Owner ?? "").Trim();
        var helpers = task.Assignments.Skip(1);
        if (typed.Length == 0)
            return new SetAssignments(task.Id, [.. helpers]).Apply(plan, context);
        var named = NamesOf(plan, context, typed)
            .Select(name => Named(plan, context, name, task.Id))
            .DistinctBy(n => n.Person.Id)
            .ToList();
        var part = task.Assignments.IsEmpty ? new Assignment("", 1) : task.Assignments[0];
        var owner = part with { Person = named[0].Person.Id };
        var others = helpers
            .Concat(named.Skip(1).Select(n => new Assignment(n.Person.Id, 1)))
            .Where(h => h.Person != owner.Person)
            .DistinctBy(h => h.Person);
        return Assign(plan, named, new SetAssignments(task.Id, [owner, .. others]), context);
    }

    public static PlanEdit Sample(EditSampler from) =>
        new SetOwner(
            from.Any,
            from.Random.Next(4) switch
            {
                0 => "Ann",
                1 => "Somebody New",
                2 => "Bo, Ann",
                _ => "",
            }
        );
}

/// <summary>
/// Exactly these people, the owner first. Where more hands make the work shorter, the length follows from how many they are; with a
/// length it is that, and <paramref name="Hands"/> is exactly what is given.
/// </summary>
/// <param name="Hands">What more hands do from now on; as it was when left out.</param>
public sealed record SetAssignments(string Task, ImmutableArray<Assignment> Assignments, MoreHands? Hands = null, Length? Length = null)
    : PlanEdit,
        IEditKind
{
    public static string Wire => "setAssignments";

    public override EditTraits Traits => new(Task, EditField.Owner, EditRight.Edit, EditNeeds.Left);

    public override string Many => "owners or helpers changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Assignments.FirstOrDefault(a => plan.FindPerson(a.Person) is null) is { Person: { } unknown })
            throw new EditRefusedException("unknownPerson", $"Nobody on this plan has the id “{unknown}”.", task.Id, EditField.Owner);
        if (
            context.Left?.FirstOrDefault(p => Assignments.Any(a => a.Person == p.Id) && task.Assignments.All(a => a.Person != p.Id)) is
            { } gone
        )
            throw HasLeft(gone, task.Id);
        if (Assignments.Any(a => a.Share is <= 0 or > 1))
            throw new EditRefusedException("share", "A share of a person's time is above 0 and at most 1.", task.Id, EditField.Owner);
        if (Assignments.DistinctBy(a => a.Person).Count() < Assignments.Length)
            throw new EditRefusedException("duplicatePerson", "Each person can be named once on a task.", task.Id, EditField.Owner);
        // With a length it is decided already, as when an edit is taken back.
        if (Length is { } length && LengthText.WhyUnusable(length, plan.Project.Units) is { } why)
            throw new EditRefusedException("length", why, task.Id, EditField.Length);
        var after = Length is { } given
            ? task with
            {
                Assignments = Assignments,
                Hands = Hands,
                Length = given,
            }
            : WithHands(plan, task with { Assignments = Assignments, Hands = Hands ?? task.Hands }, task.People);
        if (after.Hands == task.Hands && after.Length == task.Length)
            return PlanEditor.Changed(
                plan,
                after,
                this with
                {
                    Hands = null,
                    Length = null,
                },
                new SetAssignments(task.Id, task.Assignments),
                EditField.Owner
            );
        var decided = new SetAssignments(task.Id, after.Assignments, after.Hands, after.Length);
        var inverse = new SetAssignments(task.Id, task.Assignments, task.Hands, task.Length);
        Touch[] touched =
            after.Length == task.Length
                ? [new(task.Id, EditField.Owner)]
                : [new(task.Id, EditField.Owner), new(task.Id, EditField.Length)];
        return new AppliedEdit(PlanEditor.Replace(plan, after), decided, inverse, touched);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), .. PeopleSaid(before, after, Task), .. HandsSaid(Task, before, after)];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetAssignments s && s.Assignments.FirstOrDefault() == Assignments.FirstOrDefault())
            ? after.Plan.FindPerson(Assignments.FirstOrDefault().Person) is { } owner
                ? [new(" are now "), new(owner.Name, true), new("’s.")]
                : [new(" have no owner.")]
            : null;

    public static PlanEdit Sample(EditSampler from) =>
        new SetAssignments(from.Any, from.Flip ? [] : [new("bo", 0.5m), new("ann")], from.Hands());
}

/// <summary>Somebody helps, named as an owner is; the first of all becomes the owner.</summary>
/// <param name="Share">Part of their time: above 0, at most 1.</param>
/// <param name="Hands">What more hands do from now on; as it was when left out.</param>
public sealed record AddHelper(string Task, string Helper, decimal Share = 1, MoreHands? Hands = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "addHelper";

    public override EditTraits Traits => new(Task, EditField.Owner, EditRight.Edit, EditNeeds.Names);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var typed = Helper.Trim();
        if (typed.Length == 0)
            throw new EditRefusedException("name", "Who helps? Type a name.", task.Id, EditField.Owner);
        var named = NamesOf(plan, context, typed)
            .Select(name => Named(plan, context, name, task.Id))
            .DistinctBy(n => n.Person.Id)
            .ToList();
        if (named.FirstOrDefault(n => task.Assignments.Any(a => a.Person == n.Person.Id)).Person is { } known)
            throw new EditRefusedException(
                "duplicatePerson",
                $"{known.Name} is on this task already: change their share instead.",
                task.Id,
                EditField.Owner
            );
        var assign = new SetAssignments(task.Id, [.. task.Assignments, .. named.Select(n => new Assignment(n.Person.Id, Share))], Hands);
        return Assign(plan, named, assign, context);
    }

    public static PlanEdit Sample(EditSampler from) =>
        new AddHelper(from.Any, from.Flip ? "Bo" : "Somebody New", from.Random.Next(1, 5) / 4m, from.Hands());
}

/// <summary>
/// A person's own week and days off, on top of the calendar they work by; none when <paramref name="Time"/> is left out.
/// </summary>
/// <param name="Time">Its id, name and base are of no account.</param>
public sealed record SetOwnTime(string Person, WorkCalendar? Time = null) : PlanEdit, IEditKind
{
    public static string Wire => "setOwnTime";

    public override EditTraits Traits => new(null, EditField.People, EditRight.People);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var person = plan.FindPerson(Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        var id = OwnCalendarOf(person.Id);
        var own = person.Calendar == id ? plan.CalendarBook.Find(id) : null;
        var under = own is null ? person.Calendar ?? plan.Project.Calendar : own.Base;
        if (Time is not { } time)
            return (
                own is null
                    ? PlanEditor.ApplyAll(plan, [], context)
                    : PlanEditor.ApplyAll(
                        plan,
                        [new SetPersonCalendar(person.Id, under == plan.Project.Calendar ? null : under), new RemoveCalendar(id)],
                        context
                    )
            ) with
            {
                Edit = this,
            };
        var name = $"{LengthText.Shorten(person.Name)}’s time";
        var calendar = time with
        {
            Id = id,
            Name = plan.Calendars.Any(c => c.Id != id && c.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
                ? $"{name} ({person.Id})"
                : name,
            Base = under,
            // Without a calendar to build on, the days that are not said are those of everybody.
            Week = under is null ? [.. time.Week.Select((day, i) => day ?? WorkCalendar.Weekdays.Week[i])] : time.Week,
        };
        return PlanEditor.ApplyAll(plan, [new SaveCalendar(calendar), new SetPersonCalendar(person.Id, id)], context) with { Edit = this };
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [PersonCalled(before, after, Person), new(OwnTime(this, before))];

    public static PlanEdit Sample(EditSampler from) =>
        new SetOwnTime(
            "bo",
            from.Random.Next(3) == 0
                ? null
                : new WorkCalendar
                {
                    Id = "x",
                    Name = "X",
                    Week = [null, null, null, from.Flip ? [] : null, null, null, null],
                    Exceptions = [new CalendarOverride(new(2027, 5, 4), new(2027, 5, 6), "Away", [])],
                }
        );
}

/// <param name="Person">Somebody on the plan; <c>null</c> for nobody.</param>
public sealed record SetCoordinator(string? Person) : PlanEdit, IEditKind
{
    public static string Wire => "setCoordinator";

    public override EditTraits Traits => new(null, EditField.Coordinator, EditRight.People);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Person is not null && plan.FindPerson(Person) is null)
            throw new EditRefusedException(
                "unknownPerson",
                "That person is not on this plan: take them in first.",
                null,
                EditField.Coordinator
            );
        var after = plan with { Project = plan.Project with { Coordinator = Person } };
        return new AppliedEdit(after, this, new SetCoordinator(plan.Project.Coordinator), [new Touch(null, EditField.Coordinator)]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Person: null } => [new("Nobody coordinates the project now.")],
            _ => [PersonCalled(before, after, Person!), new(" coordinates the project now.")],
        };

    public static PlanEdit Sample(EditSampler from) => new SetCoordinator(from.Flip ? null : "bo");
}

/// <param name="Position">Where the person stands among those on the plan; at the end when left out.</param>
/// <param name="New">Whether the organisation did not know them before; decided when it is applied.</param>
/// <param name="Like">Who of the organisation has nearly the same name, of somebody new; decided when it is applied.</param>
public sealed record JoinPlan(Person Person, int? Position = null, bool New = false, string? Like = null) : PlanEdit, IEditKind
{
    public static string Wire => "joinPlan";

    public override EditTraits Traits => new(null, EditField.None, EditRight.People, EditNeeds.Names);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (plan.FindPerson(Person.Id) is not null)
            throw new EditRefusedException("duplicatePerson", $"{Person.Name} is on this plan already.");
        if (plan.People.Length >= MostPeople)
            throw new EditRefusedException("tooMany", $"A plan holds at most {MostPeople:N0} people.");
        if (!PlanIds.IsId(Person.Id))
            throw new EditRefusedException("id", "A person's id is 1 to 64 letters, digits, “-” or “_”.");
        if (context.Left?.FirstOrDefault(p => p.Id == Person.Id) is { } gone)
            throw new EditRefusedException("left", $"{gone.Name} has left: an organiser can bring them back.");
        var known = context.Directory.FirstOrDefault(p => p.Id == Person.Id);
        if (known is not null && !context.IsTakenBack && !known.Name.Equals(Person.Name, StringComparison.OrdinalIgnoreCase))
            throw new EditRefusedException(
                "personClash",
                $"The id “{known.Id}” is {known.Name}’s here: give this person another id, or {known.Name}’s name."
            );
        CheckName(Person.Name, null);
        if (PersonText.WhyNot(Person) is { } why)
            throw new EditRefusedException("person", why);
        // Somebody the organisation knows is as it knows them. Their calendar is one of another plan's, so here they work by the
        // project's.
        var person = (known ?? Person) with { Calendar = Person.Calendar is { } c && plan.CalendarBook.Find(c) is not null ? c : null };
        var people = plan.People.Insert(Math.Clamp(Position ?? int.MaxValue, 0, plan.People.Length), person);
        var like = known is null ? PersonText.Nearest(plan.People.Concat(context.Directory), person.Name)?.Name : null;
        return new AppliedEdit(
            plan with
            {
                People = people,
            },
            this with
            {
                Person = person,
                New = known is null,
                Like = like,
            },
            new LeavePlan(person.Id),
            []
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { New: true, Like: { } like } =>
            [
                new(Person.Name, true),
                new(" is new here and joined the plan. Did you mean "),
                new(like, true),
                new("?"),
            ],
            _ => [new(Person.Name, true), new(New ? " is new here and joined the plan." : " joined the plan.")],
        };

    public static PlanEdit Sample(EditSampler from) =>
        new JoinPlan(new Person("jo", "Jo", "J", "jo@tidewell.example"), from.Flip ? 0 : null);
}

/// <summary>Takes a person off the plan, unless something is still assigned to them.</summary>
public sealed record LeavePlan(string Person) : PlanEdit, IEditKind
{
    public static string Wire => "leavePlan";

    public override EditTraits Traits => new(null, EditField.None, EditRight.People);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var person = plan.FindPerson(Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        // Somebody else may have given them a task since; then they stay.
        var stays = plan.Tasks.Any(t => t.Assignments.Any(a => a.Person == person.Id));
        return stays
            ? new AppliedEdit(plan, this, new Together([]), [])
            : new AppliedEdit(
                plan with
                {
                    People = plan.People.Remove(person),
                },
                this,
                new JoinPlan(person, plan.People.IndexOf(person)),
                []
            );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        before.Plan.FindPerson(Person) is { } gone ? [new(gone.Name, true), new(" left the plan.")] : [];

    public static PlanEdit Sample(EditSampler from) =>
        from.On(from.Plan with { People = from.Plan.People.Add(new Person("lo", "Lo", "L")) }, new LeavePlan("lo"));
}

/// <summary>The calendar a person works by on this plan; <c>null</c> for the project's.</summary>
public sealed record SetPersonCalendar(string Person, string? Calendar) : PlanEdit, IEditKind
{
    public static string Wire => "setPersonCalendar";

    public override EditTraits Traits => new(null, EditField.People, EditRight.People);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var person = plan.FindPerson(Person) ?? throw new EditRefusedException("unknownPerson", "That person is not on this plan.");
        CalendarEdits.CheckKnown(plan, Calendar, null, EditField.People);
        var people = plan.People.Replace(person, person with { Calendar = Calendar });
        return new AppliedEdit(
            plan with
            {
                People = people,
            },
            this,
            this with
            {
                Calendar = person.Calendar,
            },
            [new Touch(null, EditField.People)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            PersonCalled(before, after, Person),
            new(
                $" works by {(Calendar is { } id ? $"the calendar {CalendarCalled(before, after, id).Text}" : "the project’s calendar")}."
            ),
        ];

    public static PlanEdit Sample(EditSampler from) => new SetPersonCalendar("bo", from.Flip ? "b" : null);
}

/// <summary>Who owns a task, and who is on the plan.</summary>
internal static class PeopleEdits
{
    private const int LongestName = 80;
    internal const int MostPeople = 2_000;

    internal static AppliedEdit Assign(
        Plan plan,
        IReadOnlyList<(Person Person, bool Joins)> named,
        SetAssignments assign,
        EditContext context
    ) =>
        named.Any(n => n.Joins)
            ? PlanEditor.ApplyAll(plan, [.. named.Where(n => n.Joins).Select(n => new JoinPlan(n.Person)), assign], context)
            : assign.Apply(plan, context);

    /// <summary>What was typed, name by name: one that has a comma in it and is somebody's, either way round, is one.</summary>
    internal static string[] NamesOf(Plan plan, EditContext context, string typed)
    {
        var parts = typed.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length < 2 || Known(plan, context, typed) is not null)
            return [typed];
        if (parts is [var last, var first] && Known(plan, context, $"{first} {last}") is { } turned)
            return [turned.Id];
        return parts;
    }

    private static Person? Known(Plan plan, EditContext context, string typed) =>
        PersonText.Find(plan.People, typed) ?? PersonText.Find(context.Directory, typed);

    /// <summary>Who is meant by what was typed: somebody on the plan, else in the directory, else somebody new.</summary>
    internal static (Person Person, bool Joins) Named(Plan plan, EditContext context, string typed, string task)
    {
        if (PersonText.Find(plan.People, typed) is { } here)
            return (here, false);
        if (PersonText.Find(context.Directory, typed) is { } known)
            return (known, true);
        if (PersonText.Find(context.Left ?? [], typed) is { } gone)
            throw HasLeft(gone, task);
        return (NewPerson(plan, context.Directory, typed, task), true);
    }

    internal static EditRefusedException HasLeft(Person person, string task) =>
        new("left", $"{person.Name} has left: choose somebody else, or ask an organiser to bring them back.", task, EditField.Owner);

    /// <summary>The effort of a task that more hands make shorter stays what it was: its length follows.</summary>
    internal static PlanTask WithHands(Plan plan, PlanTask task, decimal peopleBefore)
    {
        var isFixed =
            task.Hands != MoreHands.Shorter
            || peopleBefore == 0
            || task.People == 0
            || peopleBefore == task.People
            || task.Milestone
            || task.Length.IsZero
            || plan.Index.IsPhase(plan.Index.RowOf(task.Id));
        if (isFixed)
            return task;
        // It stays longer than the work before its last pause.
        var least = task.Splits.IsEmpty ? 1 : plan.Project.Units.Minutes(task.Splits[^1].After).Count + 1;
        var minutes = Math.Max(least, (int)Math.Round(plan.LengthOf(task).Count * peopleBefore / task.People));
        return task with { Length = plan.Project.Units.ToLength(new WorkMinutes(minutes)) };
    }

    /// <summary>Id of the calendar that a plan keeps somebody's own time in.</summary>
    internal static string OwnCalendarOf(string person) => "own-" + (person.Length > 60 ? person[..60] : person);

    private static Person NewPerson(Plan plan, IReadOnlyList<Person> directory, string name, string task)
    {
        CheckName(name, task);
        var taken = plan.People.Concat(directory).Select(p => p.Id).ToHashSet();
        return new Person(PlanIds.FreeId(name, taken), name, PlanIds.InitialsOf(name));
    }

    internal static void CheckName(string name, string? task)
    {
        if (name.Length > LongestName)
            throw new EditRefusedException(
                "name",
                $"This name has {name.Length:N0} characters: shorten it to {LongestName} or fewer.",
                task,
                EditField.Owner
            );
        if (name.Any(char.IsControl) || !name.Any(char.IsLetterOrDigit))
            throw new EditRefusedException("name", "An owner is a person: type their name in one line.", task, EditField.Owner);
    }

    /// <summary>What changed: the week somebody works, and the days they are away.</summary>
    internal static string OwnTime(SetOwnTime edit, Schedule before)
    {
        var was = before.Plan.CalendarBook.Find(PeopleEdits.OwnCalendarOf(edit.Person));
        if (edit.Time is not { } now)
            return " works by the calendar of the others.";
        var days = now.Exceptions.Where(e => was?.Exceptions.Any(w => w.From == e.From && w.To == e.To) != true).ToList();
        var back = was?.Exceptions.Where(w => now.Exceptions.All(e => w.From != e.From || w.To != e.To)).ToList() ?? [];
        List<string> said = [];
        if (HasOtherWeek(was, now))
            said.Add(now.Week.All(day => day is null) ? "works the same week as the others" : "has a week of their own");
        if (days.Count > 0)
            said.Add($"is away {Days(days)}");
        if (back.Count > 0)
            said.Add($"is no longer away {Days(back)}");
        return said.Count == 0 ? " has the same week and days off as before." : $" {Listed(said)}.";
    }

    internal static bool HasOtherWeek(WorkCalendar? was, WorkCalendar now) =>
        Enumerable
            .Range(0, now.Week.Length)
            .Any(day =>
                was?.Week[day] is { } before ? now.Week[day] is not { } after || !before.SequenceEqual(after) : now.Week[day] is not null
            );

    internal static string Days(List<CalendarOverride> days) =>
        string.Join(
            ", ",
            days.Take(3).Select(d => d.From == d.To ? $"on {Dates.Day(d.From)}" : $"from {Dates.Day(d.From)} to {Dates.Day(d.To)}")
        ) + (days.Count > 3 ? $" and {days.Count - 3} more times" : "");

    /// <summary>What the hands did to the length.</summary>
    internal static IEnumerable<TextRun> HandsSaid(string task, Schedule before, Schedule after)
    {
        if (before.Plan.Find(task) is not { Length: var was })
            yield break;
        var now = after.Plan.Find(task)!.Length;
        if (before.Plan.Project.Units.Minutes(was) != after.Plan.Project.Units.Minutes(now))
            yield return new($" With {PeopleInWords(after.Plan.Find(task)!.People)} it takes {now.InWords()} instead of {was.InWords()}.");
    }

    internal static string PeopleInWords(decimal people) =>
        people == 1 ? "one person" : string.Create(CultureInfo.InvariantCulture, $"{people:0.##} people");

    /// <summary>Whose a task is now, and who helps or no longer does: what changed, or the owner if nothing did.</summary>
    internal static IEnumerable<TextRun> PeopleSaid(Schedule before, Schedule after, string task)
    {
        var (was, now) = (before.Plan.Find(task)?.Assignments ?? [], after.Plan.Find(task)!.Assignments);
        var plan = after.Plan;
        var owner = plan.FindPerson(now.FirstOrDefault().Person);
        var isSameOwner = was.FirstOrDefault().Person == now.FirstOrDefault().Person;
        var come = now.Skip(1)
            .Where(a => was.All(w => w.Person != a.Person))
            .Select(a => PersonCalled(before, after, a.Person).Text)
            .ToList();
        var gone = was.Skip(1)
            .Where(w => now.All(a => a.Person != w.Person))
            .Select(w => PersonCalled(before, after, w.Person).Text)
            .ToList();
        if (!isSameOwner || come.Count + gone.Count == 0)
        {
            if (owner is null)
                yield return new(" has no owner.");
            else
            {
                yield return new(" is now ");
                yield return new(owner.Name, true);
                yield return new("’s.");
            }
            if (come.Count > 0)
                yield return new($" {Listed(come)} {(come.Count == 1 ? "helps" : "help")}.");
            if (gone.Count > 0)
                yield return new($" {Listed(gone)} no longer {(gone.Count == 1 ? "helps" : "help")}.");
            yield break;
        }
        if (come.Count > 0)
            yield return new($" has help from {Listed(come)}.");
        if (gone.Count > 0)
            yield return new($" no longer has help from {Listed(gone)}.");
    }
}
