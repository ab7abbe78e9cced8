using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Auxilium.Exchange.Tests.Calendars;

/// <summary>
/// Reads iCalendar as RFC 5545 says and nothing else: what is not allowed there fails. Written from the standard, so that our calendars
/// are not judged by the library that writes them.
/// </summary>
internal sealed partial class StrictCalendar
{
    private const int LongestLine = 75;

    /// <summary>What a component must have, and have once.</summary>
    private static readonly Dictionary<string, string[]> Required = new()
    {
        ["VCALENDAR"] = ["PRODID", "VERSION"],
        ["VEVENT"] = ["UID", "DTSTAMP", "DTSTART"],
        ["VTODO"] = ["UID", "DTSTAMP"],
        ["VALARM"] = ["ACTION", "TRIGGER"],
        ["VTIMEZONE"] = ["TZID"],
        ["STANDARD"] = ["DTSTART", "TZOFFSETTO", "TZOFFSETFROM"],
        ["DAYLIGHT"] = ["DTSTART", "TZOFFSETTO", "TZOFFSETFROM"],
    };

    private static readonly Dictionary<string, string[]> Inside = new()
    {
        [""] = ["VCALENDAR"],
        ["VCALENDAR"] = ["VEVENT", "VTODO", "VTIMEZONE"],
        ["VEVENT"] = ["VALARM"],
        ["VTODO"] = ["VALARM"],
        ["VTIMEZONE"] = ["STANDARD", "DAYLIGHT"],
    };

    private static readonly HashSet<string> Once =
    [
        .. "UID DTSTAMP DTSTART DTEND DUE DURATION SUMMARY DESCRIPTION STATUS SEQUENCE TRANSP URL".Split(' '),
        .. "PERCENT-COMPLETE RRULE ACTION TRIGGER PRODID VERSION METHOD CALSCALE TZID".Split(' '),
    ];

    private static readonly Dictionary<string, string[]> Words = new()
    {
        ["VEVENT STATUS"] = ["TENTATIVE", "CONFIRMED", "CANCELLED"],
        ["VTODO STATUS"] = ["NEEDS-ACTION", "COMPLETED", "IN-PROCESS", "CANCELLED"],
        ["VEVENT TRANSP"] = ["OPAQUE", "TRANSPARENT"],
        ["VALARM ACTION"] = ["AUDIO", "DISPLAY", "EMAIL"],
        ["VCALENDAR VERSION"] = ["2.0"],
    };

    /// <summary>A component with its properties: parameters and value of each.</summary>
    internal sealed record Part(string Name)
    {
        public List<(string Name, Dictionary<string, string> Parameters, string Value)> Properties { get; } = [];

        public List<Part> Parts { get; } = [];

        public string? this[string name] => Properties.FirstOrDefault(p => p.Name == name).Value;
    }

    /// <summary>The events and to-dos of a calendar.</summary>
    public static IReadOnlyList<Part> Read(string text)
    {
        var root = new Part("");
        var open = new Stack<Part>([root]);
        foreach (var line in Lines(text))
        {
            var (name, parameters, value) = Split(line);
            if (name == "BEGIN")
            {
                Assert.Contains(value, Inside.GetValueOrDefault(open.Peek().Name, []));
                var part = new Part(value);
                open.Peek().Parts.Add(part);
                open.Push(part);
            }
            else if (name == "END")
            {
                Assert.Equal(open.Peek().Name, value);
                Check(open.Pop());
            }
            else
            {
                Assert.NotEqual("", open.Peek().Name);
                open.Peek().Properties.Add((name, parameters, value));
            }
        }
        Assert.Single(open);
        var calendar = Assert.Single(root.Parts);
        var zones = calendar.Parts.Where(p => p.Name == "VTIMEZONE").Select(p => p["TZID"]!).ToHashSet();
        var told = calendar.Parts.Where(p => p.Name != "VTIMEZONE").ToList();
        foreach (var (_, parameters, _) in told.SelectMany(part => part.Properties))
            if (parameters.TryGetValue("TZID", out var zone))
                Assert.Contains(zone, zones);
        Assert.Equal(told.Count, told.Select(part => part["UID"]).Distinct().Count());
        return told;
    }

    /// <summary>Unfolded. A line of a file ends with CR LF, and has at most 75 octets.</summary>
    private static List<string> Lines(string text)
    {
        Assert.EndsWith("\r\n", text, StringComparison.Ordinal);
        var lines = new List<string>();
        foreach (var line in text[..^2].Split("\r\n"))
        {
            Assert.InRange(Encoding.UTF8.GetByteCount(line), 1, LongestLine);
            Assert.DoesNotContain(line, c => char.IsControl(c) && c != '\t');
            if (line[0] is ' ' or '\t')
                lines[^1] += line[1..];
            else
                lines.Add(line);
        }
        return lines;
    }

    private static (string Name, Dictionary<string, string> Parameters, string Value) Split(string line)
    {
        var match = ContentLine().Match(line);
        Assert.True(match.Success, line);
        var parameters = new Dictionary<string, string>();
        foreach (Capture parameter in match.Groups["parameter"].Captures)
        {
            var parts = parameter.Value.Split('=', 2);
            Assert.True(parameters.TryAdd(parts[0], parts[1].Trim('"')), line);
        }
        return (match.Groups["name"].Value, parameters, match.Groups["value"].Value);
    }

    private static void Check(Part part)
    {
        foreach (var name in Required[part.Name])
            Assert.True(part[name] is not null, $"{part.Name} without {name}");
        foreach (var group in part.Properties.GroupBy(p => p.Name))
            Assert.False(Once.Contains(group.Key) && group.Count() > 1, $"{part.Name} with {group.Key} twice");
        foreach (var (name, parameters, value) in part.Properties)
        {
            if (Words.TryGetValue($"{part.Name} {name}", out var words))
                Assert.Contains(value, words);
            switch (name)
            {
                case "DTSTART" or "DTEND" or "DUE" or "EXDATE" or "RECURRENCE-ID":
                    Assert.All(value.Split(','), one => CheckTime(parameters, one));
                    break;
                case "DTSTAMP" or "CREATED" or "LAST-MODIFIED" or "COMPLETED":
                    Assert.EndsWith("Z", value, StringComparison.Ordinal);
                    CheckTime(parameters, value);
                    break;
                case "SUMMARY" or "DESCRIPTION" or "LOCATION" or "COMMENT":
                    Assert.Matches(Text(), value);
                    break;
                case "SEQUENCE" or "PERCENT-COMPLETE":
                    Assert.InRange(int.Parse(value, CultureInfo.InvariantCulture), 0, name[0] == 'P' ? 100 : int.MaxValue);
                    break;
                case "TRIGGER" or "DURATION":
                    Assert.Matches(Duration(), value);
                    break;
                case "URL":
                    Assert.True(Uri.TryCreate(value, UriKind.Absolute, out _), value);
                    break;
                case "RRULE":
                    CheckRule(part, value);
                    break;
                case "TZOFFSETTO" or "TZOFFSETFROM":
                    Assert.Matches(@"^[+-]\d{4}(\d{2})?$", value);
                    break;
                default:
                    break;
            }
        }
        if (part.Name == "VALARM" && part["ACTION"] == "DISPLAY")
            Assert.NotNull(part["DESCRIPTION"]);
        if (part.Name is "VEVENT" or "VTODO")
            CheckSpan(part);
        if (part.Name == "VTIMEZONE")
            Assert.NotEmpty(part.Parts);
    }

    /// <summary>The end is of the same kind as the start and after it; days that are left out are of that kind too.</summary>
    private static void CheckSpan(Part part)
    {
        Assert.False(part["DTEND"] is not null && part["DURATION"] is not null);
        if (part["DTSTART"] is not { } start)
            return;
        foreach (var end in new[] { part["DTEND"], part["DUE"] }.OfType<string>())
        {
            Assert.Equal(start.Length, end.Length);
            Assert.True(
                string.CompareOrdinal(end, start) > 0 || (end == start && (part.Name == "VTODO" || start.Length > 8)),
                $"{start} to {end}"
            );
        }
        Assert.All(part.Properties.Where(p => p.Name == "EXDATE").SelectMany(p => p.Value.Split(',')), day =>
            Assert.Equal(start.Length, day.Length)
        );
    }

    private static void CheckTime(Dictionary<string, string> parameters, string value)
    {
        if (parameters.GetValueOrDefault("VALUE") == "DATE")
        {
            Assert.True(DateOnly.TryParseExact(value, "yyyyMMdd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _), value);
            Assert.False(parameters.ContainsKey("TZID"));
            return;
        }
        Assert.True(
            DateTime.TryParseExact(value.TrimEnd('Z'), "yyyyMMdd'T'HHmmss", CultureInfo.InvariantCulture, DateTimeStyles.None, out _),
            value
        );
        Assert.False(parameters.ContainsKey("TZID") && value.EndsWith('Z'), value);
    }

    private static void CheckRule(Part part, string value)
    {
        var parts = value.Split(';').Select(p => p.Split('=')).ToDictionary(p => p[0], p => p[1]);
        Assert.Contains(parts["FREQ"], new[] { "DAILY", "WEEKLY", "MONTHLY", "YEARLY" });
        Assert.False(parts.ContainsKey("COUNT") && parts.ContainsKey("UNTIL"), value);
        if (parts.TryGetValue("INTERVAL", out var interval))
            Assert.True(int.Parse(interval, CultureInfo.InvariantCulture) > 0);
        if (parts.TryGetValue("BYDAY", out var days))
            Assert.All(days.Split(','), day => Assert.Matches(@"^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$", day));
        // The last day is told as the start is; with hours in UTC, but in the rules of a zone.
        if (parts.TryGetValue("UNTIL", out var until) && part.Name == "VEVENT")
            Assert.Equal(part["DTSTART"]!.Length == 8 ? 8 : 16, until.Length);
        Assert.All(parts.Keys, key => Assert.Contains(key, "FREQ INTERVAL UNTIL COUNT BYDAY BYMONTH BYMONTHDAY WKST".Split(' ')));
    }

    [GeneratedRegex("""^(?<name>[A-Z0-9-]+)(;(?<parameter>[A-Z0-9-]+=("[^"]*"|[^";:,]+)))*:(?<value>.*)$""")]
    private static partial Regex ContentLine();

    [GeneratedRegex(@"^([^\\;,]|\\[\\;,nN])*$")]
    private static partial Regex Text();

    [GeneratedRegex(@"^[+-]?P(\d+W|(\d+D)?(T(\d+H)?(\d+M)?(\d+S)?)?)$")]
    private static partial Regex Duration();
}
