using System.Text.Json;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Api;

/// <summary>
/// The body of an edit: <c>{ "id": "…uuid…", "baseVersion": 7, "edit": { "type": … } }</c>, or instead of <c>edit</c>
/// <c>"takeBack": "lastEdit"</c>, <c>"lastTakeBack"</c> or the id of an entry of the journal; with <c>"overrule": true</c> to have it
/// though somebody changed the same.
/// <c>"near": "2028-05-12"</c> is the day that dates without a year are closest to, instead of today.
/// <c>"seenVersion"</c> is the version that was shown when the edit was begun, if an older one, and <c>"own"</c> has the ids of edits that
/// its author made since and knows of. <c>"note"</c> says why, where the edit becomes a proposal.
/// </summary>
internal sealed record EditDocument(
    Guid Id,
    int BaseVersion,
    PlanEdit? Edit,
    TakeBack? TakeBack,
    bool Overrule,
    long? Entry,
    string Note,
    int? SeenVersion,
    IReadOnlyList<Guid> Own
)
{
    private const int MostOwn = 100;

    private static readonly string[] Fields = ["id", "baseVersion", "edit", "takeBack", "overrule", "near", "note", "seenVersion", "own"];

    /// <exception cref="UnreadableDocumentException">Something in it is missing or wrong.</exception>
    public static EditDocument Read(JsonElement root, DateOnly today, WorkUnits? units = null)
    {
        if (root.ValueKind != JsonValueKind.Object)
            throw Wrong("$", "An edit is sent as a JSON object.");
        foreach (var property in root.EnumerateObject())
            if (!Fields.Contains(property.Name))
                throw Wrong("$." + property.Name, $"“{property.Name}” is not a field that belongs here.");
        var id =
            Get(root, "id") is { ValueKind: JsonValueKind.String } i && i.TryGetGuid(out var guid)
                ? guid
                : throw Wrong("$.id", "“id” must be a UUID, made new for each edit.");
        var baseVersion =
            Get(root, "baseVersion") is { ValueKind: JsonValueKind.Number } v && v.TryGetInt32(out var number) && number > 0
                ? number
                : throw Wrong("$.baseVersion", "“baseVersion” must be the version of the plan that the edit was made on.");
        DateOnly? near = Get(root, "near") is { } n ? ReadDay(n) : null;
        PlanEdit? edit = Get(root, "edit") is { } e ? new EditJson(today, near, units).Read(e) : null;
        var (takeBack, entry) = Get(root, "takeBack") is { } t ? ReadTakeBack(t) : default;
        if (edit is not null && EditPipeline.PartsOf(edit).FirstOrDefault(part => part is ITrustedEdit) is { } trusted)
            throw Wrong(
                "$.edit",
                $"“{EditKinds.All.Single(kind => kind.Type == trusted.GetType()).Wire}” comes only from taking an edit back: send "
                    + "“takeBack”, or an edit that makes something new."
            );
        if (edit is null == takeBack is null)
            throw Wrong("$", "Send either “edit” or “takeBack”.");
        var overrule =
            Get(root, "overrule") is { } o
            && (
                o.ValueKind is JsonValueKind.True or JsonValueKind.False
                    ? o.GetBoolean()
                    : throw Wrong("$.overrule", "“overrule” must be true or false.")
            );
        var note = Get(root, "note") is { } text
            ? text.ValueKind == JsonValueKind.String
                ? text.GetString()!.Trim()
                : throw Wrong("$.note", "“note” must be a text: why a change is proposed.")
            : "";
        if (note.Length > Proposals.LongestNote || note.Any(c => char.IsControl(c) && c is not '\n'))
            throw Wrong("$.note", $"“note” is a text of at most {Proposals.LongestNote:N0} characters.");
        return new EditDocument(id, baseVersion, edit, takeBack, overrule, entry, note, ReadSeen(root), ReadOwn(root));
    }

    /// <param name="person">Its author.</param>
    /// <param name="allows">What they may do; <c>null</c> for everything.</param>
    public EditRequest ToRequest(string person, Func<PlanEdit, Plan, bool>? allows) =>
        new(Id, BaseVersion, Edit, TakeBack, person, Overrule, Entry, SeenVersion, Own, allows);

    private static JsonElement? Get(JsonElement root, string field) =>
        root.TryGetProperty(field, out var value) && value.ValueKind != JsonValueKind.Null ? value : null;

    private static int? ReadSeen(JsonElement root) =>
        Get(root, "seenVersion") is not { } seen ? null
        : seen.ValueKind == JsonValueKind.Number && seen.TryGetInt32(out var version) && version > 0 ? version
        : throw Wrong("$.seenVersion", "“seenVersion” must be the version of the plan that was shown when the edit was begun.");

    private static IReadOnlyList<Guid> ReadOwn(JsonElement root)
    {
        if (Get(root, "own") is not { } own)
            return [];
        if (own.ValueKind != JsonValueKind.Array || own.GetArrayLength() > MostOwn)
            throw Wrong("$.own", $"“own” must be a list of at most {MostOwn} ids of edits.");
        return
        [
            .. own.EnumerateArray()
                .Select(id =>
                    id.ValueKind == JsonValueKind.String && id.TryGetGuid(out var edit)
                        ? edit
                        : throw Wrong("$.own", "“own” must be ids of edits: UUIDs.")
                ),
        ];
    }

    private static (TakeBack? Which, long? Entry) ReadTakeBack(JsonElement value)
    {
        if (value.ValueKind == JsonValueKind.Number && value.TryGetInt64(out var entry))
            return (Storage.Plans.TakeBack.Entry, entry);
        return (value.ValueKind == JsonValueKind.String ? value.GetString() : null) switch
        {
            "lastEdit" => (Storage.Plans.TakeBack.LastEdit, null),
            "lastTakeBack" => (Storage.Plans.TakeBack.LastTakeBack, null),
            _ => throw Wrong("$.takeBack", "“takeBack” must be “lastEdit”, “lastTakeBack” or the id of an entry of the journal."),
        };
    }

    private static DateOnly ReadDay(JsonElement value) =>
        value.ValueKind == JsonValueKind.String
        && DateOrTime.TryParseIso(value.GetString(), out var day)
        && PlanTime.On(day.Date).IsInRange
            ? day.Date
            : throw Wrong("$.near", "“near” must be a day from 1990 to 2100 such as 2027-05-12.");

    private static UnreadableDocumentException Wrong(string path, string message) => new([new DocumentError(path, "value", message)]);
}
