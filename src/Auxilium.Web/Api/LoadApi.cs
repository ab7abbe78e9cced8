using System.ComponentModel;
using System.Globalization;
using Auxilium.Planning.Load;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Who has how much to do, in all projects together.</summary>
internal static class LoadApi
{
    private const int UsualDays = 56;

    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/load", OfAsync)
            .WithTags("Load")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary(
                "Who has how much to do, day by day, against what they have. Work in projects that whoever asks may not see is told as "
                    + "“elsewhere”, without names. Lists of minutes begin with the day “from”."
            )
            .Produces<LoadDocument>()
            .ProducesProblem(400);

    private static async Task<IResult> OfAsync(
        HttpContext context,
        LoadAcross load,
        ProjectRoles roles,
        PlanStore store,
        Today today,
        CancellationToken cancel,
        [Description("The first day, such as 2027-05-13; today when left out.")] string? from = null,
        [Description("The last day; eight weeks in all when left out.")] string? to = null,
        [Description("Ids of people, with commas between.")] string? people = null,
        [Description("Names of teams, with commas between.")] string? teams = null,
        [Description("Ids of projects: whoever is on one of them. These count even where they are only proposed.")]
            string? projects = null,
        [Description("Whether projects that are only proposed count.")] bool proposed = false
    )
    {
        if (!TryDay(from, today.Date, out var first))
            return Problems.Bad($"“{from}” is not a day like 2027-05-13.", "from");
        if (!TryDay(to, first.AddDays(UsualDays - 1), out var last))
            return Problems.Bad($"“{to}” is not a day like 2027-05-13.", "to");
        if (last < first || last.DayNumber - first.DayNumber >= LoadQuestion.MostDays)
            return Problems.Bad($"Give a last day that is 0 to {LoadQuestion.MostDays - 1} days after the first.", "to");
        if (first.Year is < 1990 or > 2100 || last.Year > 2100)
            return Problems.Bad("Give days from 1990 to 2100.", "from");
        var asked = new List<Guid>();
        foreach (var id in Listed(projects))
        {
            if (!Guid.TryParse(id, out var project))
                return Problems.Bad($"“{id}” is not the id of a project.", "projects");
            asked.Add(project);
        }
        var me = context.User.PersonId();
        var theirs = await roles.AllOfAsync(me, context.User.IsOrganiser(), cancel);
        if (asked.Any(id => !theirs.ContainsKey(id)))
            return Problems.NoSuchProject();
        var found = await load.OfAsync(
            new LoadQuestion(first, last)
            {
                WithProposed = proposed,
                Asked = asked,
                HoursOf = [.. theirs.Keys],
            },
            today.Date,
            cancel
        );
        var seen = await SeenAsync(
            context.User.IsOrganiser(),
            me,
            asked.Count > 0 ? asked : [.. theirs.Keys],
            asked.Count > 0,
            store,
            cancel
        );
        var (names, groups) = (Listed(people).ToHashSet(), Listed(teams).ToHashSet(StringComparer.OrdinalIgnoreCase));
        var shown = found
            .People.Where(person =>
                (seen is null || seen.Contains(person.Id))
                && (names.Count == 0 || names.Contains(person.Id))
                && (groups.Count == 0 || groups.Contains(person.Team))
            )
            .ToList();
        return Results.Ok(LoadDocument.Of(found, shown, theirs, first, last, today.Date, asked));
    }

    /// <summary>Those who are on projects that whoever asks may see, and they themselves; <c>null</c> for everybody.</summary>
    private static async Task<HashSet<string>?> SeenAsync(
        bool isOrganiser,
        string me,
        IReadOnlyList<Guid> projects,
        bool isAsked,
        PlanStore store,
        CancellationToken cancel
    )
    {
        if (isOrganiser && !isAsked)
            return null;
        var seen = await store.MembersAsync(projects, cancel);
        if (!isAsked)
            seen.Add(me);
        return seen;
    }

    internal static bool TryDay(string? text, DateOnly usual, out DateOnly day)
    {
        day = usual;
        return text is null || DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out day);
    }

    private static string[] Listed(string? text) =>
        (text ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}

/// <summary>Who has how much to do. Minutes are lists with a number for each day from <paramref name="From"/> on.</summary>
/// <param name="Projects">Those that are named in <see cref="LoadedWork.Project"/>, which whoever asks may see.</param>
/// <param name="Teams">Sums of those who are listed; a team can be overbooked while nobody in it is.</param>
/// <param name="Open">What nobody has taken yet, by the team or role that it is for.</param>
public sealed record LoadDocument(
    string From,
    string To,
    string Today,
    IReadOnlyList<LoadedProject> Projects,
    IReadOnlyList<LoadedPerson> People,
    IReadOnlyList<LoadedTeam> Teams,
    IReadOnlyList<LoadedRole> Open
)
{
    private const int Decimals = 2;

    internal static LoadDocument Of(
        LoadFound found,
        IReadOnlyList<PersonRow> people,
        IReadOnlyDictionary<Guid, ProjectRole> theirs,
        DateOnly from,
        DateOnly to,
        DateOnly today,
        IReadOnlyList<Guid> asked
    )
    {
        var days = to.DayNumber - from.DayNumber + 1;
        var work = found.Work.Where(w => !w.IsOpen).ToLookup(w => w.Person);
        List<LoadedPerson> told = [.. people.Select(person => PersonOf(person, work[person.Id]))];
        var open = found
            .Work.Where(w => w.IsOpen && theirs.ContainsKey(w.Project) && (asked.Count == 0 || asked.Contains(w.Project)))
            .GroupBy(w => w.Person)
            .OrderBy(role => role.Key, StringComparer.OrdinalIgnoreCase)
            .Select(role => new LoadedRole(role.Key, Sum(role), [.. role.Select(Work)]))
            .ToList();
        return new LoadDocument(
            Text(from),
            Text(to),
            Text(today),
            [
                .. found
                    .Projects.Where(project => theirs.ContainsKey(project.Key))
                    .Select(project => new LoadedProject(
                        project.Key,
                        project.Value.Name,
                        project.Value.Version,
                        theirs[project.Key] == ProjectRole.Coordinator
                    )),
            ],
            told,
            [
                .. people
                    .Zip(told)
                    .Where(pair => pair.First.Team.Length > 0)
                    .GroupBy(pair => pair.First.Team)
                    .OrderBy(team => team.Key, StringComparer.OrdinalIgnoreCase)
                    .Select(team => new LoadedTeam(
                        team.Key,
                        [.. team.Select(pair => pair.First.Id)],
                        Added(team.Select(pair => pair.Second.Capacity)),
                        Added(
                            team.Select(pair => pair.Second.Load)
                                .Concat(open.Where(role => role.Role == team.Key).Select(role => role.Load))
                        )
                    )),
            ],
            open
        );

        LoadedPerson PersonOf(PersonRow person, IEnumerable<LoadedTask> theirWork)
        {
            var all = theirWork.ToList();
            var hidden = all.Where(w => !theirs.ContainsKey(w.Project)).ToList();
            return new LoadedPerson(
                person.Id,
                person.Name,
                person.Initials,
                person.Team,
                person.Role,
                [.. Enumerable.Range(0, days).Select(day => Plain(found.Capacities.Of(person.Id, from.AddDays(day))))],
                Sum(all),
                hidden.Count > 0 ? Sum(hidden) : null,
                [.. all.Where(w => theirs.ContainsKey(w.Project)).GroupBy(w => (w.Project, w.Task)).Select(Together)]
            );
        }

        // What was worked on a task and what is left of it are one.
        LoadedWork Together(IEnumerable<LoadedTask> parts)
        {
            var of = parts.ToList();
            var task = of.FirstOrDefault(part => part.Start is not null) ?? of[0];
            return Work(
                of.Count == 1
                    ? task
                    : task with
                    {
                        Days = [.. of.SelectMany(part => part.Days).GroupBy(d => d.At).OrderBy(d => d.Key).Select(SumOf)],
                    }
            );
        }

        static LoadedMinutes SumOf(IGrouping<int, LoadedMinutes> day) => new(day.Key, day.Sum(d => d.Minutes));

        LoadedWork Work(LoadedTask task)
        {
            var first = task.Days[0].At;
            var minutes = new decimal[task.Days[^1].At - first + 1];
            foreach (var (at, much) in task.Days)
                minutes[at - first] = Plain(much);
            return new LoadedWork(
                task.Project,
                task.Task,
                task.Name,
                task.Start?.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture),
                task.Finish?.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture),
                first,
                minutes
            );
        }

        decimal[] Sum(IEnumerable<LoadedTask> tasks)
        {
            var sum = new decimal[days];
            foreach (var task in tasks)
            foreach (var (at, much) in task.Days)
                sum[at] += much;
            return [.. sum.Select(Plain)];
        }

        decimal[] Added(IEnumerable<IReadOnlyList<decimal>> lists)
        {
            var sum = new decimal[days];
            foreach (var list in lists)
                for (var at = 0; at < days; at++)
                    sum[at] += list[at];
            return sum;
        }
    }

    private static decimal Plain(decimal minutes) => Math.Round(minutes, Decimals) / 1.0000000000000000000000000000m;

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}

/// <param name="MayEdit">Whether whoever asks may change its plan.</param>
public sealed record LoadedProject(Guid Id, string Name, int Version, bool MayEdit);

/// <param name="Capacity">Minutes that they have.</param>
/// <param name="Load">Minutes that they have to do, or did, in all projects.</param>
/// <param name="Elsewhere">Those of them in projects that whoever asks may not see; left out where there are none.</param>
public sealed record LoadedPerson(
    string Id,
    string Name,
    string Initials,
    string Team,
    string Role,
    IReadOnlyList<decimal> Capacity,
    IReadOnlyList<decimal> Load,
    [property: System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull)]
        IReadOnlyList<decimal>? Elsewhere,
    IReadOnlyList<LoadedWork> Work
);

/// <param name="First">How many days after “from” its minutes begin.</param>
/// <param name="Minutes">A number for each day from there on.</param>
public sealed record LoadedWork(
    Guid Project,
    string Task,
    string Name,
    string? Start,
    string? Finish,
    int First,
    IReadOnlyList<decimal> Minutes
);

/// <param name="People">Ids of who is in it.</param>
public sealed record LoadedTeam(string Name, IReadOnlyList<string> People, IReadOnlyList<decimal> Capacity, IReadOnlyList<decimal> Load);

/// <param name="Role">A team, or a role.</param>
public sealed record LoadedRole(string Role, IReadOnlyList<decimal> Load, IReadOnlyList<LoadedWork> Work);
