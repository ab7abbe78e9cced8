using Auxilium.Exchange.People;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>Imports people from CSV. A preview shows how each line is read; nothing is stored before it is confirmed.</summary>
[Authorize(Rights.Organise)]
[RequestSizeLimit(MostBytes)]
[RequestFormLimits(ValueLengthLimit = MostBytes)]
public sealed class ImportModel(Storage.People.Directory directory) : FormPage
{
    private const int MostBytes = 2 * 1024 * 1024;

    [BindProperty]
    public string? Text { get; set; }

    [BindProperty]
    public IFormFile? Upload { get; set; }

    public IReadOnlyList<(PersonLine Line, string What)> Plan { get; private set; } = [];

    public int Good => Plan.Count(p => p.Line.Problem is null);

    public async Task<IActionResult> OnPostReadAsync(CancellationToken cancel)
    {
        if (Upload is { Length: > 0 })
        {
            using var reader = new StreamReader(Upload.OpenReadStream());
            Text = await reader.ReadToEndAsync(cancel);
            ModelState.Remove(nameof(Text));
        }
        await ReadAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostTakeAsync(CancellationToken cancel)
    {
        var known = await ReadAsync(cancel);
        if (Good == 0)
            return Page();
        var taken = known.Select(p => p.Id).ToHashSet();
        var rows = new List<(PersonRow Row, PersonLine Line)>();
        foreach (var (line, _) in Plan)
        {
            if (line.Problem is not null)
                continue;
            var row = Find(known, line)
                ?? new PersonRow
                {
                    Id = PlanIds.FreeId(line.Name, taken),
                    Name = line.Name,
                    Initials = line.Initials ?? PlanIds.InitialsOf(line.Name),
                };
            taken.Add(row.Id);
            (row.Name, row.Initials, row.Email, row.Role, row.Team) = (
                line.Name,
                line.Initials ?? row.Initials,
                line.Mail ?? row.Email,
                line.Role ?? row.Role,
                line.Team ?? row.Team
            );
            if (line.Kind is { } kind)
                row.Kind = Enum.Parse<PersonKind>(kind);
            rows.Add((row, line));
        }
        foreach (var (row, line) in rows)
            if (
                line.ReportsTo is { } name
                && rows.Select(r => r.Row)
                    .Concat(known)
                    .FirstOrDefault(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase) || p.Id == name)
                    is { } boss
                && boss.Id != row.Id
            )
                row.ReportsTo = boss.Id;
        await directory.SaveAsync([.. rows.Select(r => r.Row)], cancel: cancel);
        Say($"{(rows.Count == 1 ? "One person" : $"{rows.Count} people")} taken in.");
        return Redirect("/people");
    }

    private async Task<IReadOnlyList<PersonRow>> ReadAsync(CancellationToken cancel)
    {
        var known = await directory.AllAsync(cancel);
        if (Text?.Contains('\0') == true)
        {
            Wrong(nameof(Text), "This is no text: choose a CSV file.");
            return known;
        }
        var (lines, problem) = PeopleCsv.Read(Text ?? "", IsMail);
        if (problem is not null)
            Wrong(nameof(Text), problem);
        Plan = [.. lines.Select(line => (line, line.Problem ?? What(known, line)))];
        return known;
    }

    private static string What(IReadOnlyList<PersonRow> known, PersonLine line)
    {
        if (Find(known, line) is { } same)
            return $"{same.Name} is here: what differs is taken from the list";
        if (known.FirstOrDefault(p => PersonText.IsSameName(p.Name, line.Name)) is not { } alike)
            return "New";
        return alike.Email is { } mail && line.Mail is not null && alike.Name.Equals(line.Name, StringComparison.OrdinalIgnoreCase)
            ? $"New, though somebody of that name is here with the address {mail}: if it is the same person, change the address on "
                + "their page instead"
            : $"New, though {alike.Name} is here: if it is the same person, write the name like that";
    }

    private static PersonRow? Find(IReadOnlyList<PersonRow> known, PersonLine line) =>
        known.FirstOrDefault(p => line.Mail is not null && string.Equals(p.Email, line.Mail, StringComparison.OrdinalIgnoreCase))
        ?? known.FirstOrDefault(p =>
            p.Name.Equals(line.Name, StringComparison.OrdinalIgnoreCase) && (line.Mail is null || p.Email is null)
        );
}
