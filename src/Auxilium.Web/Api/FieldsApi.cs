using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Auxilium.Exchange;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Api;

/// <summary>Fields that all projects of the organisation have.</summary>
internal static class FieldsApi
{
    private const int MostBytes = 256 * 1024;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
    };

    public static void Map(RouteGroupBuilder api)
    {
        var fields = api.MapGroup("/fields").WithTags("Organisation").RequireAuthorization(Rights.Organise);
        fields
            .MapGet("", async (OrganisationFields all, CancellationToken cancel) => FieldsDocument.Of(await all.AllAsync(cancel), ""))
            .WithSummary("The fields that tasks of all projects have besides the usual ones.")
            .Produces<FieldsDocument>();
        fields
            .MapPut("", SetAsync)
            .WithSummary(
                "Sets the fields that all projects have: { \"fields\": [{ \"id\", \"name\", \"kind\", \"unit\", \"retired\", "
                    + "\"ofProject\", \"choices\" }] }; with “ofProject” it is a fact of the projects themselves, else of their tasks. "
                    + "Every open project gets them in an edit of its own, which can be taken back there."
            )
            .Accepts<FieldsRequest>("application/json")
            .Produces<FieldsDocument>()
            .ProducesProblem(400);
    }

    private static async Task<IResult> SetAsync(
        HttpContext context,
        OrganisationFields all,
        PlanStore store,
        PlanEdits edits,
        Today today,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        FieldsRequest? request = null;
        try
        {
            request = body.RootElement.Deserialize<FieldsRequest>(Json);
        }
        catch (JsonException) { }
        if (request?.Fields is not { } sent || sent.Any(field => field is null || field.Id is null || field.Name is null))
            return Problems.Bad(
                "Fields are sent as { \"fields\": [{ \"id\": \"code\", \"name\": \"Cost code\", \"kind\": \"text\" }] }.",
                "fields"
            );
        ImmutableArray<OwnField> fields = [.. sent.Select(field => (field with { Shared = true, Value = null }).Tidy())];
        if (await all.WhyRefusedAsync(fields, cancel) is { } why)
            return Problems.Bad(why, "fields");
        await all.SetAsync(fields, context.User.PersonId(), cancel);
        var (changed, refused) = (0, new List<string>());
        foreach (var project in await all.OpenProjectsAsync(cancel))
        {
            if (await store.LoadAsync(project, cancel) is not { } plan)
                continue;
            var now = SharedFields.In(plan.Schedule.Plan, fields);
            if (now.SequenceEqual(plan.Schedule.Plan.Project.Fields))
                continue;
            try
            {
                var edit = new EditRequest(Guid.NewGuid(), plan.Version, new SetFields(now), null, context.User.PersonId());
                if (await edits.CommitAsync(project, edit, today.Date, cancel) is EditCommitted)
                    changed++;
            }
            catch (EditRefusedException refusal)
            {
                refused.Add($"{plan.Name}: {refusal.Message}");
            }
        }
        var said = changed switch
        {
            0 => "Saved.",
            1 => "Saved. One open project has them now.",
            _ => $"Saved. {changed} open projects have them now.",
        };
        return Results.Ok(FieldsDocument.Of(fields, string.Join(" ", refused.Prepend(said))));
    }
}

internal sealed record FieldsRequest(IReadOnlyList<OwnField> Fields);

/// <summary>The fields of the organisation.</summary>
/// <param name="Said">What was done.</param>
internal sealed record FieldsDocument(IReadOnlyList<FieldView> Fields, string Said)
{
    public static FieldsDocument Of(IEnumerable<OwnField> fields, string said) => new([.. fields.Select(FieldView.Of)], said);
}
