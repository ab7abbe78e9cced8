using Auxilium.Exchange.Tables;

namespace Auxilium.Exchange.People;

/// <summary>A line of a list of people as read. What the list does not say is <c>null</c>.</summary>
/// <param name="Number">The line it stands in, from 1.</param>
/// <param name="Problem">Why it cannot be taken; <c>null</c> when it can.</param>
public sealed record PersonLine(
    int Number,
    string Name,
    string? Initials,
    string? Mail,
    string? Role,
    string? Team,
    string? ReportsTo,
    string? Kind,
    string? Problem
);

/// <summary>Reads people from CSV: the first line names the columns, in any order.</summary>
public static class PeopleCsv
{
    /// <summary>The most people that can be imported at once.</summary>
    public const int MostLines = 2_000;

    private static readonly (string, string[])[] Headings =
    [
        ("name", ["name", "full name", "person"]),
        ("initials", ["initials"]),
        ("mail", ["mail", "email", "e-mail", "mail address", "email address"]),
        ("role", ["role", "does", "function", "job"]),
        ("team", ["team", "group", "department"]),
        ("reportsTo", ["reports to", "manager", "lead"]),
        ("kind", ["kind", "type"]),
    ];

    private static readonly Dictionary<string, string> Kinds = new(StringComparer.OrdinalIgnoreCase)
    {
        ["staff"] = "Staff",
        ["employee"] = "Staff",
        ["volunteer"] = "Volunteer",
        ["supplier"] = "Supplier",
        ["outside supplier"] = "Supplier",
        ["contractor"] = "Supplier",
    };

    /// <param name="text">Cells between commas, semicolons or tabs.</param>
    /// <param name="isMail">Whether a text is a mail address.</param>
    /// <returns>Every line, or what is wrong with the whole.</returns>
    public static (IReadOnlyList<PersonLine> Lines, string? Problem) Read(string text, Func<string, bool> isMail)
    {
        var (table, problem) = HeadedTable.Read(text, Headings, "Name");
        if (table is null)
            return ([], problem);
        using var _ = table;
        var lines = new List<PersonLine>();
        var seen = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        while (table.Next())
        {
            if (lines.Count == MostLines)
                return ([], $"The list has more than {MostLines:N0} people: bring it in in parts.");
            lines.Add(ReadLine(table, seen, isMail));
        }
        return lines.Count == 0 ? ([], "The list has its line of columns only: put a person in each line below.") : (lines, null);
    }

    private static PersonLine ReadLine(HeadedTable table, HashSet<string> seen, Func<string, bool> isMail)
    {
        var (name, mail, kind) = (Cell("name") ?? "", Cell("mail"), Cell("kind"));
        var known = kind is not null && Kinds.TryGetValue(kind, out var found) ? found : null;
        var problem =
            name.Length == 0 ? "The name is missing."
            : !name.Any(char.IsLetter) ? "A name has letters."
            : new[] { name, Cell("role"), Cell("team") }.Any(t => t?.Length > 80) ? "A name, role or team has at most 80 characters."
            : Cell("initials")?.Length > 16 ? "Initials have at most 16 characters."
            : mail is not null && !isMail(mail) ? $"“{mail}” is no mail address."
            : kind is not null && known is null ? $"“{kind}” is no kind of person: use staff, volunteer or supplier."
            : new[] { name, mail, Cell("role"), Cell("team"), Cell("initials") }.Any(t => t is not null && t.Any(char.IsControl))
                ? "A cell has control characters."
            : !seen.Add(mail ?? name) ? "This person stands in the list twice."
            : null;
        return new PersonLine(table.Line, name, Cell("initials"), mail, Cell("role"), Cell("team"), Cell("reportsTo"), known, problem);

        string? Cell(string column) => table[column] is { Length: > 0 } text ? text : null;
    }
}
