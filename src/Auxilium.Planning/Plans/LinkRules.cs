using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Plans;

/// <summary>Which links a plan refuses whatever the dates are (rule K3). Circles show up when the plan is put in order.</summary>
public static class LinkRules
{
    /// <summary>A task has at most this many links before it.</summary>
    public const int MostPredecessors = 500;

    /// <summary>A plan has at most this many links.</summary>
    public const int MostLinks = 60_000;

    /// <summary>Finds the first refused link, with its position.</summary>
    public static (int Link, PlanProblem Problem)? FirstRefusal(Plan plan)
    {
        var seen = new HashSet<(string, string)>();
        for (var i = 0; i < plan.Links.Length; i++)
        {
            if (Refusal(plan, plan.Links[i]) is { } problem)
                return (i, problem);
            if (!seen.Add((plan.Links[i].From, plan.Links[i].To)))
                return (i, Duplicate(plan, plan.Links[i]));
        }
        return null;
    }

    /// <summary>Why a link between two existing tasks is refused, or <c>null</c>.</summary>
    public static PlanProblem? Refusal(Plan plan, PlanLink link)
    {
        var index = plan.Index;
        var (from, to) = (index.RowOf(link.From), index.RowOf(link.To));
        if (from == to)
            return PlanProblem.About("linkToItself", $"{Named(plan, from)} cannot come after itself: name another row.", link.From);
        if (index.IsDescendant(to, from))
            return PlanProblem.About(
                "linkToOwnPhase",
                $"{Named(plan, from)} is a phase with {Named(plan, to)} inside it, so neither can wait for the other: link "
                    + $"{Named(plan, to)} to a task outside the phase.",
                link.From,
                link.To
            );
        if (index.IsDescendant(from, to))
            return PlanProblem.About(
                "linkToOwnPhase",
                $"{Named(plan, from)} is inside the phase {Named(plan, to)}, so neither can wait for the other: link tasks inside the "
                    + "phase to each other.",
                link.From,
                link.To
            );
        if (link.ToFinish && index.IsPhase(to))
            return PlanProblem.About(
                "linkToPhaseFinish",
                $"{Named(plan, to)} is a phase, and its finish follows from the rows inside it: let it come after {Named(plan, from)} "
                    + "or start with it, or link a row inside it.",
                link.From,
                link.To
            );
        return null;
    }

    public static PlanProblem Duplicate(Plan plan, PlanLink link) =>
        PlanProblem.About(
            "duplicateLink",
            $"{Named(plan, plan.Index.RowOf(link.To))} already comes after {Named(plan, plan.Index.RowOf(link.From))}: name each row "
                + "once.",
            link.From,
            link.To
        );

    public static PlanProblem Circle(Plan plan, IReadOnlyList<string> tasks)
    {
        var names = tasks.Append(tasks[0]).Select(id => Named(plan, plan.Index.RowOf(id)));
        return new PlanProblem(
            "circle",
            $"This would go round in a circle: {string.Join(" → ", names)}. Leave out one of these links.",
            [.. tasks]
        );
    }

    /// <summary>A task as sentences name it: its number and name.</summary>
    public static string Named(Plan plan, int row) => $"{plan.Index.NumberOf(row)} “{LengthText.Shorten(plan.Tasks[row].Name)}”";
}
