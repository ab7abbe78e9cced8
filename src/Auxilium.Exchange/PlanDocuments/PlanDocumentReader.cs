using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>
/// Reads <c>auxilium-plan/1</c> strictly: everything that is wrong is an error with its JSON path, and nothing is guessed.
/// </summary>
public static class PlanDocumentReader
{
    /// <summary>The format's name.</summary>
    public const string Format = "auxilium-plan/1";

    private const int MostPeople = 2_000;

    /// <exception cref="UnreadableDocumentException">Anything in it is wrong.</exception>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static Plan Read(ReadOnlyMemory<byte> utf8, CancellationToken cancel = default) => ReadWhole(utf8, cancel).Plan;

    /// <summary>The plan, and what lies beside it.</summary>
    /// <inheritdoc cref="Read(ReadOnlyMemory{byte}, CancellationToken)"/>
    public static PlanDocument ReadWhole(ReadOnlyMemory<byte> utf8, CancellationToken cancel = default)
    {
        using var document = StrictJson.Parse(utf8);
        try
        {
            return Read(document.RootElement, cancel);
        }
        catch (InvalidOperationException)
        {
            // The JSON parser leaves this one check to whoever asks for the text.
            throw new UnreadableDocumentException([
                new DocumentError("$", "json", "A text in this document is not valid Unicode: half of a character pair is missing."),
            ]);
        }
    }

    /// <summary>Whether a file is meant to be a plan document, sound or not.</summary>
    public static bool IsLikelyOne(ReadOnlySpan<byte> content) =>
        content.TrimStart(" \t\r\n\uFEFF"u8).StartsWith("{"u8)
        && content[..Math.Min(content.Length, 4096)].IndexOf("auxilium-plan/"u8) >= 0;

    private static PlanDocument Read(JsonElement root, CancellationToken cancel)
    {
        if (root.ValueKind != JsonValueKind.Object)
            throw new UnreadableDocumentException([new DocumentError("$", "type", "A plan document is a JSON object.")]);
        var errors = new ErrorList();
        var at = new JsonObjectReader(root, "$", errors);
        if (at.RequiredText("format", 40) is { Length: > 0 } format && format != Format)
            at.Error("format", "format", $"The format “{format}” is not known here: it must be “{Format}”.");
        var calendars = CalendarReader.Read(at, errors);
        var ids = calendars.Select(c => c.Id).ToHashSet();
        var money = new MoneyReader();
        var people = ReadPeople(at, ids, money);
        var baselines = BaselineReader.Read(at);
        var project = ProjectReader.Read(at, ids, people, [.. baselines.Select(b => b.Baseline.Id)], money, errors);
        var tasks = new TaskReader(errors, ids, [.. people.Select(p => p.Id)], project.Settings, money).Read(at);
        HashSet<string> taskIds = [.. tasks.Select(t => t.Task.Id)];
        var links = LinkReader.Read(at, taskIds, project.Settings.Units);
        var hours = HoursReader.Read(at, taskIds, [.. people.Select(p => p.Id)]);
        at.Done();
        errors.ThrowIfAny();

        var plan = new Plan
        {
            Project = project.Settings,
            Calendars = calendars,
            People = people,
            Tasks = [.. tasks.Select(t => t.Task)],
            Links = links,
        };
        if (PlanCost.WhyTooMuch(plan) is { } why)
        {
            errors.Add("$.calendars", "tooMuch", why);
            errors.ThrowIfAny();
        }
        cancel.ThrowIfCancellationRequested();
        plan = plan with { Project = project.WithDates(plan.ProjectCalendar) };
        plan = plan with { Tasks = [.. tasks.Select(t => t.WithDates(plan))] };
        plan = plan with { Baselines = [.. baselines.Select(b => b.WithDates(plan))] };
        errors.ThrowIfAny();
        CheckSoundness(plan, errors, cancel);
        errors.ThrowIfAny();
        return new PlanDocument(plan, hours, money.Ledger, money.Currency);
    }

    internal static string ReadId(JsonObjectReader at, string field)
    {
        var id = at.RequiredText(field, 64);
        if (id.Length > 0 && !PlanIds.IsId(id))
            at.Error(field, "id", "An id is 1 to 64 letters, digits, “-” or “_”.");
        return id;
    }

    private static ImmutableArray<Person> ReadPeople(JsonObjectReader root, HashSet<string> calendars, MoneyReader money)
    {
        var people = ImmutableArray.CreateBuilder<Person>();
        var ids = new HashSet<string>();
        foreach (var at in root.Objects("people", MostPeople))
        {
            var id = ReadId(at, "id");
            if (!ids.Add(id))
                at.Error("id", "duplicateId", $"There are two people with the id “{id}”.");
            var name = at.RequiredText("name", 80);
            var initials = at.Text("initials", 4) ?? PlanIds.InitialsOf(name);
            var calendar = at.Text("calendar", 64);
            if (calendar is not null && !calendars.Contains(calendar))
                at.Error("calendar", "unknownId", $"There is no calendar with the id “{calendar}”.");
            var person = new Person(id, name, initials, at.Text("email", PersonText.LongestMail), calendar)
            {
                Available = AvailabilityJson.Read(at),
            };
            money.OfPerson(at, id);
            if (name.Any(char.IsControl))
                at.Error("name", "person", "A name is one line of text: leave out control characters.");
            else if (name.Length > 0 && PersonText.WhyNot(person) is { } why)
                at.Error(PersonText.WhyNot(person with { Email = null }) is null ? "email" : "initials", "person", why);
            people.Add(person);
            at.Done();
        }
        return people.ToImmutable();
    }

    /// <summary>Checks that need the whole document: links that no dates could meet, and circles.</summary>
    private static void CheckSoundness(Plan plan, ErrorList errors, CancellationToken cancel)
    {
        if (LinkRules.FirstRefusal(plan) is var (link, problem))
        {
            errors.Add($"$.links[{link}]", problem.Code, problem.Message, problem.Tasks);
            return;
        }
        try
        {
            Planning.Scheduling.Scheduler.Calculate(plan, cancel);
        }
        catch (UnsoundPlanException unsound)
        {
            foreach (var found in unsound.Problems)
            {
                var path = found.Code == "circle" ? "$.links" : $"$.tasks[{plan.Index.RowOf(found.Tasks[0])}]";
                errors.Add(path, found.Code, found.Message, found.Tasks);
            }
        }
    }
}

/// <summary>A plan document as it was read.</summary>
/// <param name="Hours">Hours that people worked on its tasks.</param>
/// <param name="Ledger">Its money.</param>
/// <param name="Currency">What its amounts are in, where that is said: nothing is converted.</param>
public sealed record PlanDocument(Plan Plan, ImmutableArray<WorkedHours> Hours, Ledger Ledger, string? Currency)
{
    /// <summary>Whether there is money in it: it is brought in only by those who may have it.</summary>
    public bool HasMoney => !Ledger.IsEmpty || Plan.Baselines.Any(baseline => baseline.Rows.Any(row => row.Cost != PlannedCost.None));
}
