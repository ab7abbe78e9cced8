using Auxilium.Exchange;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>How one looks at a plan, remembered for each person and project.</summary>
internal static class ViewsApi
{
    private const int MostBytes = 64 * 1024;

    public static void Map(RouteGroupBuilder api) =>
        api.MapPut("/projects/{id:guid}/view", KeepAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Remembers how the person who asks looks at a plan: any JSON object, which only the screen reads.")
            .Accepts<object>("application/json")
            .Produces(204)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(413);

    private static async Task<IResult> KeepAsync(Guid id, HttpContext context, Views views, CancellationToken cancel)
    {
        var bytes = await RequestDocument.ReadAsync(context.Request, MostBytes);
        using var body = StrictJson.Parse(bytes);
        if (body.RootElement.ValueKind != System.Text.Json.JsonValueKind.Object)
            return Problems.Bad("A view is a JSON object.", "value");
        var text = body.RootElement.GetRawText();
        // PostgreSQL keeps no NUL in a text, and half a surrogate pair is no character.
        if (text.Contains("\\u0000", StringComparison.Ordinal) || text.Contains("\\ud", StringComparison.OrdinalIgnoreCase))
            return Problems.Bad("A text in this view has characters that cannot be kept.", "value");
        return await views.KeepAsync(id, context.User.PersonId(), text, cancel) ? Results.NoContent() : Problems.NoSuchProject();
    }
}
