using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests;

/// <summary>
/// A plan in a few lines, for arranging tests: one row a line, indented by two spaces a level, <c>name length after A, B + 2d</c>,
/// or after the first word of the links <c>with A</c>, <c>ends with A</c>, <c>ends after A starts</c>, <c>+ 12h elapsed</c>;
/// a name is one word and the row's id. A length of <c>milestone</c> makes one. The first line may be <c>start 2027-05-03</c>.
/// </summary>
internal static class PlanText
{
    /// <summary>A Monday.</summary>
    public static readonly PlanTime DefaultStart = PlanTime.At(2027, 5, 3, 9);

    public static Plan Plan(string text)
    {
        var start = DefaultStart;
        var tasks = ImmutableArray.CreateBuilder<PlanTask>();
        var links = ImmutableArray.CreateBuilder<PlanLink>();
        var phases = new List<string>();
        foreach (var line in text.Split('\n').Where(l => l.Trim().Length > 0))
        {
            var level = (line.Length - line.TrimStart().Length) / 2;
            var words = line.Trim().Split(' ', 3);
            if (words[0] == "start")
            {
                start = PlanTime.Parse(words[1]);
                continue;
            }
            phases = [.. phases.Take(level)];
            var task = new PlanTask
            {
                Id = words[0],
                Name = words[0],
                Parent = phases.LastOrDefault(),
            };
            if (words.Length > 1 && words[1] == "milestone")
                task = task with { Milestone = true, Length = Length.Zero };
            else if (words.Length > 1 && LengthText.TryParse(words[1], out var length, out _, out _))
                task = task with { Length = length };
            phases.Add(task.Id);
            tasks.Add(task);
            if (words.Length > 2)
                links.AddRange(Links(words[0], words[2]));
        }
        return Planning.Plans.Plan.Empty("Test", start) with { Tasks = tasks.ToImmutable(), Links = links.ToImmutable() };
    }

    public static Schedule Schedule(string text) => Scheduler.Calculate(Plan(text));

    public static Plan With(this Plan plan, string id, Func<PlanTask, PlanTask> change)
    {
        var row = plan.Index.RowOf(id);
        return plan with { Tasks = plan.Tasks.SetItem(row, change(plan.Tasks[row])) };
    }

    public static Schedule Calculate(this Plan plan) => Scheduler.Calculate(plan);

    public static string Dates(this Schedule schedule, string id) => $"{schedule.StartOf(id)} – {schedule.FinishOf(id)}";

    private static IEnumerable<PlanLink> Links(string to, string text)
    {
        foreach (var part in text.Split(", "))
        {
            var words = part.Split(' ').ToList();
            var elapsed = words.Remove("elapsed");
            var kind =
                words.Remove("starts") ? LinkKind.StartToFinish
                : words.Remove("ends") ? LinkKind.FinishToFinish
                : words[0] == "with" ? LinkKind.StartToStart
                : LinkKind.FinishToStart;
            words.RemoveAll(w => w is "after" or "with" or "ends");
            var lag = Length.Zero;
            if (words.Count == 3)
            {
                Assert.True(LengthText.TryParse(words[2], out lag, out _, out _));
                if (words[1] == "-")
                    lag = lag with { Amount = -lag.Amount };
            }
            yield return new PlanLink(words[0], to, lag, kind, elapsed);
        }
    }
}
