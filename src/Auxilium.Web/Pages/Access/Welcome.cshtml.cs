using Auxilium.Planning.Plans;
using Auxilium.Storage;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Web.Pages.Access;

/// <summary>The first start: the first person makes the organisation. Once there is one, there is no such page.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class WelcomeModel(AuxiliumDb db, Organisation organisation, UserManager<Account> accounts, SignInManager<Account> signIn)
    : PasswordPage
{
    /// <summary>The code that was printed when the server was started.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Code { get; set; }

    [BindProperty]
    public string? OrganisationName { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel) =>
        await organisation.FindAsync(cancel) is null ? Page() : Redirect("/");

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is not null)
            return Redirect("/");
        var us = Line(nameof(OrganisationName), OrganisationName, "The name of your organisation", 120, true);
        var name = Line(nameof(Name), Name, "Your name", 80, true);
        if (name is not null && !name.Any(char.IsLetter))
            Wrong(nameof(Name), "A name has letters: type yours.");
        Mail(nameof(MailAddress), MailAddress, isNeeded: true, out var mail);
        if (string.IsNullOrWhiteSpace(Code))
            Wrong(nameof(Code), "The code is missing: it was printed where Auxilium was started, and is in the server’s log.");
        if (!IsPasswordGood(mail))
            return Page();
        // All or nothing: if the process dies in between, the page can be tried again.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!await Organisation.MakeAsync(db, us!, Code!, cancel))
        {
            Wrong(
                nameof(Code),
                "This is not the code that was printed where Auxilium was started: look for “To begin” there, or in the server’s log."
            );
            return Page();
        }
        var person = new PersonRow
        {
            Id = PlanIds.FreeId(name!, new HashSet<string>()),
            Name = name!,
            Initials = PlanIds.InitialsOf(name!),
            Email = mail,
        };
        db.People.Add(person);
        await db.SaveChangesAsync(cancel);
        var account = new Account
        {
            Id = person.Id,
            UserName = person.Id,
            Email = mail,
            EmailConfirmed = true,
            IsOrganiser = true,
            MayMakeProjects = true,
        };
        if (await accounts.CreateAsync(account, Password!) is { Succeeded: false } refused)
        {
            Wrong("Password", refused.Errors.First().Description);
            return Page();
        }
        await transaction.CommitAsync(cancel);
        await signIn.SignInAsync(account, isPersistent: false);
        return Redirect("/");
    }
}
