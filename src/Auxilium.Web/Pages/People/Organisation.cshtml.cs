using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;
using Auxilium.Storage.People;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>What everything in the organisation goes by: its name and logo, its clocks, its money, its weeks.</summary>
[Authorize(Rights.Organise)]
[RequestSizeLimit(MostLogoBytes + 64 * 1024)]
public sealed class OrganisationModel(Storage.People.Organisation organisation, OrganisationClock clock) : FormPage
{
    internal const int MostLogoBytes = 300 * 1024;

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? TimeZone { get; set; }

    [BindProperty]
    public string? Currency { get; set; }

    /// <summary>What an hour of a volunteer is worth, as it is typed.</summary>
    [BindProperty]
    public string? VolunteerHour { get; set; }

    [BindProperty]
    public string? FirstWeekday { get; set; }

    [BindProperty]
    public string? Calendar { get; set; }

    [BindProperty]
    public string? Holidays { get; set; }

    [BindProperty]
    public IFormFile? Logo { get; set; }

    [BindProperty]
    public bool NoLogo { get; set; }

    public bool HasLogo { get; private set; }

    /// <summary>Zones to choose from, as the time zone database names them.</summary>
    public IReadOnlyList<string> Zones { get; } =
    [
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(z => z.Id)
            .Where(id => id.Contains('/', StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>Currencies that are offered; others can be typed.</summary>
    public IReadOnlyList<string> Currencies { get; } =
    ["AUD", "CAD", "CHF", "CZK", "DKK", "EUR", "GBP", "HUF", "ISK", "NOK", "NZD", "PLN", "RON", "SEK", "USD"];

    /// <summary>The days that weeks can begin with.</summary>
    public IReadOnlyList<DayOfWeek> Weekdays { get; } = [DayOfWeek.Monday, DayOfWeek.Saturday, DayOfWeek.Sunday];

    public string Now => clock.InWords(clock.GetUtcNow().UtcDateTime, "ddd d MMM HH:mm");

    public async Task OnGetAsync(CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is not { } row)
            return;
        (Name, TimeZone) = (row.Name, row.TimeZone ?? clock.LocalTimeZone.Id);
        (Currency, FirstWeekday, Calendar, Holidays) = (row.Currency, row.FirstWeekday.ToString(), row.Calendar, row.Holidays);
        VolunteerHour = row.VolunteerHour?.ToString("0.00", CultureInfo.InvariantCulture);
        HasLogo = row.Logo is not null;
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var row = await organisation.FindAsync(cancel);
        HasLogo = row?.Logo is not null;
        // What a form does not ask for stays as it is.
        (Currency, FirstWeekday, Calendar) = (
            Currency ?? row?.Currency,
            FirstWeekday ?? row?.FirstWeekday.ToString(),
            Calendar ?? row?.Calendar
        );
        if (!Request.Form.ContainsKey(nameof(Holidays)))
            Holidays = row?.Holidays;
        if (!Request.Form.ContainsKey(nameof(VolunteerHour)))
            VolunteerHour = row?.VolunteerHour?.ToString(CultureInfo.InvariantCulture);
        var name = Line(nameof(Name), Name, "The name of your organisation", 120, true);
        var zone = OrganisationClock.Find(TimeZone?.Trim());
        if (zone is null)
            Wrong(nameof(TimeZone), "There is no such time zone: choose one of the list, such as Europe/Berlin.");
        var currency = Currency?.Trim().ToUpperInvariant() ?? "";
        if (currency.Length != 3 || !currency.All(char.IsAsciiLetterUpper))
            Wrong(nameof(Currency), "A currency is three letters, as banks write it: EUR, GBP or USD.");
        decimal? worth = null;
        if (!string.IsNullOrWhiteSpace(VolunteerHour))
        {
            var isAmount = decimal.TryParse(
                VolunteerHour.Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var amount
            );
            if (isAmount && Amounts.WhyRefused(amount) is null)
                worth = amount;
            else
                Wrong(nameof(VolunteerHour), "This is no amount: type a number from 0 up, such as 14.50, or leave it empty.");
        }
        if (!Enum.TryParse<DayOfWeek>(FirstWeekday, out var first) || !Weekdays.Contains(first))
            Wrong(nameof(FirstWeekday), "Choose Monday, Saturday or Sunday.");
        if (ReadyMadeCalendars.All.All(c => c.Id != Calendar))
            Wrong(nameof(Calendar), "Choose one of these working weeks.");
        if (!string.IsNullOrEmpty(Holidays) && PublicHolidays.Sets.All(set => set.Id != Holidays))
            Wrong(nameof(Holidays), "Choose one of these countries, or none.");
        var logo = NoLogo ? [] : await ReadLogoAsync(cancel);
        if (!ModelState.IsValid)
            return Page();
        var settings = new OrganisationSettings(
            name!,
            zone!.Id,
            currency,
            first,
            Calendar!,
            string.IsNullOrEmpty(Holidays) ? null : Holidays,
            logo,
            worth
        );
        var changed = await organisation.ChangeAsync(settings, User.PersonId(), clock, cancel);
        await clock.RefreshAsync(cancel);
        Say(Saved(changed.Length == 0 ? [] : [changed]));
        return Redirect("/organisation");
    }

    private async Task<byte[]?> ReadLogoAsync(CancellationToken cancel)
    {
        if (Logo is null || Logo.Length == 0)
            return null;
        if (Logo.Length > MostLogoBytes)
        {
            Wrong(
                nameof(Logo),
                string.Create(CultureInfo.InvariantCulture, $"This picture has {Logo.Length / 1024:N0} kB: use one of at most 300 kB.")
            );
            return null;
        }
        var bytes = new byte[Logo.Length];
        await using var stream = Logo.OpenReadStream();
        await stream.ReadExactlyAsync(bytes, cancel);
        if (TypeOf(bytes) is not null)
            return bytes;
        Wrong(nameof(Logo), "This is no picture that can be shown everywhere: use a PNG or JPEG file.");
        return null;
    }

    /// <summary>What kind of picture these bytes are; <c>null</c> for none that is taken.</summary>
    internal static string? TypeOf(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith<byte>([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png"
        : bytes.StartsWith<byte>([0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : null;
}
