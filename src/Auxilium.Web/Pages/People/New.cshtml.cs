using Auxilium.Planning.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>Adds a person to the directory.</summary>
[Authorize(Rights.Organise)]
[RequestSizeLimit(64 * 1024)]
public sealed class NewPersonModel(Storage.People.Directory directory) : FormPage
{
    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var name = Line(nameof(Name), Name, "A name", 80, true);
        if (name is not null && !name.Any(char.IsLetter))
            Wrong(nameof(Name), "A name has letters: type the person's.");
        Mail(nameof(MailAddress), MailAddress, isNeeded: false, out var mail);
        if (mail is not null && await directory.WithMailAsync(mail, "", cancel) is { } other)
            Wrong(nameof(MailAddress), $"{other.Name} has this address already.");
        if (!ModelState.IsValid)
            return Page();
        var person = new PersonRow
        {
            Id = await directory.NewIdAsync(name!, cancel),
            Name = name!,
            Initials = PlanIds.InitialsOf(name!),
            Email = mail,
        };
        await directory.SaveAsync([person], cancel: cancel);
        Say($"{name} is in the directory. Here you can say more, and invite them.");
        return Redirect($"/people/{person.Id}");
    }
}
