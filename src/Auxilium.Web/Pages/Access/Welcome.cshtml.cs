using Auxilium.Planning.Plans;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.Access;

/// <summary>The first start: the first person makes the organisation. Once there is one, there is no such page.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class WelcomeModel(Organisation organisation, Storage.People.Directory directory, UserManager<Account> accounts, SignInManager<Account> signIn) : PasswordPage
{
    [BindProperty]
    public string? OrganisationName { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel) => await organisation.FindAsync(cancel) is null ? Page() : Redirect("/");

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is not null) return Redirect("/");
        var us = Line(nameof(OrganisationName), OrganisationName, "The name of your organisation", 120, true);
        var name = Line(nameof(Name), Name, "Your name", 80, true);
        if (name is not null && !name.Any(char.IsLetter)) Wrong(nameof(Name), "A name has letters: type yours.");
        Mail(nameof(MailAddress), MailAddress, isNeeded: true, out var mail);
        if (!IsPasswordGood(mail) || !await organisation.MakeAsync(us!, isDemo: false, cancel)) return Page();
        var person = new PersonRow { Id = await directory.NewIdAsync(name!, cancel), Name = name!, Initials = PlanIds.InitialsOf(name!), Email = mail };
        await directory.SaveAsync([person], cancel);
        var account = new Account { Id = person.Id, UserName = person.Id, Email = mail, EmailConfirmed = true, IsOrganiser = true, MayMakeProjects = true };
        await accounts.CreateAsync(account, Password!);
        await signIn.SignInAsync(account, isPersistent: false);
        return Redirect("/");
    }
}
