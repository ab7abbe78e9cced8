using Auxilium.Planning.Money;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Says what an edit of a plan did to its cost and budget, to those who may know (rule M7).</summary>
internal sealed class MoneyRipples(ProjectMoney money, ProjectRoles roles, Today today)
{
    /// <returns><c>null</c> for whoever may not know, and where nothing changed.</returns>
    public async Task<MoneyRippleDocument?> OfAsync(
        HttpContext context,
        StoredPlan plan,
        Schedule before,
        Schedule after,
        CancellationToken cancel
    )
    {
        if (!await context.HasMoneyAsync(roles))
            return null;
        var counted = await money.OfAsync(plan, today.Date, null, cancel);
        if (counted.Money.Ledger.IsEmpty)
            return null;
        var ripple = MoneyRipple.Between(counted.On(before), counted.On(after));
        return ripple.IsChange ? MoneyRippleDocument.Of(ripple, await money.TextAsync(cancel)) : null;
    }
}
