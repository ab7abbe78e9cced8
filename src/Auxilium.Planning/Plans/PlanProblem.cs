using System.Collections.Immutable;

namespace Auxilium.Planning.Plans;

/// <summary>Something that keeps a plan from being calculated, said to a person.</summary>
/// <param name="Code">Stable name of the kind of problem, such as <c>circle</c>.</param>
/// <param name="Message">One sentence with the names of the culprits and what would be right.</param>
/// <param name="Tasks">Ids of the tasks it is about; for a circle in the order it goes round.</param>
/// <param name="Path">Where in a plan document, when it came from one.</param>
public sealed record PlanProblem(string Code, string Message, ImmutableArray<string> Tasks, string Path = "")
{
    public static PlanProblem About(string code, string message, params string[] tasks) => new(code, message, [.. tasks]);
}

/// <summary>The plan cannot be calculated: rules that no schedule can honour.</summary>
public sealed class UnsoundPlanException(IReadOnlyList<PlanProblem> problems)
    : Exception(string.Join(" ", problems.Select(p => p.Message)))
{
    public IReadOnlyList<PlanProblem> Problems => problems;
}
