using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Exchange;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Lists that exist already, read before anything is made of them.</summary>
internal static class ListsApi
{
    /// <summary>Longer lists are imported as files.</summary>
    private const int MostBytes = 3_000_000;

    public static void Map(RouteGroupBuilder api) =>
        api.MapPost("/projects/{id:guid}/lists", ReadAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.Report)
            .WithSummary("How a pasted list is understood, line by line, with the edit that would add it. Nothing is kept.")
            .WithDescription(
                "The body is { \"text\": … }; “columns” says what each column holds ("
                    + string.Join(", ", ListColumnKind.All.Select(kind => kind.Name))
                    + ", “own:” and the id of a field of the project, or “new:” and a number to make one of it), "
                    + "“dateOrder” is dayFirst or monthFirst, “makePeople” whether unknown owners join the plan, “parent” and "
                    + "“after” where the rows go, “levels” how deep the rows of some lines stand: { \"3\": 1 }. With “again” the list is "
                    + "compared with the rows that are there: “leave” names lines that are left as they are, “remove” ids of rows "
                    + "that the list no longer has and that are to go."
            )
            .Accepts<ListRequest>("application/json")
            .Produces<ListDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(413);

    private static async Task<IResult> ReadAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Budgets budgets,
        Today today,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (JsonBody.Read<ListRequest>(body.RootElement) is not { Text: not null } request)
            return Problems.Bad("A list is sent as { \"text\": \"…\" }.", "value");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (OptionsOf(request, plan.Schedule.Plan.Project.FieldsOfTasks) is not { } options)
            return UnknownOptions();
        using var turn = await budgets.EnterAsync(context, cancel);
        var reading = ListReader.Read(request.Text, options, plan.Schedule, await store.DirectoryAsync(cancel), today.Date);
        return Results.Ok(ListDocument.Of(reading));
    }

    internal static IResult UnknownOptions() =>
        Problems.Bad("“columns” names kinds of columns, and “dateOrder” is dayFirst or monthFirst.", "value");

    /// <param name="fields">The plan's own.</param>
    /// <returns><c>null</c> where it names what there is not.</returns>
    internal static ListOptions? OptionsOf(ListRequest request, IEnumerable<OwnField> fields)
    {
        var columns = request.Columns?.Select(name => ListColumnKind.Find(name, fields)).ToList();
        if (columns?.Contains(null) == true)
            return null;
        if (request.DateOrder is not (null or "dayFirst" or "monthFirst"))
            return null;
        var order = request.DateOrder switch
        {
            "dayFirst" => DateOrder.DayFirst,
            "monthFirst" => DateOrder.MonthFirst,
            _ => DateOrder.Unknown,
        };
        return new ListOptions(
            columns?.Select(kind => kind!).ToList(),
            order,
            request.MakePeople,
            request.Parent,
            request.After,
            request.Levels,
            Again: request.Again,
            Leave: request.Leave?.ToHashSet(),
            Remove: request.Remove?.ToHashSet()
        );
    }
}

/// <param name="Text">The list.</param>
/// <param name="Columns">What each column holds; guessed when left out.</param>
/// <param name="DateOrder"><c>dayFirst</c> or <c>monthFirst</c>.</param>
/// <param name="MakePeople">Whether owners whom nobody knows join the plan.</param>
/// <param name="Parent">The phase that the rows go into.</param>
/// <param name="After">The row of that phase that they stand after.</param>
/// <param name="Levels">By line: how deep its row stands, from 0, where a person says so.</param>
/// <param name="Again">Whether it is compared with the rows that are there, to update them.</param>
/// <param name="Leave">Lines whose rows stay as they are, or out.</param>
/// <param name="Remove">Ids of rows that the list no longer has and that are to go.</param>
public sealed record ListRequest(
    string? Text,
    IReadOnlyList<string>? Columns = null,
    string? DateOrder = null,
    bool MakePeople = true,
    string? Parent = null,
    string? After = null,
    IReadOnlyDictionary<int, int>? Levels = null,
    bool Again = false,
    IReadOnlyList<int>? Leave = null,
    IReadOnlyList<string>? Remove = null
);

/// <summary>How a list was understood.</summary>
/// <param name="AskDateOrder">Whether its dates could be read both ways, so that a person has to say.</param>
/// <param name="Problem">Why nothing can be made of it.</param>
/// <param name="Edit">What to send to add its rows, or to update those that are there.</param>
/// <param name="IsLong">Whether it can be added, but not sent as an edit: importing it as a file with commit=true does.</param>
/// <param name="Matches">How many of its rows are in the plan already, by source id or name.</param>
/// <param name="IsLikelyAgain">Whether most of them are.</param>
/// <param name="Gone">What the plan has beside those and the list has not, where the two are compared.</param>
public sealed record ListDocument(
    IReadOnlyList<ListColumnDocument> Columns,
    IReadOnlyList<ListRowDocument> Rows,
    string? DateOrder,
    bool AskDateOrder,
    IReadOnlyList<string> NewPeople,
    string? Problem,
    JsonNode? Edit,
    bool IsLong,
    int Matches,
    bool IsLikelyAgain,
    IReadOnlyList<ListGone> Gone
)
{
    internal static ListDocument Of(ListReading reading) =>
        new(
            [.. reading.Columns.Select(c => new ListColumnDocument(c.Kind.Name, c.Heading, c.Sample))],
            [.. reading.Rows.Select(ListRowDocument.Of)],
            reading.Order == Exchange.Lists.DateOrder.Unknown ? null : JsonNames.Camel(reading.Order),
            reading.AskOrder,
            reading.NewPeople,
            reading.Problem,
            reading.Edit is { } edit && !IsTrusted(edit) ? JsonNode.Parse(EditJson.Write(edit)) : null,
            reading.Edit is { } whole && IsTrusted(whole),
            reading.Matches,
            reading.IsLikelyAgain,
            reading.Gone
        );

    private static bool IsTrusted(PlanEdit edit) => EditPipeline.PartsOf(edit).Any(part => part is ITrustedEdit);
}

public sealed record ListColumnDocument(string Kind, string Heading, string Sample);

/// <summary>A line as a row; cells are by the kind of their column.</summary>
/// <param name="State"><c>new</c>, <c>changed</c> or <c>same</c>, where the list is compared with the plan.</param>
public sealed record ListRowDocument(
    int Line,
    int Level,
    string Number,
    string Name,
    bool IsPhase,
    IReadOnlyDictionary<string, string> Cells,
    IReadOnlyList<ListProblemDocument> Problems,
    string? State,
    IReadOnlyList<ListChangeDocument> Changes
)
{
    internal static ListRowDocument Of(ListRow row) =>
        new(
            row.Line,
            row.Level,
            row.Number,
            row.Name,
            row.IsPhase,
            row.Cells.ToDictionary(cell => cell.Key.Name, cell => cell.Value),
            [.. row.Problems.Select(p => new ListProblemDocument(p.Column?.Name, p.Message))],
            row.State is { } state ? JsonNames.Camel(state) : null,
            [.. row.Changes.Select(c => new ListChangeDocument(c.Column?.Name, c.Before, c.After))]
        );
}

/// <summary>What of a row is other than the list says; without a column, the phase it is in.</summary>
public sealed record ListChangeDocument(string? Column, string Before, string After);

public sealed record ListProblemDocument(string? Column, string Message);
