using System.Text.RegularExpressions;
using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Lists;

/// <summary>Reads the cells of the rows of a list as what the rows are given, and says what could not be read.</summary>
internal sealed partial class ListFacts(
    Schedule schedule,
    IReadOnlyList<Person> people,
    DateOnly today,
    DateOrder order,
    ListOptions options,
    ListOwnFields own
)
{
    private readonly Plan _plan = schedule.Plan;

    /// <summary>Names of owners whom nobody here has.</summary>
    public List<string> NewPeople { get; } = [];

    public void Read(MadeRow row)
    {
        var cells = row.Entry.Cells;
        if (cells.TryGetValue(ListColumnKind.Owner, out var owner))
            ReadOwner(row, owner);
        if (cells.TryGetValue(ListColumnKind.Note, out var note))
        {
            row.Cells[ListColumnKind.Note] = note;
            Give(row, ListColumnKind.Note, new SetNote(row.Id, note.Length > PlanTask.LongestNote ? note[..PlanTask.LongestNote] : note));
            if (note.Length > PlanTask.LongestNote)
                row.Problems.Add(
                    new(ListColumnKind.Note, $"The note has {note.Length:N0} characters: the first {PlanTask.LongestNote:N0} are kept.")
                );
        }
        if (ReadDate(row, cells, ListColumnKind.Deadline, schedule.Start.Date) is { } deadline)
            Give(row, ListColumnKind.Deadline, new SetDeadline(row.Id, deadline));
        foreach (var (kind, cell) in cells)
            if (kind.Fact is { } fact)
                ReadFact(row, kind, fact, cell);
        own.Read(row);
        if (row.IsPhase)
        {
            // One that is there says nothing new: lists which are handed out have the dates of phases too.
            foreach (
                var kind in cells.Keys.Where(kind =>
                    row.Existing is null
                    && kind.IsOneOf(ListColumnKind.Length, ListColumnKind.Start, ListColumnKind.Finish, ListColumnKind.Progress)
                )
            )
                row.Problems.Add(
                    new(kind, $"“{MadeRow.Short(cells[kind])}” is left out: a phase gets its dates and progress from the rows inside it.")
                );
            return;
        }
        ReadWork(row, cells);
    }

    private static void Give(MadeRow row, ListColumnKind column, PlanEdit edit) => row.Facts.Add((column, edit));

    private static void ReadFact(MadeRow row, ListColumnKind kind, Fact fact, string cell)
    {
        if (!fact.TryType(cell, out var value, out var problem))
        {
            row.Problems.Add(new(kind, $"{problem} It is left out."));
            return;
        }
        row.Cells[kind] = cell;
        if (fact == PlainFacts.SourceId && CalendarTask.TaskOf(cell) == row.Id)
            return;
        if (row.Existing is not null || !Equals(value, fact.UsualValue))
            Give(row, kind, fact.Give(row.Id, value));
    }

    /// <summary>A cell may name several: the first is the owner, the others help.</summary>
    private void ReadOwner(MadeRow row, string text)
    {
        var found = new List<(string Name, string Typed)>();
        foreach (
            var name in text.Split([',', ';', '/', '&', '+', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        )
        {
            if (PersonText.Find(people, name) is { } person)
                found.Add((person.Name, person.Id));
            else if (name.Length > 80 || name.Any(char.IsControl))
                row.Problems.Add(new(ListColumnKind.Owner, $"“{MadeRow.Short(name)}” is too long for a name: it is left out."));
            else
            {
                if (!NewPeople.Contains(name, StringComparer.OrdinalIgnoreCase))
                    NewPeople.Add(name);
                if (options.MakePeople)
                    found.Add((name, name));
                else
                    row.Problems.Add(new(ListColumnKind.Owner, $"Nobody here is called {MadeRow.Short(name)}: the name is left out."));
            }
        }
        if (found.Count == 0)
            return;
        row.Cells[ListColumnKind.Owner] = string.Join(", ", found.Select(f => f.Name));
        Give(row, ListColumnKind.Owner, new SetOwner(row.Id, string.Join(", ", found.Select(f => f.Typed))));
    }

    private void ReadWork(MadeRow row, Dictionary<ListColumnKind, string> cells)
    {
        var calendar = row.Existing is { } existing ? _plan.EffectiveCalendar(existing) : _plan.ProjectCalendar;
        var near = schedule.Start.Date;
        var (from, to) = (ReadDate(row, cells, ListColumnKind.Start, near), ReadDate(row, cells, ListColumnKind.Finish, near));
        var isAsPlanned = IsAsPlanned(row, from, to);
        var start = isAsPlanned ? null : from?.AsStart(calendar);
        var finish = isAsPlanned ? null : to?.AsFinish(calendar);
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
        var spans =
            start is { } first && finish is { } last
                ? _plan.Project.Units.ToLength(new WorkMinutes(calendar.Between(first, last)))
                : (Length?)null;
        if (spans is { } whole && LengthText.WhyUnusable(whole, _plan.Project.Units) is { } far)
        {
            row.Problems.Add(new(ListColumnKind.Finish, $"{far} It is left out."));
            row.Cells.Remove(ListColumnKind.Finish);
            (finish, spans) = (null, null);
        }
        if (spans is { } spanned)
        {
            var work = _plan.Project.Units.Minutes(spanned);
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
            Give(row, ListColumnKind.Length, new SetMilestone(row.Id, true));
        else if (length is { } known)
            Give(row, ListColumnKind.Length, new SetLength(row.Id, known));
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
            row.Place = at;
    }

    /// <summary>Whether a row of the plan has the dates that the list says, so that nothing follows from them.</summary>
    private bool IsAsPlanned(MadeRow row, DateOrTime? start, DateOrTime? finish)
    {
        if (row.Existing is not { } task || schedule.IsOff(_plan.Index.RowOf(task.Id)))
            return false;
        var (starts, finishes) = (schedule.StartOf(task.Id), schedule.FinishOf(task.Id));
        return (
                start is not { } from
                || (from.Minute is null ? from.Date == starts.Date : PlanTime.On(from.Date, from.Minute.Value) == starts)
            )
            && (
                finish is not { } to
                || (to.Minute is null ? to.Date == finishes.LastDate : PlanTime.On(to.Date, to.Minute.Value) == finishes)
            );
    }

    /// <summary>Whether a row says that it is under way, and not done.</summary>
    private static bool IsBegun(Dictionary<ListColumnKind, string> cells) =>
        cells.TryGetValue(ListColumnKind.Progress, out var text)
        && ListProgress.TryParse(text, out var progress)
        && progress is null or > 0 and < 1;

    private TypedLength? ReadLength(MadeRow row, Dictionary<ListColumnKind, string> cells)
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
            Give(row, ListColumnKind.Length, new SetEstimate(row.Id, estimate));
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

    private DateOrTime? ReadDate(MadeRow row, Dictionary<ListColumnKind, string> cells, ListColumnKind kind, DateOnly near)
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
    private bool ReadProgress(MadeRow row, Dictionary<ListColumnKind, string> cells, PlanTime? start, PlanTime? finish)
    {
        if (!cells.TryGetValue(ListColumnKind.Progress, out var text))
            return false;
        if (!ListProgress.TryParse(text, out var progress))
        {
            row.Problems.Add(
                new(
                    ListColumnKind.Progress,
                    $"“{MadeRow.Short(text)}” is not progress: write done, started or a percentage such as 40%. It is left out."
                )
            );
            return false;
        }
        if (progress == 0)
            return false;
        var now = new DateOrTime(today).AsStart(_plan.ProjectCalendar);
        var began = start is { } s && s.Date <= today ? s : row.Existing?.ActualStart ?? now;
        if (start?.Date > today && row.Cells.ContainsKey(ListColumnKind.Start))
            row.Problems.Add(
                new(ListColumnKind.Start, $"{Dates.Day(start.Value)} is still to come, though it has started: today is taken.")
            );
        if (progress == 1)
        {
            var ended =
                finish is { } f && f.LastDate <= today
                    ? f
                    : row.Existing?.ActualFinish ?? new DateOrTime(today).AsFinish(_plan.ProjectCalendar);
            if (finish?.LastDate > today && row.Cells.ContainsKey(ListColumnKind.Finish))
                row.Problems.Add(
                    new(ListColumnKind.Finish, $"{Dates.FinishDay(finish.Value)} is still to come, though it is done: today is taken.")
                );
            row.Cells[ListColumnKind.Progress] = "done";
            Give(row, ListColumnKind.Progress, new SetTracking(row.Id, 1, PlanTime.Min(began, ended), ended));
        }
        else
        {
            row.Cells[ListColumnKind.Progress] = progress is { } part ? $"{part * 100:0.#}%" : "started";
            Give(row, ListColumnKind.Progress, new SetTracking(row.Id, progress ?? row.Existing?.Progress ?? 0, began, null));
        }
        return true;
    }
}
