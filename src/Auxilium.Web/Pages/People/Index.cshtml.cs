using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;

namespace Auxilium.Web.Pages.People;

/// <param name="Count">How many there are, in words.</param>
public sealed record TeamOfPeople(string Name, string Count, IReadOnlyList<PersonRow> People);

/// <summary>Everybody of the organisation by team.</summary>
[Authorize(Rights.SignedIn)]
public sealed class PeopleModel(Storage.People.Directory directory) : FormPage
{
    private IReadOnlyDictionary<string, Account> _accounts = new Dictionary<string, Account>();
    private Dictionary<string, string> _names = [];

    public IReadOnlyList<TeamOfPeople> Teams { get; private set; } = [];

    public string Total { get; private set; } = "";

    public Task OnGetAsync(CancellationToken cancel) => ListAsync(cancel);

    public string NameOf(string? id) => id is not null && _names.TryGetValue(id, out var name) ? name : "";

    public string SignsIn(PersonRow person) =>
        person.LeftOn is { } left ? $"left {Dates.ShortDay(left)}"
        : !_accounts.TryGetValue(person.Id, out var account) ? "no"
        : account.IsOrganiser ? "organiser"
        : account.MayMakeProjects ? "may make projects"
        : "yes";

    private async Task ListAsync(CancellationToken cancel)
    {
        _accounts = await directory.AccountsAsync(cancel);
        var people = await directory.AllAsync(cancel);
        _names = people.ToDictionary(p => p.Id, p => p.Name);
        Teams =
        [
            .. people
                .GroupBy(p =>
                    p.LeftOn is not null ? "Left"
                    : p.Team.Length == 0 ? "No team"
                    : p.Team
                )
                .OrderBy(g =>
                    g.Key is "Left" ? 2
                    : g.Key is "No team" ? 1
                    : 0
                )
                .ThenBy(g => g.Key)
                .Select(g => new TeamOfPeople(g.Key, CountOf([.. g]), [.. g])),
        ];
        Total = CountOf([.. people.Where(p => p.LeftOn is null)]);
    }

    private static string CountOf(IReadOnlyList<PersonRow> people)
    {
        var kinds = people
            .CountBy(p => p.Kind)
            .OrderBy(k => k.Key)
            .Select(k =>
                (k.Key, k.Value) switch
                {
                    (PersonKind.Staff, var n) => $"{n} staff",
                    (PersonKind.Volunteer, var n) => n == 1 ? "1 volunteer" : $"{n} volunteers",
                    (_, var n) => n == 1 ? "1 supplier" : $"{n} suppliers",
                }
            );
        return string.Join(", ", kinds);
    }
}
