using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>What the organisation is called, and where its clocks are.</summary>
[Authorize(Rights.Organise)]
[RequestSizeLimit(64 * 1024)]
public sealed class OrganisationModel(Storage.People.Organisation organisation, OrganisationClock clock) : FormPage
{
    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? TimeZone { get; set; }

    /// <summary>Zones to choose from, as the time zone database names them.</summary>
    public IReadOnlyList<string> Zones { get; } =
    [
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(z => z.Id)
            .Where(id => id.Contains('/', StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    public string Now => clock.InWords(clock.GetUtcNow().UtcDateTime, "ddd d MMM HH:mm");

    public async Task OnGetAsync(CancellationToken cancel)
    {
        var row = await organisation.FindAsync(cancel);
        (Name, TimeZone) = (row?.Name, row?.TimeZone ?? clock.LocalTimeZone.Id);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var name = Line(nameof(Name), Name, "The name of your organisation", 120, true);
        var zone = OrganisationClock.Find(TimeZone?.Trim());
        if (zone is null)
            Wrong(nameof(TimeZone), "There is no such time zone: choose one of the list, such as Europe/Berlin.");
        if (!ModelState.IsValid)
            return Page();
        await organisation.ChangeAsync(name!, zone!.Id, User.PersonId(), clock, cancel);
        await clock.RefreshAsync(cancel);
        Say("Saved.");
        return Redirect("/organisation");
    }
}
