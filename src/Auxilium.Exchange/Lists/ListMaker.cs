using System.Collections.Immutable;
using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Lists;

/// <summary>Makes the edit that adds the rows of a list, and says what of them could not be read.</summary>
internal sealed partial class ListMaker(
    Schedule schedule,
    IReadOnlyList<Person> people,
    DateOnly today,
    DateOrder order,
    ListOptions options
)
{
    private readonly Plan _plan = schedule.Plan;
    private readonly List<PlanEdit> _adds = [];
    private readonly List<PlanEdit> _facts = [];
    private readonly List<(PlanTime At, PlanEdit Edit)> _places = [];
    private readonly List<PlanEdit> _repeats = [];
    private readonly List<string> _newPeople = [];
    private readonly Dictionary<ListColumnKind, OwnField> _newFields = [];

    /// <param name="Phase">The row that it is in.</param>
    /// <param name="At">Its place in the list.</param>
    /// <param name="End">The place after the last row inside it.</param>
    private sealed record Row(ListReader.Entry Entry, string Id, Row? Phase, int At, int End)
    {
        public bool IsPhase => End > At + 1;

        public bool Holds(Row other) => At < other.At && other.At < End;

        public List<ListProblem> Problems { get; } = [];

        public Dictionary<ListColumnKind, string> Cells { get; } = [];

        public List<Predecessor> Before { get; } = [];

        /// <summary>The rows that those links come from.</summary>
        public List<Row> Waits { get; } = [];
    }

    public ListReading Make(IReadOnlyList<ListReader.Entry> entries, IReadOnlyList<ListColumn> columns, bool ask)
    {
        var rows = RowsOf(entries);
        AddRows(rows);
        AddFields(entries, columns);
        foreach (var row in rows)
            ReadCells(row);
        ReadLinks(rows);
        ReadRepeats(rows);
        var links = rows.Where(row => row.Before.Count > 0).Select(row => new SetPredecessors(row.Id, [.. row.Before]));
        var edit = new Together([
            .. _adds,
            .. _facts,
            .. links,
            .. _places.OrderBy(place => place.At).Select(place => place.Edit),
            .. _repeats,
        ]);
        var problem = WhyRefused(edit, rows);
        return new ListReading(
            columns,
            [
                .. rows.Select(row => new ListRow(
                    row.Entry.Line,
                    row.Id,
                    row.Entry.Level,
                    row.Entry.Number,
                    row.Entry.Name,
                    row.IsPhase,
                    row.Cells,
                    row.Problems
                )),
            ],
            order,
            ask,
            _newPeople,
            problem,
            problem is null ? edit : null
        );
    }

    private static List<Row> RowsOf(IReadOnlyList<ListReader.Entry> entries)
    {
        var rows = new List<Row>(entries.Count);
        for (var at = 0; at < entries.Count; at++)
        {
            var end = at + 1;
            while (end < entries.Count && entries[end].Level > entries[at].Level)
                end++;
            var phase = at == 0 ? null : rows[at - 1];
            while (phase is not null && phase.Entry.Level >= entries[at].Level)
                phase = phase.Phase;
            rows.Add(new Row(entries[at], PlanIds.New(), phase, at, end));
        }
        return rows;
    }

    private void AddRows(List<Row> rows)
    {
        // By level: the row last added there.
        var last = new List<string>();
        foreach (var row in rows)
        {
            var name = row.Entry.Name;
            if (name.Length > PlanTask.LongestName)
            {
                row.Problems.Add(
                    new(ListColumnKind.Task, $"The name has {name.Length:N0} characters: the first {PlanTask.LongestName} are kept.")
                );
                name = name[..PlanTask.LongestName];
            }
            var level = row.Entry.Level;
            var parent = level == 0 ? options.Parent : last[level - 1];
            var after =
                last.Count > level ? last[level]
                : level == 0 ? options.After
                : null;
            _adds.Add(new AddTask(row.Id, name, parent, after));
            last.RemoveRange(Math.Min(level, last.Count), Math.Max(0, last.Count - level));
            last.Add(row.Id);
        }
    }

    private void ReadCells(Row row)
    {
        var cells = row.Entry.Cells;
        if (cells.TryGetValue(ListColumnKind.Owner, out var owner))
            ReadOwner(row, owner);
        if (cells.TryGetValue(ListColumnKind.Note, out var note))
        {
            row.Cells[ListColumnKind.Note] = note;
            _facts.Add(new SetNote(row.Id, note.Length > PlanTask.LongestNote ? note[..PlanTask.LongestNote] : note));
            if (note.Length > PlanTask.LongestNote)
                row.Problems.Add(
                    new(ListColumnKind.Note, $"The note has {note.Length:N0} characters: the first {PlanTask.LongestNote:N0} are kept.")
                );
        }
        if (ReadDate(row, cells, ListColumnKind.Deadline, schedule.Start.Date) is { } deadline)
            _facts.Add(new SetDeadline(row.Id, deadline));
        foreach (var (kind, cell) in cells)
            if (kind.Fact is { } fact)
                ReadFact(row, kind, fact, cell);
            else if ((kind.Field ?? _newFields.GetValueOrDefault(kind)) is { } field)
                ReadOwn(row, kind, field, cell);
        if (row.IsPhase)
        {
            foreach (
                var kind in cells.Keys.Where(kind =>
                    kind.IsOneOf(ListColumnKind.Length, ListColumnKind.Start, ListColumnKind.Finish, ListColumnKind.Progress)
                )
            )
                row.Problems.Add(
                    new(kind, $"“{LengthTextOf(cells[kind])}” is left out: a phase gets its dates and progress from the rows inside it.")
                );
            return;
        }
        ReadWork(row, cells);
    }

    private void ReadFact(Row row, ListColumnKind kind, Fact fact, string cell)
    {
        if (!fact.TryType(cell, out var value, out var problem))
        {
            row.Problems.Add(new(kind, $"{problem} It is left out."));
            return;
        }
        row.Cells[kind] = cell;
        if (!Equals(value, fact.UsualValue))
            _facts.Add(fact.Give(row.Id, value));
    }

    /// <summary>Makes fields of the columns that are to be some, of the kind that all their cells are.</summary>
    private void AddFields(IReadOnlyList<ListReader.Entry> entries, IReadOnlyList<ListColumn> columns)
    {
        var (ids, names) = (
            _plan.Project.Fields.Select(field => field.Id).ToHashSet(),
            _plan.Project.Fields.Select(field => field.Name).ToHashSet(StringComparer.OrdinalIgnoreCase)
        );
        foreach (var (kind, heading, _) in columns.Where(column => column.Kind.IsNew))
        {
            var name = heading.Length is 0 ? "Field" : heading[..Math.Min(heading.Length, OwnField.LongestName - 3)].Trim();
            var own = name;
            for (var i = 2; !names.Add(own); i++)
                own = $"{name} {i}";
            var cells = entries.Select(entry => entry.Cells.GetValueOrDefault(kind)).OfType<string>().ToList();
            var field = new OwnField(OwnField.IdFor(own, ids), own, KindOf(own, cells));
            ids.Add(field.Id);
            _newFields.Add(kind, field);
        }
        if (_newFields.Count > 0)
            _facts.Add(new SetFields([.. _plan.Project.Fields, .. _newFields.Values]));
    }

    private OwnKind KindOf(string name, List<string> cells)
    {
        foreach (var kind in new[] { OwnKind.YesNo, OwnKind.Number, OwnKind.Date })
            if (
                cells.Count > 0
                && cells.All(cell => OwnText.TryRead(new OwnField("x", name, kind), cell, today, schedule.Start.Date, out _, out _))
            )
                return kind;
        return OwnKind.Text;
    }

    private void ReadOwn(Row row, ListColumnKind kind, OwnField field, string cell)
    {
        if (!OwnText.TryRead(field, cell, today, schedule.Start.Date, out var value, out var problem))
        {
            row.Problems.Add(new(kind, $"{problem} It is left out."));
            return;
        }
        row.Cells[kind] = cell;
        if (value is not null)
            _facts.Add(new SetOwn(row.Id, field.Id, value));
    }

    private void ReadRepeats(List<Row> rows)
    {
        for (var i = 0; i < rows.Count && i < options.Repeats?.Count; i++)
        {
            if (options.Repeats[i] is not { } repeat)
                continue;
            if (repeat.Rule is { } rule)
                _repeats.Add(new RepeatTask(rows[i].Id, rule));
            if (repeat.Problem is { } problem)
                rows[i].Problems.Add(new(null, problem));
        }
    }

    /// <summary>A cell may name several: the first is the owner, the others help.</summary>
    private void ReadOwner(Row row, string text)
    {
        var found = new List<(string Name, string Typed)>();
        foreach (
            var name in text.Split([',', ';', '/', '&', '+', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        )
        {
            if (PersonText.Find(people, name) is { } person)
                found.Add((person.Name, person.Id));
            else if (name.Length > 80 || name.Any(char.IsControl))
                row.Problems.Add(new(ListColumnKind.Owner, $"“{LengthTextOf(name)}” is too long for a name: it is left out."));
            else
            {
                if (!_newPeople.Contains(name, StringComparer.OrdinalIgnoreCase))
                    _newPeople.Add(name);
                if (options.MakePeople)
                    found.Add((name, name));
                else
                    row.Problems.Add(new(ListColumnKind.Owner, $"Nobody here is called {LengthTextOf(name)}: the name is left out."));
            }
        }
        if (found.Count == 0)
            return;
        row.Cells[ListColumnKind.Owner] = string.Join(", ", found.Select(f => f.Name));
        _facts.Add(new SetOwner(row.Id, string.Join(", ", found.Select(f => f.Typed))));
    }

    private void ReadWork(Row row, Dictionary<ListColumnKind, string> cells)
    {
        var calendar = _plan.ProjectCalendar;
        var near = schedule.Start.Date;
        var start = ReadDate(row, cells, ListColumnKind.Start, near)?.AsStart(calendar);
        var finish = ReadDate(row, cells, ListColumnKind.Finish, near)?.AsFinish(calendar);
        if (start is { } s && finish is { } f && f < s)
        {
            row.Problems.Add(
                new(ListColumnKind.Finish, $"The finish, {Dates.FinishDay(f)}, is before the start, {Dates.Day(s)}: it is left out.")
            );
            row.Cells.Remove(ListColumnKind.Finish);
            finish = null;
        }
        var length = ReadLength(row, cells);
        if (start is null && finish is { } planned && IsBegun(cells))
        {
            // A task that has begun without a start date began today; its finish gives its length.
            var began = new DateOrTime(today).AsStart(calendar);
            if (planned > began)
                start = began;
        }
        if (start is { } from && finish is { } to)
        {
            var work = new WorkMinutes(calendar.Between(from, to));
            var spanned = _plan.Project.Units.ToLength(work);
            if (length is { } said && _plan.Project.Units.Minutes(said.Length) != work)
                row.Problems.Add(
                    new(
                        ListColumnKind.Length,
                        $"“{cells[ListColumnKind.Length]}” does not go with the dates, which come to {spanned.InWords()}: the dates "
                            + "are taken."
                    )
                );
            length = new TypedLength(spanned);
            row.Cells[ListColumnKind.Length] = length.Value.ToString();
        }
        var milestone = length is { Length.IsZero: true };
        if (milestone)
            _facts.Add(new SetMilestone(row.Id, true));
        else if (length is { } known)
            _facts.Add(new SetLength(row.Id, known));
        var minutes = milestone ? 0 : _plan.Project.Units.Minutes(length?.Length ?? Length.OneDay).Count;
        if (start is null && finish is { } over && IsBegun(cells))
        {
            row.Problems.Add(
                new(ListColumnKind.Finish, $"{Dates.FinishDay(over)} has passed and it is not done: the finish is left out.")
            );
            row.Cells.Remove(ListColumnKind.Finish);
            finish = null;
        }
        if (start is null && finish is { } end)
            start = milestone ? end : calendar.Next(calendar.Add(end, -minutes));
        var begun = ReadProgress(row, cells, start, finish ?? (start is { } b ? calendar.Add(b, minutes) : null));
        if (!begun && start is { } at)
            _places.Add((at, new PlaceTask(row.Id, at)));
    }

    /// <summary>Whether a row says that it is under way, and not done.</summary>
    private static bool IsBegun(Dictionary<ListColumnKind, string> cells) =>
        cells.TryGetValue(ListColumnKind.Progress, out var text)
        && ListProgress.TryParse(text, out var progress)
        && progress is null or > 0 and < 1;

    private TypedLength? ReadLength(Row row, Dictionary<ListColumnKind, string> cells)
    {
        if (!cells.TryGetValue(ListColumnKind.Length, out var text))
            return null;
        if (text.Equals("milestone", StringComparison.OrdinalIgnoreCase))
            return Said(Length.Zero, false);
        if (TryRange(text, out var range))
            return Ranged(range);
        if (
            !LengthText.TryParse(text, out var length, out var guess, out var problem, _plan.Project.Units)
            || (problem = LengthText.WhyUnusable(length, _plan.Project.Units) ?? "").Length > 0
        )
        {
            row.Problems.Add(new(ListColumnKind.Length, $"{problem} It gets a guess of one day."));
            return null;
        }
        return Said(length, guess);

        TypedLength Said(Length said, bool tentative)
        {
            row.Cells[ListColumnKind.Length] = said.IsZero ? "milestone" : new TypedLength(said, tentative).ToString();
            return new TypedLength(said, tentative);
        }

        TypedLength? Ranged(LengthEstimate estimate)
        {
            if (SplitRules.WhyRefused(estimate, false, _plan.Project.Units) is { } why)
            {
                row.Problems.Add(new(ListColumnKind.Length, $"{why} It gets a guess of one day."));
                return null;
            }
            _facts.Add(new SetEstimate(row.Id, estimate));
            row.Cells[ListColumnKind.Length] = $"{estimate.Likely}?, from {estimate.Low} to {estimate.High}";
            return new TypedLength(estimate.Likely, Tentative: true);
        }
    }

    internal static bool IsRange(string text) => TryRange(text, out _);

    /// <summary>Such as “2-3 days” or “1 to 2 weeks”: the likely length lies in the middle.</summary>
    private static bool TryRange(string text, out LengthEstimate range)
    {
        range = null!;
        var parts = Range().Match(text.Trim().TrimEnd('?'));
        if (!parts.Success || !LengthText.TryParse(parts.Groups["high"].Value, out var high, out _, out _))
            return false;
        var low = parts.Groups["low"].Value.Trim();
        if (!LengthText.TryParse(low, out var least, out _, out _))
            return false;
        if (!low.Any(char.IsLetter))
            least = least with { Unit = high.Unit };
        range = new LengthEstimate(least, least.Unit == high.Unit ? high with { Amount = (least.Amount + high.Amount) / 2 } : high, high);
        return true;
    }

    [GeneratedRegex(
        @"^(?<low>\d+([.,]\d+)?\s*[a-z]*)\s*(-|–|—|to|or)\s*(?<high>\d+([.,]\d+)?\s*[a-z]+)$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Range();

    private DateOrTime? ReadDate(Row row, Dictionary<ListColumnKind, string> cells, ListColumnKind kind, DateOnly near)
    {
        if (!cells.TryGetValue(kind, out var text))
            return null;
        if (ListDates.TryParse(text, today, near, order, out var date, out var problem))
        {
            row.Cells[kind] =
                date.Date.ToString("ddd d MMM yyyy", System.Globalization.CultureInfo.InvariantCulture)
                + (date.Minute is { } minute ? $", {minute / 60}:{minute % 60:00}" : "");
            return date;
        }
        row.Problems.Add(new(kind, $"{problem} It is left out."));
        return null;
    }

    /// <returns>Whether it has begun, so that its dates are actual ones.</returns>
    private bool ReadProgress(Row row, Dictionary<ListColumnKind, string> cells, PlanTime? start, PlanTime? finish)
    {
        if (!cells.TryGetValue(ListColumnKind.Progress, out var text))
            return false;
        if (!ListProgress.TryParse(text, out var progress))
        {
            row.Problems.Add(
                new(
                    ListColumnKind.Progress,
                    $"“{LengthTextOf(text)}” is not progress: write done, started or a percentage such as 40%. It is left out."
                )
            );
            return false;
        }
        if (progress == 0)
            return false;
        var now = new DateOrTime(today).AsStart(_plan.ProjectCalendar);
        var began = start is { } s && s.Date <= today ? s : now;
        if (start?.Date > today && row.Cells.ContainsKey(ListColumnKind.Start))
            row.Problems.Add(
                new(ListColumnKind.Start, $"{Dates.Day(start.Value)} is still to come, though it has started: today is taken.")
            );
        if (progress == 1)
        {
            var ended = finish is { } f && f.LastDate <= today ? f : new DateOrTime(today).AsFinish(_plan.ProjectCalendar);
            if (finish?.LastDate > today && row.Cells.ContainsKey(ListColumnKind.Finish))
                row.Problems.Add(
                    new(ListColumnKind.Finish, $"{Dates.FinishDay(finish.Value)} is still to come, though it is done: today is taken.")
                );
            row.Cells[ListColumnKind.Progress] = "done";
            _facts.Add(new SetTracking(row.Id, 1, PlanTime.Min(began, ended), ended));
        }
        else
        {
            row.Cells[ListColumnKind.Progress] = progress is { } part ? $"{part * 100:0.#}%" : "started";
            _facts.Add(new SetTracking(row.Id, progress ?? 0, began, null));
        }
        return true;
    }

    /// <summary>By the list's own numbers, else by the order of its lines; also by name.</summary>
    private static void ReadLinks(List<Row> rows)
    {
        var numbers = new Dictionary<string, Row>();
        var hasOwn = rows.Any(row => row.Entry.Number.Length > 0);
        for (var i = 0; i < rows.Count; i++)
            numbers.TryAdd(hasOwn ? rows[i].Entry.Number : $"{i + 1}", rows[i]);
        var names = new Dictionary<string, Row>(StringComparer.OrdinalIgnoreCase);
        foreach (var row in rows)
            names.TryAdd(row.Entry.Name, row);
        foreach (var row in rows)
        {
            if (!row.Entry.Cells.TryGetValue(ListColumnKind.After, out var text) || text is "-" or "–")
                continue;
            foreach (var (before, link, problem) in Named(text, numbers, names))
            {
                var why = problem ?? WhyNot(row, before!, rows);
                if (why is not null)
                    row.Problems.Add(new(ListColumnKind.After, $"{why} It is left out."));
                else
                    Link(row, before!, link);
            }
            if (row.Before.Count > 0)
                row.Cells[ListColumnKind.After] = text;
        }
    }

    private static void Link(Row row, Row before, TypedLink link)
    {
        row.Before.Add(new Predecessor(before.Id, link.Lag, null, link.Kind, link.Elapsed));
        row.Waits.Add(before);
    }

    private static IEnumerable<(Row? Row, TypedLink Link, string? Problem)> Named(
        string text,
        Dictionary<string, Row> numbers,
        Dictionary<string, Row> names
    )
    {
        if (names.TryGetValue(text.Trim(), out var whole))
            return [(whole, new TypedLink("", Length.Zero), null)];
        if (LinkText.TryParse(text, out var links, out var problem))
            return links.Select(link =>
                numbers.TryGetValue(link.Number, out var row)
                    ? (row, link, null)
                    : ((Row?)null, link, $"The list has no row {link.Number}.")
            );
        return text.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(part =>
                names.TryGetValue(part, out var row)
                    ? (row, new TypedLink("", Length.Zero), null)
                    : ((Row?)null, default(TypedLink), (string?)problem)
            );
    }

    private static string? WhyNot(Row row, Row before, List<Row> rows)
    {
        if (row.At == before.At)
            return "A row cannot come after itself.";
        if (row.Before.Any(p => p.From == before.Id))
            return $"“{LengthTextOf(before.Entry.Name)}” is named twice.";
        if (row.Holds(before) || before.Holds(row))
            return $"“{LengthTextOf(before.Entry.Name)}” and this row are one inside the other, and cannot follow each other.";
        return Follows(before, row, rows)
            ? $"“{LengthTextOf(before.Entry.Name)}” comes after this row already: two rows cannot follow each other."
            : null;
    }

    /// <summary>
    /// Whether a row comes after another, step by step: by its own links, those of the phases it is in and of the rows in it.
    /// </summary>
    private static bool Follows(Row row, Row other, List<Row> rows)
    {
        var seen = new HashSet<int>();
        var waiting = new Stack<Row>([row]);
        while (waiting.TryPop(out var at))
        {
            if (!seen.Add(at.At))
                continue;
            if (at.At == other.At || at.Holds(other) || other.Holds(at))
                return true;
            for (var near = at.At; near < at.End; near++)
                rows[near].Waits.ForEach(waiting.Push);
            for (var up = at.Phase; up is not null; up = up.Phase)
                up.Waits.ForEach(waiting.Push);
        }
        return false;
    }

    /// <summary>What the rules say of the whole: tried before anybody is asked to confirm it.</summary>
    private string? WhyRefused(PlanEdit edit, List<Row> rows)
    {
        try
        {
            EditPipeline.Run(schedule, edit, today, people);
            return null;
        }
        catch (EditRefusedException refused)
        {
            var row = rows.Find(r => r.Id == refused.Task);
            row?.Problems.Add(new(null, refused.Message));
            return row is null ? refused.Message : $"Line {row.Entry.Line}, “{LengthTextOf(row.Entry.Name)}”: {refused.Message}";
        }
    }

    private static string LengthTextOf(string text) => text.Length <= 40 ? text : text[..39] + "…";
}
