using System.ComponentModel;
using System.Globalization;
using System.Text;
using Auxilium.Exchange;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Files that hold a list or a plan, read before anything is made of them.</summary>
internal static class ImportsApi
{
    private const string Fields =
        "A form (multipart/form-data): “file”; “sheet” of a spreadsheet, from 0; “headRow”, the row with the headings, from 1; "
        + "“columns”, “dateOrder”, “makePeople”, “parent”, “after”, “again”, “leave” and “remove” as for lists, with commas between "
        + "several; “levels” as { \"3\": 1 }.";

    public static void Map(RouteGroupBuilder api)
    {
        Multipart
            .TakeFile(api.MapPost("/projects/{id:guid}/imports", ReadAsync), ListFile.MostBytes)
            .WithTags("Projects")
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "How a spreadsheet, CSV, calendar, plan document or text is understood, line by line, with the edit that would add it. "
                    + "With commit=true that edit is made, by who coordinates the project."
            )
            .WithDescription(Fields)
            .Produces<ImportDocument>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(413);
        Multipart
            .TakeFile(api.MapPost("/projects/imports", CreateAsync), ListFile.MostBytes)
            .WithTags("Projects")
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Makes a project of a file: a plan document, or a list with “name” and “start”.")
            .WithDescription(Fields)
            .Produces<CreatedProject>(201)
            .ProducesProblem(400)
            .ProducesProblem(413);
    }

    private static async Task<IResult> ReadAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        PlanEdits edits,
        Budgets budgets,
        OrganisationClock clock,
        Today today,
        CancellationToken cancel,
        [Description("Whether the edit is made.")] bool commit = false
    )
    {
        if (commit && (context.RoleHere() != ProjectRole.Coordinator || context.User.Scope() != TokenScope.Edit))
            return Problems.MayNot("Only who coordinates the project adds rows from a file: leave out “commit” to see how it is read.");
        if (await Multipart.ReadAsync(context.Request, cancel) is not { } form)
            return NoFile();
        using var turn = await budgets.EnterAsync(context, cancel);
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (ListsApi.OptionsOf(RequestOf(form), plan.Schedule.Plan.Project.FieldsOfTasks) is not { } options)
            return ListsApi.UnknownOptions();
        try
        {
            var file = ListFile.Read(form.FileName, form.File, form.Number("sheet"), form.Number("headRow"), clock.LocalTimeZone, cancel);
            var reading = ListReader.Read(
                file.Text,
                options with
                {
                    Repeats = file.Repeats,
                },
                plan.Schedule,
                await store.DirectoryAsync(cancel),
                today.Date
            );
            var answer = ImportDocument.Of(file, reading);
            if (!commit)
                return Results.Ok(answer);
            if (reading.Edit is not { } edit)
                return Problems.Bad(reading.Problem ?? "Nothing in this file can be added.", "file");
            var request = new EditRequest(Guid.NewGuid(), plan.Version, edit, null, context.User.PersonId());
            return await edits.CommitAsync(id, request, today.Date, cancel) switch
            {
                EditCommitted done => Results.Ok(
                    answer with
                    {
                        Version = done.After.Version,
                        Told = string.Concat(done.Sentence.Select(run => run.Text)),
                    }
                ),
                EditConflict conflict => Problems.Conflict(conflict),
                _ => Problems.NoSuchProject(),
            };
        }
        catch (FileRefusedException refused)
        {
            return Problems.Bad(refused.Message, "file");
        }
    }

    private static async Task<IResult> CreateAsync(
        HttpContext context,
        PlanStore store,
        Organisation organisation,
        Budgets budgets,
        OrganisationClock clock,
        Today today,
        CancellationToken cancel
    )
    {
        if (await Multipart.ReadAsync(context.Request, cancel) is not { } form)
            return NoFile();
        if (ListsApi.OptionsOf(RequestOf(form), []) is not { } options)
            return ListsApi.UnknownOptions();
        using var turn = await budgets.EnterAsync(context, cancel);
        if (PlanDocumentReader.IsLikelyOne(form.File.Span))
            return await ProjectsApi.MakeAsync(form.File, context, store, cancel);
        try
        {
            var file = ListFile.Read(form.FileName, form.File, form.Number("sheet"), form.Number("headRow"), clock.LocalTimeZone, cancel);
            var name = ProjectEdits.CheckName(form.Fields.GetValueOrDefault("name") ?? Path.GetFileNameWithoutExtension(form.FileName));
            var typed = form.Fields.GetValueOrDefault("start") ?? "today";
            if (!DateText.TryParse(typed, today.Date, out var start, out var problem))
                return Problems.Bad(problem, "start");
            var empty = OrganisationCalendar.Of(Plan.Empty(name, default), await organisation.FindAsync(cancel), today.Date);
            empty = empty with { Project = empty.Project with { Start = start.AsStart(empty.ProjectCalendar) } };
            var directory = await store.DirectoryAsync(cancel);
            var schedule = Scheduler.Calculate(empty, cancel);
            var reading = ListReader.Read(file.Text, options with { Repeats = file.Repeats }, schedule, directory, today.Date);
            if (reading.Edit is not { } edit)
                return Problems.Bad(reading.Problem ?? "Nothing in this file can be added.", "file");
            var made = EditPipeline.Run(edit, new EditContext(schedule, today.Date, directory) { Cancel = cancel }).After.Plan;
            var stored = await store.CreateAsync(made, context.User.Person(), context.User.IsOrganiser(), cancel: cancel);
            return Results.Created($"/api/v1/projects/{stored.Project}/plan", new CreatedProject(stored.Project, stored.Version));
        }
        catch (FileRefusedException refused)
        {
            return Problems.Bad(refused.Message, "file");
        }
    }

    private static IResult NoFile() =>
        Problems.Bad($"A file is sent as the field “file” of a form, of up to {ListFile.MostBytes >> 20} MB.", "file");

    private static ListRequest RequestOf(Multipart form) =>
        new(
            null,
            form.Fields.TryGetValue("columns", out var columns) ? columns.Split(',', StringSplitOptions.TrimEntries) : null,
            form.Fields.GetValueOrDefault("dateOrder"),
            form.Fields.GetValueOrDefault("makePeople") != "false",
            form.Fields.GetValueOrDefault("parent"),
            form.Fields.GetValueOrDefault("after"),
            LevelsOf(form),
            form.Fields.GetValueOrDefault("again") == "true",
            [.. Several(form, "leave").Select(line => int.TryParse(line, CultureInfo.InvariantCulture, out var number) ? number : 0)],
            [.. Several(form, "remove")]
        );

    private static string[] Several(Multipart form, string field) =>
        form.Fields.GetValueOrDefault(field, "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    private static Dictionary<int, int>? LevelsOf(Multipart form)
    {
        if (form.Fields.GetValueOrDefault("levels") is not { Length: > 0 } text)
            return null;
        using var levels = StrictJson.Parse(Encoding.UTF8.GetBytes(text));
        return JsonBody.Read<Dictionary<int, int>>(levels.RootElement);
    }
}

/// <summary>A file as it was read.</summary>
/// <param name="Kind"><c>spreadsheet</c>, <c>table</c>, <c>calendar</c>, <c>plan</c> or <c>text</c>.</param>
/// <param name="Sheets">Names of its sheets.</param>
/// <param name="Sheet">Which of them was read, from 0.</param>
/// <param name="HeadRow">The row that the list begins with, from 1.</param>
/// <param name="Text">The list as text, with tabs between the cells.</param>
/// <param name="List">How that is understood.</param>
/// <param name="Version">The version of the plan with it, once it is added.</param>
/// <param name="Told">What adding it did.</param>
public sealed record ImportDocument(
    string Kind,
    IReadOnlyList<string> Sheets,
    int Sheet,
    int HeadRow,
    string Text,
    ListDocument List,
    int? Version = null,
    string? Told = null
)
{
    internal static ImportDocument Of(ListFile file, ListReading reading) =>
        new(file.Kind, file.Sheets, file.Sheet, file.HeadRow, file.Text, ListDocument.Of(reading));
}
