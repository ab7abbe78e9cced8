using System.Globalization;
using Auxilium.Exchange;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Week;

/// <summary>One's own tasks by day, made for a phone; and for whoever coordinates, those of a person or a team, to hand out.</summary>
[Authorize(Rights.OwnAccount)]
[RequestSizeLimit(64 * 1024)]
public sealed class WeekModel(
    AcrossPlans across,
    ProjectRoles roles,
    Storage.People.Directory directory,
    Organisation organisation,
    Letters letters,
    OwnAddress address,
    OrganisationClock clock,
    Today today
) : FormPage
{
    private const string TeamMark = "team:";

    // No id of a person has a colon.
    private const string Nobody = ":nobody";
    private const string Everybody = ":everybody";

    private IReadOnlyList<PersonRow> _people = [];
    private string? _typed;

    public TaskWeek Week { get; private set; } = null!;

    /// <summary>Whose: the id of a person, or a team.</summary>
    public string Who { get; private set; } = "";

    public bool IsOwn { get; private set; }

    public string Title { get; private set; } = "My week";

    public int Days { get; private set; } = 7;

    /// <summary>Whose week one may look at.</summary>
    public IReadOnlyList<(string Value, string Words)> Choices { get; private set; } = [];

    public DateOnly Today => today.Date;

    public string TodayText => Text(today.Date);

    /// <summary>The first day as people read it, or what was typed for it and cannot be read.</summary>
    public string FromText => _typed ?? Week.From.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>What is wrong with the first day that was typed.</summary>
    public string? FromProblem { get; private set; }

    public bool IsThisWeek => Week.From <= today.Date && today.Date <= Week.To;

    public string Span => $"{DayName(Week.From)} to {DayName(Week.To)}";

    public async Task<IActionResult> OnGetAsync(string? who, string? from, int? days, CancellationToken cancel) =>
        await LoadAsync(who, from, days, cancel) ? Page() : NotFound();

    public async Task<IActionResult> OnPostMailAsync(string? who, string? from, int? days, CancellationToken cancel)
    {
        if (!await LoadAsync(who, from, days, cancel))
            return NotFound();
        var count = 0;
        foreach (var person in _people)
        {
            if (person.Email is not { } mail)
                continue;
            var theirs = await WeekOfAsync([person], cancel);
            if (Who == Everybody && theirs.Count == 0)
                continue;
            await letters.SendAsync(
                mail,
                $"Your tasks, {Span}",
                $"Hello {person.Name},\n\n{theirs.ToText(withNames: false)}{address.Of("/my-week")}\n",
                ($"Tasks {Text(Week.From)}.pdf", await PdfAsync([person], cancel)),
                cancel
            );
            count++;
        }
        Say(
            count == 0 ? "None of them has a mail address: add it under People."
            : count == 1 ? "The list is on its way by mail."
            : $"{count} lists are on their way by mail."
        );
        return Redirect(AddressOf(Week.From));
    }

    /// <summary>The list as a PDF, for each person by themselves.</summary>
    public async Task<IActionResult> OnGetPdfAsync(string? who, string? from, int? days, CancellationToken cancel)
    {
        if (!await LoadAsync(who, from, days, cancel))
            return NotFound();
        Response.Headers.CacheControl = "private, no-store";
        return File(await PdfAsync(_people, cancel), "application/pdf", $"{FileKinds.CleanName($"{Title} {Text(Week.From)}")}.pdf");
    }

    private async Task<byte[]> PdfAsync(IReadOnlyList<PersonRow> people, CancellationToken cancel)
    {
        Dates.SpeakOn(today.Date);
        var lists = new List<(string, TaskWeek)>();
        foreach (var person in people)
            if (await WeekOfAsync([person], cancel) is var week && (people.Count == 1 || week.Count > 0))
                lists.Add((person.Name, week));
        if (lists.Count == 0)
            lists.Add(("", Week));
        var title = people.Count == 1 ? $"Tasks of {people[0].Name}" : Title;
        var foot = string.Join(", ", new[] { User.Identity?.Name, (await organisation.FindAsync(cancel))?.Name }.OfType<string>());
        return WeekPaper.Write(title, Span, lists, $"{foot}, {Dates.Day(today.Date)}", clock.GetUtcNow().UtcDateTime);
    }

    /// <param name="handler">What else is asked of the list than the page.</param>
    public string AddressOf(DateOnly? from, string? handler = null) =>
        "/my-week"
        + QueryString.Create(
            new Dictionary<string, string?>
            {
                ["handler"] = handler,
                ["who"] = IsOwn ? null : Who,
                ["from"] = from is { } day ? Text(day) : null,
                ["days"] = Days == 7 ? null : Days.ToString(CultureInfo.InvariantCulture),
            }.Where(q => q.Value is not null)
        );

    internal static string DayName(DateOnly day) => day.ToString("dddd d MMMM", CultureInfo.InvariantCulture);

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private DateOnly? ReadDay(string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (DateText.TryParse(text, today.Date, out var day, out var problem))
            return day.Date;
        (_typed, FromProblem) = (text, problem);
        return null;
    }

    private async Task<bool> LoadAsync(string? who, string? first, int? days, CancellationToken cancel)
    {
        var from = ReadDay(first);
        Who = string.IsNullOrEmpty(who) ? User.PersonId() : who;
        IsOwn = Who == User.PersonId();
        Days = Math.Clamp(days ?? 7, 1, 92);
        var all = (await directory.AllAsync(cancel)).Where(p => p.LeftOn is null).ToList();
        var coordinates = (await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel)).Any(r =>
            r.Value == ProjectRole.Coordinator
        );
        if (!IsOwn && !coordinates)
            return false;
        _people =
            Who == Everybody ? [.. all]
            : Who.StartsWith(TeamMark, StringComparison.Ordinal) ? [.. all.Where(p => TeamMark + p.Team == Who)]
            : [.. all.Where(p => p.Id == Who)];
        if (_people.Count == 0 && Who != Nobody)
            return false;
        if (!IsOwn)
            Title =
                Who == Nobody ? "Tasks of nobody"
                : Who == Everybody ? "Everybody’s tasks"
                : Who.StartsWith(TeamMark, StringComparison.Ordinal) ? $"Tasks of {_people[0].Team}"
                : $"Tasks of {_people[0].Name}";
        if (coordinates)
            Choices =
            [
                .. all.Select(p => (p.Id, p.Id == User.PersonId() ? "mine" : p.Name)).OrderBy(c => c.Item2 != "mine"),
                .. all.Select(p => p.Team).Where(t => t.Length > 0).Distinct().Order().Select(t => (TeamMark + t, $"team {t}")),
                (Everybody, "everybody’s"),
                (Nobody, "nobody’s"),
            ];
        Week = await WeekOfAsync(_people, cancel, from);
        return true;
    }

    /// <summary>Own tasks in every project; those of others in the projects that one coordinates.</summary>
    private async Task<TaskWeek> WeekOfAsync(IReadOnlyCollection<PersonRow> people, CancellationToken cancel, DateOnly? from = null)
    {
        var mine = await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel);
        var names = people.ToDictionary(p => p.Id, p => p.Name);
        var tasks = await across.TasksAsync(
            [.. mine.Where(r => IsOwn || r.Value == ProjectRole.Coordinator).Select(r => r.Key)],
            names.Keys,
            today.Date,
            withDone: true,
            cancel
        );
        var firstDay = (await organisation.FindAsync(cancel))?.FirstWeekday ?? DayOfWeek.Monday;
        var begins = today.Date.AddDays(-(((int)today.Date.DayOfWeek - (int)firstDay + 7) % 7));
        return TaskWeek.Of(tasks, names, from ?? (Week is null ? begins : Week.From), Days, today.Date);
    }
}
