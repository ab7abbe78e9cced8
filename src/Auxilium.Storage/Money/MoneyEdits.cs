using Auxilium.Planning.Money;
using Auxilium.Storage.Plans;

namespace Auxilium.Storage.Money;

/// <summary>A change of money that somebody wants.</summary>
/// <param name="Id">Made for it: sent twice, it is applied once.</param>
/// <param name="Seen">The version of the money that it was made on.</param>
/// <param name="Edit">The change; <c>null</c> to take one back.</param>
/// <param name="By">Id of who makes it.</param>
/// <param name="Redo">Whether, of what was taken back, the last is done again.</param>
public sealed record MoneyRequest(Guid Id, int Seen, MoneyEdit? Edit, string By, bool Redo = false);

/// <summary>What came of a change to money, and what it did to the cost.</summary>
/// <param name="Told">Both in sentences.</param>
public sealed record MoneyChanged(MoneyOutcome Outcome, MoneyRipple Ripple, MoneyText Text, string Told);

/// <summary>Changes the money of projects, and tells what each change did.</summary>
public sealed class MoneyEdits(ProjectMoney money, Ledgers ledgers)
{
    /// <exception cref="Planning.Editing.EditRefusedException">It makes no sense on the plan or money as they are now.</exception>
    public async Task<MoneyChanged> CommitAsync(StoredPlan plan, MoneyRequest request, DateOnly today, CancellationToken cancel = default)
    {
        var text = await money.TextAsync(cancel);
        var before = await money.OfAsync(plan, today, null, cancel);
        var outcome = await ledgers.CommitAsync(plan.Project, plan.Schedule.Plan, request, text, cancel);
        var after = outcome.IsDone ? before.With(outcome.After) : before;
        var ripple = MoneyRipple.Between(before.Money, after.Money);
        return new MoneyChanged(outcome, ripple, text, $"{outcome.Sentence} {ripple.Say(text)}".TrimEnd());
    }
}
