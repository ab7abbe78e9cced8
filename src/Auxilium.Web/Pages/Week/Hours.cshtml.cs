using System.Globalization;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Week;

/// <summary>
/// A week sheet: hours by task and day, typed as into a spreadsheet. Who coordinates projects may open that of anybody on them, and sees
/// the sums of all by person or by task.
/// </summary>
[Authorize(Rights.OwnAccount)]
public sealed class HoursModel(
    AcrossPlans across,
    Hours hours,
    ProjectRoles roles,
    Storage.People.Directory directory,
    Organisation organisation,
    Today today
) : FormPage
{
    /// <summary>No id of a person has a colon.</summary>
    public const string ByPerson = ":people";

    public const string ByTask = ":tasks";

    private const int MostWeeks = 53;

    public DateOnly From { get; private set; }

    public int Weeks { get; private set; } = 1;

    /// <summary>Whose: the id of a person, or one of the tables of all.</summary>
    public string Who { get; private set; } = "";

    public string Title { get; private set; } = "Hours";

    /// <summary>The sheet of one person; <c>null</c> where a table of all is shown.</summary>
    public WeekSheet? Sheet { get; private set; }

    public HoursTable? Table { get; private set; }

    public IReadOnlyList<(string Value, string Words)> Choices { get; private set; } = [];

    public string? FromProblem { get; private set; }

    public bool IsOwn => Who == User.PersonId();

    public string FromText { get; private set; } = "";

    public DateOnly Today => today.Date;

    public async Task<IActionResult> OnGetAsync(string? who, string? from, int? weeks, CancellationToken cancel)
    {
        var me = User.PersonId();
        Who = string.IsNullOrEmpty(who) ? me : who;
        Weeks = Math.Clamp(weeks ?? 1, 1, MostWeeks);
        From = await FirstDayAsync(from, cancel);
        FromText = FromProblem is null ? From.ToString("d MMM yyyy", CultureInfo.InvariantCulture) : from!;
        var theirs = await roles.AllOfAsync(me, User.IsOrganiser(), cancel);
        List<Guid> led = [.. theirs.Where(r => r.Value == ProjectRole.Coordinator).Select(r => r.Key)];
        if (!IsOwn && led.Count == 0)
            return NotFound();
        var people = (await directory.AllAsync(cancel)).Where(p => p.LeftOn is null).ToList();
        if (led.Count > 0)
            Choices =
            [
                .. people.Select(p => (p.Id, p.Id == me ? "mine" : p.Name)).OrderBy(c => c.Item2 != "mine"),
                (ByPerson, "everybody, by person"),
                (ByTask, "everybody, by task"),
            ];
        if (Who is ByPerson or ByTask)
        {
            Title = Who == ByPerson ? "Hours by person" : "Hours by task";
            var all = await hours.BetweenAsync(led, [], From, From.AddDays(Weeks * WeekSheet.Days - 1), cancel);
            Table = HoursTable.Of(all, From, Weeks, Who == ByTask);
            return Page();
        }
        if (people.FirstOrDefault(p => p.Id == Who) is not { } person)
            return NotFound();
        Title = IsOwn ? "My hours" : $"Hours of {person.Name}";
        List<Guid> projects = IsOwn ? [.. theirs.Keys] : led;
        Sheet = WeekSheet.Of(
            From,
            await across.TasksAsync(projects, [Who], today.Date, withDone: true, cancel),
            await hours.BetweenAsync(projects, [Who], From.AddDays(-WeekSheet.Days), From.AddDays(WeekSheet.Days - 1), cancel)
        );
        return Page();
    }

    public string AddressOf(DateOnly from) =>
        "/my-week/hours"
        + QueryString.Create(
            new Dictionary<string, string?>
            {
                ["who"] = IsOwn ? null : Who,
                ["from"] = from.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                ["weeks"] = Weeks == 1 ? null : Weeks.ToString(CultureInfo.InvariantCulture),
            }.Where(q => q.Value is not null)
        );

    /// <summary>The first day of the week that a day lies in.</summary>
    private async Task<DateOnly> FirstDayAsync(string? typed, CancellationToken cancel)
    {
        var day = today.Date;
        if (!string.IsNullOrWhiteSpace(typed))
        {
            if (DateText.TryParse(typed, today.Date, out var read, out var problem))
                day = read.Date;
            else
                FromProblem = problem;
        }
        var first = (await organisation.FindAsync(cancel))?.FirstWeekday ?? DayOfWeek.Monday;
        return day.AddDays(-(((int)day.DayOfWeek - (int)first + 7) % 7));
    }
}
