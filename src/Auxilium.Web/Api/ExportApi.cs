using System.Globalization;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Money;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Auxilium.Web.Pages.Sharing;

namespace Auxilium.Web.Api;

/// <summary>A plan as a file for other programs, for paper and for slides.</summary>
internal static class ExportApi
{
    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/projects/{id:guid}/export", ExportAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary($"The plan as a file: “format” is {string.Join(", ", ExportFormat.All.Select(f => f.Name))}.")
            .WithDescription(
                "A PDF and pictures are drawn; a spreadsheet has sheets for tasks, links, people, load, hours and drift; a calendar the "
                    + "tasks and milestones; a document everything. Of what is drawn, the headers X-Pages and X-Letters say how many "
                    + "pages it has and how many points high its letters are."
            )
            .Produces<byte[]>(contentType: "application/octet-stream")
            .ProducesProblem(400)
            .ProducesProblem(404);

    /// <summary>What a read-only link shows, for whoever has it.</summary>
    public static void MapShared(WebApplication app) =>
        app.MapGet("/shared/{secret}/export", ExportSharedAsync)
            .AllowAnonymous()
            .RequireRateLimiting(Limits.Doors)
            .ExcludeFromDescription();

    private static async Task<IResult> ExportSharedAsync(
        string secret,
        [AsParameters] ExportQuery query,
        HttpContext context,
        ShareLinks links,
        SharedDoor door,
        PlanStore store,
        Budgets budgets,
        Handouts handouts,
        CancellationToken cancel
    )
    {
        context.Response.Headers["Referrer-Policy"] = "no-referrer";
        if (
            await links.FindAsync(secret, cancel) is not { AllowsExport: true } link
            || !door.HasEntered(context, link)
            || await store.LoadAsync(link.ProjectId, cancel) is not { } plan
        )
            return Problems.NoSuchProject();
        using var turn = await budgets.EnterAsync(context, cancel);
        return await SendAsync(context, plan, query, handouts, (link, secret), cancel);
    }

    private static async Task<IResult> ExportAsync(
        Guid id,
        [AsParameters] ExportQuery query,
        HttpContext context,
        PlanStore store,
        Budgets budgets,
        Handouts handouts,
        CancellationToken cancel
    )
    {
        using var turn = await budgets.EnterAsync(context, cancel);
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        return await SendAsync(context, plan, query, handouts, null, cancel);
    }

    /// <summary>A file as an answer, or what is wrong with how it is asked for.</summary>
    private static async Task<IResult> SendAsync(
        HttpContext context,
        StoredPlan plan,
        ExportQuery query,
        Handouts handouts,
        (ShareLinkRow Link, string Secret)? link,
        CancellationToken cancel
    )
    {
        ExportedFile file;
        var by = link is null ? context.User.Identity?.Name : null;
        try
        {
            file = query.Wanted.Write(
                await handouts.OfAsync(
                    query,
                    plan,
                    by,
                    link,
                    cancel,
                    link is null ? (context.User.PersonId(), context.User.IsOrganiser()) : null
                ),
                (_, _) => { },
                cancel
            );
        }
        catch (ExportProblem problem)
        {
            return Problems.Bad(problem.Message, problem.Field);
        }
        var headers = context.Response.Headers;
        headers.CacheControl = "private, no-store";
        if (file.Pages > 0)
        {
            headers["X-Pages"] = file.Pages.ToString(CultureInfo.InvariantCulture);
            headers["X-Letters"] = file.LetterSize.ToString("0.0", CultureInfo.InvariantCulture);
        }
        return Results.File(file.Content, query.Wanted.Type, query.Wanted.FileName(plan.Name));
    }
}

/// <summary>Gathers what a file of a plan is made of.</summary>
internal sealed class Handouts(
    OwnAddress address,
    OrganisationClock clock,
    Organisation organisation,
    Hours hours,
    ProjectMoney money,
    ProjectRoles roles,
    Today today
)
{
    /// <summary>The money of a project, for those who may have it.</summary>
    /// <exception cref="ExportProblem">Whoever asks may not.</exception>
    private async Task<PlanMoney> MoneyAsync(StoredPlan plan, (string Id, bool IsOrganiser)? person, CancellationToken cancel) =>
        person is var (id, isOrganiser) && await roles.MaySeeMoneyAsync(plan.Project, id, isOrganiser, cancel)
            ? (await money.OfAsync(plan, today.Date, null, cancel)).Money
            : throw new ExportProblem(
                "What this project costs is for its coordinators and whom they let see it: export without it, or ask one of them.",
                "money"
            );

    /// <param name="person">Who asks for it, where money is asked for.</param>
    /// <param name="by">Name of who asks for it; <c>null</c> where nobody is to be named.</param>
    /// <param name="link">
    /// The read-only link that it is asked for by, with its secret; <c>null</c> where it is by somebody signed in.
    /// </param>
    /// <exception cref="ExportProblem">It is asked for in a way that cannot be.</exception>
    public async Task<Handout> OfAsync(
        ExportQuery query,
        StoredPlan plan,
        string? by,
        (ShareLinkRow Link, string Secret)? link,
        CancellationToken cancel,
        (string Id, bool IsOrganiser)? person = null
    )
    {
        if (link is not null && !query.Wanted.IsForLinks)
            throw new ExportProblem("A plan that is seen by a link cannot be exported whole.", "format");
        if (link is not null && query.Wanted.IsDrawn && !query.ScreenDrawn.IsForLinks)
            throw new ExportProblem("What people have to do is not shown by a link.", "screen");
        var costs = query.Money == true ? await MoneyAsync(plan, link is null ? person : null, cancel) : null;
        var known = link is var (of, _) ? SharedColumns.OfTables(of.Columns) : PlanTable.ColumnsOf(plan.Schedule.Plan);
        var columns = query.ColumnsAmong(known)
            ?? (link is null ? null : [.. PlanTable.Usual.Where(column => known.Any(k => k.Key == column.Key))]);
        var here = await organisation.FindAsync(cancel);
        var table = new PlanTable(plan.Schedule, today.Date, columns, query.RowsIn(plan.Schedule.Plan));
        if (table.Rows.IsEmpty && query.Rows is not null)
            throw new ExportProblem("None of these rows is in the plan any more: choose others, or all.", "rows");
        return new Handout(
            query,
            plan,
            table,
            today.Date,
            clock.GetUtcNow().UtcDateTime,
            clock.ToUtc,
            task => address.Of(link is var (_, secret) ? $"/shared/{secret}" : $"/projects/{plan.Project}#{task}"),
            string.Join(", ", new[] { by, here?.Name }.OfType<string>().Where(name => name.Length > 0)),
            here?.FirstWeekday ?? DayOfWeek.Monday,
            clock.LocalTimeZone,
            here?.Logo,
            link?.Link.Columns
        )
        {
            Money = costs,
            Currency = here?.Currency,
            HasRates = person?.IsOrganiser == true,
            Hours =
                link is null && (query.Wanted.Name == "xlsx" || query.Screen == "load")
                    ? await hours.AllOfAsync(plan.Project, cancel)
                    : [],
        };
    }
}
