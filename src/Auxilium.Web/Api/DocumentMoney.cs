using Auxilium.Exchange.PlanDocuments;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Money in a plan document that is brought in: only by those who may have it (rule M7).</summary>
internal static class DocumentMoney
{
    /// <exception cref="UnreadableDocumentException">It has money, or rates, and whoever brings it may not have these.</exception>
    public static void Check(PlanDocument document, HttpContext context)
    {
        if (context.User.IsOrganiser())
            return;
        // Whoever makes a project coordinates it, unless the document names somebody else.
        if (document.HasMoney && document.Plan.Project.Coordinator is { } other && other != context.User.PersonId())
            throw Missing(
                "$",
                "There is money in this document, and only who coordinates the project may bring it in: that is somebody else."
            );
        var paid = document
            .Plan.People.Select((person, at) => (person, at))
            .FirstOrDefault(p => document.Ledger.Rates.ContainsKey(p.person.Id));
        if (paid.person is not null)
            throw Missing(
                $"$.people[{paid.at}].rates",
                "What single people cost is for organisers: leave the rates out, or let an organiser bring this document in."
            );
    }

    private static UnreadableDocumentException Missing(string path, string message) => new([new DocumentError(path, "right", message)]);
}
