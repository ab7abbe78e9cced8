using System.Security.Claims;
using Auxilium.Planning.Money;
using Auxilium.Planning.Starting;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Pages.Projects;

/// <summary>What new projects can start from: templates, and the projects that somebody sees.</summary>
public sealed class StartingPoints(Templates templates, PlanStore store, ProjectRoles roles, ClosedProjects closed, Ledgers ledgers)
{
    /// <summary>A list that somebody has, to be pasted once the plan is there.</summary>
    public const string List = "list";

    private const string OfTemplate = "template:";
    private const string OfProject = "project:";

    public static string Of(Template template) => OfTemplate + template.Id;

    public static string Of(Guid project) => $"{OfProject}{project}";

    /// <summary>Whether it brings tasks along.</summary>
    public static bool HasTasks(string? from) =>
        from is not null
        && (from.StartsWith(OfTemplate, StringComparison.Ordinal) || from.StartsWith(OfProject, StringComparison.Ordinal));

    public Task<IReadOnlyList<Template>> TemplatesAsync(CancellationToken cancel) => templates.AllAsync(cancel);

    /// <summary>The projects that somebody sees, archived ones too, by name.</summary>
    public async Task<IReadOnlyList<(Guid Id, string Name)>> ProjectsAsync(ClaimsPrincipal user, CancellationToken cancel)
    {
        var open = await roles.AllOfAsync(user.PersonId(), user.IsOrganiser(), cancel);
        var names = await store.NamesAsync([.. open.Keys], cancel);
        var archived = (await closed.OfAsync(user.PersonId(), user.IsOrganiser(), cancel)).Where(project => !project.IsDeleted);
        return
        [
            .. names
                .Select(project => (project.Key, project.Value))
                .Concat(archived.Select(project => (project.Id, $"{project.Name} (archived)")))
                .OrderBy(project => project.Item2, StringComparer.CurrentCultureIgnoreCase),
        ];
    }

    /// <summary>The plan that is meant; <c>null</c> where there is none, or not for this person.</summary>
    public async Task<Planning.Plans.Plan?> FindAsync(string from, ClaimsPrincipal user, CancellationToken cancel)
    {
        if (from.StartsWith(OfTemplate, StringComparison.Ordinal))
            return await templates.FindAsync(from[OfTemplate.Length..], cancel);
        if (
            !Guid.TryParse(from.AsSpan(OfProject.Length), out var project)
            || await roles.OfAsync(project, user.PersonId(), user.IsOrganiser(), cancel) == Storage.Rows.ProjectRole.None
        )
            return null;
        return (await store.LoadAsync(project, cancel))?.Schedule.Plan;
    }

    /// <summary>What it costs, to begin with; <c>null</c> where that is not for this person.</summary>
    public async Task<Ledger?> CostsAsync(string from, ClaimsPrincipal user, CancellationToken cancel)
    {
        if (!from.StartsWith(OfProject, StringComparison.Ordinal) || !Guid.TryParse(from.AsSpan(OfProject.Length), out var project))
            return Ledger.None;
        return await roles.MaySeeMoneyAsync(project, user.PersonId(), user.IsOrganiser(), cancel)
            ? (await ledgers.LoadAsync(project, cancel)).Ledger.Anew()
            : null;
    }

    /// <summary>Who comes along, as people choose it.</summary>
    public static IEnumerable<(WhoComes Who, string InWords)> WhoCanCome { get; } =
    [(WhoComes.AsTheyAre, "as they are"), (WhoComes.AsRoles, "as roles to fill"), (WhoComes.Nobody, "nobody")];
}
