namespace Auxilium.Planning.Plans;

/// <summary>What a plan costs to be worked out and kept, estimated before either is done.</summary>
public static class PlanCost
{
    /// <summary>Of all calendars that tasks go by, stretches of days between which the work differs.</summary>
    public const int MostStretches = 300_000;

    /// <summary>A calendar builds on at most so many others, one on another.</summary>
    public const int DeepestCalendar = 20;

    private const int PerCalendar = 100;
    private const int BytesPerRow = 2_000;
    private const int BytesPerLink = 250;
    private const int BytesPerBaselineRow = 200;
    private const int BytesPerStretch = 60;
    private const int BytesPerCalendar = 40_000;

    /// <summary>Why a plan's calendars come to more than can be worked out; <c>null</c> when they do not.</summary>
    public static string? WhyTooMuch(Plan plan)
    {
        if (plan.Calendars.IsEmpty)
            return null;
        var bases = new Bases(plan);
        if (plan.Calendars.FirstOrDefault(c => bases.DepthOf(c.Id) > DeepestCalendar) is { } deep)
            return $"“{deep.Name}” builds on a calendar that builds on another, more than {DeepestCalendar} deep: let it build on one "
                + "nearer the first.";
        var (stretches, combinations) = Stretches(plan, bases);
        return stretches <= MostStretches
            ? null
            : $"The calendars of this plan come to {combinations:N0} combinations of a task’s and its owner’s with {stretches:N0} "
                + $"stretches of days, and at most {MostStretches:N0} can be worked out: use fewer calendars, or fewer days of their "
                + "own in them.";
    }

    /// <summary>Bytes that a plan takes with its dates and what is drawn of it, about.</summary>
    public static long BytesOf(Plan plan)
    {
        var (stretches, combinations) = plan.Calendars.IsEmpty ? (0, 0) : Stretches(plan, new Bases(plan));
        var texts = plan.Tasks.Sum(t => 2L * (t.Name.Length + t.Note.Length));
        return 20_000
            + (long)BytesPerRow * plan.Tasks.Length
            + (long)BytesPerLink * plan.Links.Length
            + (long)BytesPerBaselineRow * plan.Baselines.Sum(b => b.Rows.Length)
            + texts
            + (long)BytesPerStretch * stretches
            + (long)BytesPerCalendar * combinations;
    }

    private static (long Stretches, int Combinations) Stretches(Plan plan, Bases bases)
    {
        var calendarOf = plan.People.Where(p => p.Calendar is not null).DistinctBy(p => p.Id).ToDictionary(p => p.Id, p => p.Calendar);
        var used = new HashSet<(string?, string?)> { (plan.Project.Calendar, null) };
        foreach (var task in plan.Tasks)
            if (!task.AroundTheClock)
                used.Add((task.Calendar, task.Owner is { } owner ? calendarOf.GetValueOrDefault(owner) : null));
        var single = used.SelectMany(pair => new[] { pair.Item1, pair.Item2 }).OfType<string>().Distinct();
        var stretches =
            single.Sum(id => (long)bases.StretchesOf(id))
            + used.Where(pair => pair.Item1 is not null && pair.Item2 is not null && pair.Item1 != pair.Item2)
                .Sum(pair => (long)bases.StretchesOf(pair.Item1!) + bases.StretchesOf(pair.Item2!));
        return (stretches, used.Count);
    }

    /// <summary>What calendars build on, each gone through once.</summary>
    private sealed class Bases
    {
        private readonly Dictionary<string, (int Depth, int Stretches)> _known = [];
        private readonly Dictionary<string, Calendars.WorkCalendar> _calendars;

        public Bases(Plan plan)
        {
            _calendars = plan.Calendars.DistinctBy(c => c.Id).ToDictionary(c => c.Id);
            foreach (var calendar in plan.Calendars)
                Go(calendar.Id);
        }

        public int DepthOf(string id) => _known.GetValueOrDefault(id).Depth;

        public int StretchesOf(string id) => _known.GetValueOrDefault(id).Stretches;

        private void Go(string id)
        {
            var path = new List<string>();
            var seen = new HashSet<string>();
            for (
                var at = id;
                at is not null && !_known.ContainsKey(at) && seen.Add(at) && _calendars.TryGetValue(at, out var calendar);
                at = calendar.Base
            )
                path.Add(at);
            for (var i = path.Count - 1; i >= 0; i--)
            {
                var calendar = _calendars[path[i]];
                var below = calendar.Base is { } next ? _known.GetValueOrDefault(next) : default;
                _known[path[i]] = (below.Depth + 1, below.Stretches + 2 * calendar.Exceptions.Length + PerCalendar);
            }
        }
    }
}
