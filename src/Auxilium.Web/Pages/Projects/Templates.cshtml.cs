using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Projects;

/// <summary>What projects can start from, and which of that is no longer used.</summary>
[Authorize(Rights.MakeProjects)]
[RequestSizeLimit(64 * 1024)]
public sealed class TemplatesModel(Templates templates) : FormPage
{
    public IReadOnlyList<Template> All { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel) => All = await templates.AllAsync(cancel);

    public async Task<IActionResult> OnPostDeleteAsync(Guid template, CancellationToken cancel)
    {
        var name = (await templates.AllAsync(cancel)).FirstOrDefault(known => known.Id == template.ToString())?.Name;
        Say(
            await templates.DeleteAsync(template, cancel) && name is not null
                ? $"“{name}” is deleted. Projects that started from it stay."
                : "This template was deleted already."
        );
        return Redirect("/templates");
    }
}
