using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>
/// Who somebody is, what they cost, when they work and what they may do: one form with one Save. Organisers have all of it; others only
/// when they themselves work.
/// </summary>
public sealed partial class PersonModel
{
    private const decimal MostMoney = 1_000_000;

    internal static readonly string[] DayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Initials { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    [BindProperty]
    public string? Role { get; set; }

    [BindProperty]
    public string? Team { get; set; }

    [BindProperty]
    public string? ReportsTo { get; set; }

    [BindProperty]
    public PersonKind Kind { get; set; }

    [BindProperty]
    public string? HourlyRate { get; set; }

    [BindProperty]
    public string? OvertimeRate { get; set; }

    [BindProperty]
    public string? CostPerUse { get; set; }

    /// <summary>Rates that begin on later days, as they are typed.</summary>
    [BindProperty]
    public string? LaterRates { get; set; }

    [BindProperty]
    public string[] Week { get; set; } = new string[7];

    /// <summary>How much of their working time they give, as it is typed.</summary>
    [BindProperty]
    public string? Availability { get; set; }

    [BindProperty]
    public bool? Organiser { get; set; }

    [BindProperty]
    public bool? Maker { get; set; }

    private static readonly string[] OnlyOrganisers =
    [
        nameof(Name),
        nameof(Initials),
        nameof(MailAddress),
        nameof(Role),
        nameof(Team),
        nameof(ReportsTo),
        nameof(Kind),
        nameof(HourlyRate),
        nameof(OvertimeRate),
        nameof(CostPerUse),
        nameof(LaterRates),
        nameof(Organiser),
        nameof(Maker),
    ];

    /// <summary>Stands for what the page shows as saved, to tell whether somebody else changed it while this was typed.</summary>
    public string Seen =>
        Convert
            .ToHexString(
                SHA256.HashData(
                    Encoding.UTF8.GetBytes(
                        JsonSerializer.Serialize(
                            (string?[])[.. _saved.Values, _savedWeek, $"{Account?.IsOrganiser}{Account?.MayMakeProjects}"]
                        )
                    )
                )
            )
            .ToLowerInvariant();

    private Dictionary<string, string> _saved = [];
    private string? _savedWeek;

    /// <summary>Whether the hours of a day cannot be read, as <c>aria-invalid</c> says it.</summary>
    public string IsWrongDay(int day) =>
        Has("Week") == "true" && Week[day].Length > 0 && !HoursText.TryParse(Week[day], out _, out _) ? "true" : "false";

    /// <summary>Lets the form say what is known, but for what was typed into it.</summary>
    private void FillProfile(Func<string, bool> isTyped)
    {
        Name = Known(nameof(Name), Name, Row.Name);
        Initials = Known(nameof(Initials), Initials, Row.Initials);
        MailAddress = Known(nameof(MailAddress), MailAddress, Row.Email);
        Role = Known(nameof(Role), Role, Row.Role);
        Team = Known(nameof(Team), Team, Row.Team);
        ReportsTo = Known(nameof(ReportsTo), ReportsTo, Row.ReportsTo);
        Kind = Known(nameof(Kind), Kind, Row.Kind);
        HourlyRate = Known(nameof(HourlyRate), HourlyRate, Money(Row.HourlyRate));
        OvertimeRate = Known(nameof(OvertimeRate), OvertimeRate, Money(Row.OvertimeRate));
        CostPerUse = Known(nameof(CostPerUse), CostPerUse, Money(Row.CostPerUse));
        LaterRates = Known(nameof(LaterRates), LaterRates, RatesText.Of(PersonRates.Read(Row.LaterRates)));
        Availability = Known(nameof(Availability), Availability, AvailabilityText.Of(PersonTimes.Read(Row.Availability)));
        Organiser = Known(nameof(Organiser), Organiser, Account?.IsOrganiser);
        Maker = Known(nameof(Maker), Maker, Account?.MayMakeProjects);
        Week = isTyped(nameof(Week)) && Week.Length == 7 ? [.. Week.Select(day => day ?? "")] : ReadWeek(Row.Calendar);

        T Known<T>(string field, T typed, T known) => isTyped(field) ? typed : known;
    }

    public async Task<IActionResult> OnPostSaveAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel, fill: false))
            return NotFound();
        if (!MayEnterAll || (!User.IsOrganiser() && Request.Form.Keys.Intersect(OnlyOrganisers, StringComparer.OrdinalIgnoreCase).Any()))
            return Forbid();
        FillProfile(Request.Form.ContainsKey);
        if (Request.Form.TryGetValue(nameof(Seen), out var seen) && seen != Seen)
        {
            Wrong(
                nameof(Seen),
                $"Somebody else changed {Row.Name} meanwhile. Save again to replace it with what stands here, or reload the page."
            );
            return Page();
        }
        if (User.IsOrganiser())
            await ReadAboutAsync(cancel);
        Row.Calendar = Week.All(string.IsNullOrWhiteSpace) ? null : WriteWeek(Week);
        if (AvailabilityText.TryParse(Availability ?? "", today.Date, out var available, out var why))
            Row.Availability = PersonTimes.Write(available);
        else
            Wrong(nameof(Availability), why);
        if (!ModelState.IsValid)
            return Page();
        var (organiser, maker) = (Organiser == true, Maker == true || Organiser == true);
        var mayElse = Account is { } account && (organiser, maker) != (account.IsOrganiser, account.MayMakeProjects);
        if (mayElse && !await directory.SetStandingAsync(Row.Id, organiser, maker, User.PersonId(), cancel))
        {
            Wrong(nameof(Organiser), OnlyOrganiser);
            return Page();
        }
        var weekElse = !ReadWeek(_savedWeek).SequenceEqual(ReadWeek(Row.Calendar));
        var after = Told(Row);
        var changed = after.Where(field => _saved[field.Key] != field.Value).Select(field => field.Key).ToList();
        if (changed.Count > 0 || weekElse)
            await directory.SaveAsync([Row], weekElse ? User.PersonId() : null, cancel);
        if (weekElse)
            changed.Add("working week");
        if (mayElse)
            changed.Add("rights");
        return weekElse ? await BringInAsync(Saved(changed), cancel) : Done(Saved(changed));
    }

    /// <summary>What an organiser says of somebody, by the names that it has in a sentence.</summary>
    private static Dictionary<string, string> Told(PersonRow row) =>
        new()
        {
            ["name"] = row.Name,
            ["initials"] = row.Initials,
            ["mail address"] = row.Email ?? "",
            ["role"] = row.Role,
            ["team"] = row.Team,
            ["whom they report to"] = row.ReportsTo ?? "",
            ["kind"] = row.Kind.ToString(),
            ["hourly rate"] = Money(row.HourlyRate),
            ["overtime rate"] = Money(row.OvertimeRate),
            ["cost per task"] = Money(row.CostPerUse),
            ["later rates"] = row.LaterRates ?? "",
            ["availability"] = row.Availability ?? "",
        };

    private async Task ReadAboutAsync(CancellationToken cancel)
    {
        var name = Line(nameof(Name), Name, "The name", 80, true);
        if (name is not null && !name.Any(char.IsLetter))
            Wrong(nameof(Name), "A name has letters: type the person's.");
        var initials = Line(nameof(Initials), Initials, "The initials", 16);
        Mail(nameof(MailAddress), MailAddress, isNeeded: Account is not null, out var mail);
        if (mail is not null && await directory.WithMailAsync(mail, Row.Id, cancel) is { } other)
            Wrong(nameof(MailAddress), $"{other.Name} has this address already.");
        var role = Line(nameof(Role), Role, "What they do", 80);
        var team = Line(nameof(Team), Team, "The team", 80);
        if (ReportsTo is { Length: > 0 } boss && (_all.All(p => p.Id != boss) || IsUnder(boss, Row.Id)))
            Wrong(nameof(ReportsTo), "They cannot report to themselves, or to somebody who reports to them: choose somebody else.");
        var (hourly, overtime, use) = (
            ReadMoney(nameof(HourlyRate), HourlyRate),
            ReadMoney(nameof(OvertimeRate), OvertimeRate),
            ReadMoney(nameof(CostPerUse), CostPerUse)
        );
        if (!RatesText.TryParse(LaterRates ?? "", today.Date, out var later, out var whyNot))
            Wrong(nameof(LaterRates), whyNot);
        if (!ModelState.IsValid)
            return;
        Row.LaterRates = PersonRates.Write(later);
        (Row.Name, Row.Initials, Row.Email, Row.Role, Row.Team, Row.ReportsTo, Row.Kind) = (
            name!,
            initials ?? PlanIds.InitialsOf(name!),
            mail,
            role ?? "",
            team ?? "",
            string.IsNullOrEmpty(ReportsTo) ? null : ReportsTo,
            Kind
        );
        (Row.HourlyRate, Row.OvertimeRate, Row.CostPerUse) = (hourly, overtime, use);
    }

    /// <summary>Whether somebody reports to another, however far up.</summary>
    private bool IsUnder(string person, string boss)
    {
        for (var (at, steps) = (person, 0); steps <= _all.Count; steps++)
        {
            if (at == boss)
                return true;
            if (_all.FirstOrDefault(p => p.Id == at)?.ReportsTo is not { } up)
                return false;
            at = up;
        }
        return true;
    }

    private decimal? ReadMoney(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (
            decimal.TryParse(text.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var money)
            && money <= MostMoney
            && money == Math.Round(money, 2)
        )
            return money;
        Wrong(field, "This is no amount: type a number from 0 up with at most two decimals, such as 28.50.");
        return null;
    }

    private static string Money(decimal? money) => money?.ToString("0.00", CultureInfo.InvariantCulture) ?? "";

    /// <summary>The week as a calendar in JSON; <c>null</c> where one of the days has no hours that can be read, which is said.</summary>
    private string? WriteWeek(string[] week)
    {
        var days = new JsonObject();
        for (var day = 0; day < 7; day++)
        {
            if (string.IsNullOrWhiteSpace(week[day]))
                continue;
            if (!HoursText.TryParse(week[day], out var hours, out var problem))
            {
                Wrong("Week", $"{DayNames[day]}: {problem}");
                return null;
            }
            days[DayNames[day].ToLowerInvariant()] = new JsonArray([
                .. hours.Select(h => JsonValue.Create($"{Clock(h.Start)}-{Clock(h.End)}")),
            ]);
        }
        return new JsonObject
        {
            ["id"] = "own",
            ["name"] = "Own",
            ["week"] = days,
        }.ToJsonString();
    }

    private static string[] ReadWeek(string? json)
    {
        if (json is null)
            return ["", "", "", "", "", "", ""];
        using var document = JsonDocument.Parse(json);
        return
        [
            .. CalendarReader
                .ReadAlone(document.RootElement, "$")
                .Week.Select(day =>
                    day is not { } hours ? ""
                    : hours.IsEmpty ? "no"
                    : string.Join(", ", hours.Select(h => $"{Clock(h.Start)}-{Clock(h.End)}"))
                ),
        ];
    }

    private static string Clock(int minutes) => $"{minutes / 60:00}:{minutes % 60:00}";
}
