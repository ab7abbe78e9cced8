using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>What projects can start from.</summary>
internal static class TemplatesApi
{
    private const int MostBytes = 8 * 1024;

    public static void Map(RouteGroupBuilder api)
    {
        var templates = api.MapGroup("/templates").WithTags("Templates");
        templates
            .MapGet("", (Templates all, CancellationToken cancel) => all.AllAsync(cancel))
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("What projects can start from: ready-made templates by kind, then those that were saved here.")
            .Produces<IReadOnlyList<Template>>();
        templates
            .MapGet("/{template}", FindAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("A template as a plan document.")
            .Produces<object>(contentType: RequestDocument.PlanType)
            .ProducesProblem(404);
        templates
            .MapPost("", SaveAsync)
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary(
                "Keeps the plan of a project that one coordinates as a template, without what happened: { \"project\": id, \"name\": "
                    + "\"Summer fair\", \"note\": \"\" }."
            )
            .Accepts<TemplateRequest>("application/json")
            .Produces<Template>(201)
            .ProducesProblem(400)
            .ProducesProblem(404);
        templates
            .MapDelete("/{template:guid}", DeleteAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Deletes a template that was saved here. Projects that started from it stay.")
            .Produces(204)
            .ProducesProblem(404);
    }

    private static async Task<IResult> FindAsync(string template, Templates templates, CancellationToken cancel) =>
        await templates.FindAsync(template, cancel) is { } plan
            ? Results.Bytes(PlanDocumentWriter.Write(plan), RequestDocument.PlanType)
            : NoSuchTemplate();

    private static async Task<IResult> SaveAsync(
        HttpContext context,
        Templates templates,
        PlanStore store,
        ProjectRoles roles,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (JsonBody.Read<TemplateRequest>(body.RootElement) is not { } request)
            return Problems.Bad("A template is saved as { \"project\": id, \"name\": \"…\", \"note\": \"\" }.", "value");
        var role = await roles.OfAsync(request.Project, context.User.PersonId(), context.User.IsOrganiser(), cancel);
        if (role < ProjectRole.Coordinator || await store.LoadAsync(request.Project, cancel) is not { } plan)
            return Problems.NoSuchProject();
        try
        {
            var template = await templates.SaveAsync(plan.Schedule.Plan, request.Name, request.Note, cancel);
            return Results.Created($"/api/v1/templates/{template.Id}", template);
        }
        catch (TemplateRefusedException refused)
        {
            return Problems.Bad(refused.Message, refused.Field == "Name" ? "name" : "note");
        }
    }

    private static async Task<IResult> DeleteAsync(Guid template, Templates templates, CancellationToken cancel) =>
        await templates.DeleteAsync(template, cancel) ? Results.NoContent() : NoSuchTemplate();

    private static IResult NoSuchTemplate() =>
        Results.Problem("There is no such template: /api/v1/templates lists them.", statusCode: StatusCodes.Status404NotFound);
}

/// <param name="Project">The project that it is made of.</param>
internal sealed record TemplateRequest(Guid Project, string? Name, string? Note);
