using System.Diagnostics.CodeAnalysis;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages;

/// <summary>A page with a form whose fields say what is wrong with them.</summary>
public abstract class FormPage : PageModel
{
    /// <summary>What the last action did, shown once.</summary>
    public string? Said => TempData["Said"] as string;

    /// <summary>Whether a field has a problem, as <c>aria-invalid</c> says it.</summary>
    public string Has(string field) => ModelState.TryGetValue(field, out var entry) && entry.Errors.Count > 0 ? "true" : "false";

    protected void Say(string sentence) => TempData["Said"] = sentence;

    /// <summary>What a press of Save changed, by name.</summary>
    protected static string Saved(IReadOnlyList<string> changed) =>
        changed.Count == 0 ? "Nothing was different: everything is as it was." : $"Saved: {ListText.Listed(changed)}.";

    protected void Wrong(string field, string sentence) => ModelState.AddModelError(field, sentence);

    /// <summary>A line of text as typed, or <c>null</c> where that is empty or has been said to be wrong.</summary>
    protected string? Line(string field, string? text, string what, int longest, bool isNeeded = false)
    {
        var line = (text ?? "").Trim();
        if (line.Length == 0)
        {
            if (isNeeded)
                Wrong(field, $"{what} is missing: type it.");
            return null;
        }
        if (line.Length > longest)
            Wrong(field, $"{what} has {line.Length:N0} characters: shorten it to {longest:N0} or fewer.");
        else if (line.Any(char.IsControl))
            Wrong(field, $"{what} is one line of text: leave out control characters.");
        else
            return line;
        return null;
    }

    protected bool Mail(string field, string? text, bool isNeeded, out string? mail)
    {
        mail = Line(field, text, "A mail address", 200, isNeeded);
        if (mail is null)
            return !isNeeded && string.IsNullOrWhiteSpace(text);
        if (IsMail(mail))
            return true;
        Wrong(field, $"“{mail}” is no mail address: type one such as name@example.org.");
        return false;
    }

    internal static bool IsMail([NotNullWhen(true)] string? text) =>
        text is not null && PersonText.IsMail(text) && MimeKit.MailboxAddress.TryParse(text, out var address) && address.Address == text;
}
