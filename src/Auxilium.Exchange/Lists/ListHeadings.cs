namespace Auxilium.Exchange.Lists;

/// <summary>What people write above the columns of a list.</summary>
internal static class ListHeadings
{
    private static readonly Dictionary<string, ListColumnKind> Kinds = ListColumnKind
        .All.SelectMany(kind => kind.Headings.Where(words => words.Length > 0).Select(words => (words, kind)))
        .ToDictionary(pair => pair.words, pair => pair.kind, StringComparer.OrdinalIgnoreCase);

    public static ListColumnKind? Of(string cell) => Kinds.GetValueOrDefault(cell.Trim().Trim('"', '.', ':', '?', '(', ')').Trim());

    public static int Known(IEnumerable<string> cells) => cells.Count(cell => Of(cell) is not null);
}
