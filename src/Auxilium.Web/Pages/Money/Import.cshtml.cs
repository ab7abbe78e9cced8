using Auxilium.Exchange.Files;
using Auxilium.Exchange.Money;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Money;

/// <summary>Imports what tasks cost from a list. A preview shows how each line is read; nothing is kept before it is confirmed.</summary>
[Authorize(Rights.EditPlans)]
[Authorize(Rights.SeeMoney)]
[RequestSizeLimit(MostBytes)]
[RequestFormLimits(ValueLengthLimit = MostBytes)]
public sealed class ImportModel(PlanStore store, Ledgers ledgers, MoneyEdits edits, ProjectMoney money, Today today) : FormPage
{
    private const int MostBytes = 4 * 1024 * 1024;

    /// <summary>The sheet that costs are read from, where a spreadsheet has one of this name.</summary>
    private const string UsualSheet = "Costs";

    [BindProperty]
    public string? Text { get; set; }

    [BindProperty]
    public IFormFile? Upload { get; set; }

    /// <summary>Id of the row that lines belong to which name none.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Task { get; set; }

    public Guid Id { get; private set; }

    public Planning.Plans.Plan Plan { get; private set; } = null!;

    public CostListReading? Reading { get; private set; }

    public MoneyText Amounts { get; private set; } = null!;

    /// <summary>How many items are new or changed.</summary>
    public int Good => Reading?.Edit?.Edits.Length ?? 0;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel) =>
        await LoadAsync(id, cancel) is null ? NotFound() : Page();

    public async Task<IActionResult> OnPostReadAsync(Guid id, CancellationToken cancel)
    {
        if (await LoadAsync(id, cancel) is null)
            return NotFound();
        if (Upload is { Length: > 0 } file)
        {
            var content = new MemoryStream();
            await file.CopyToAsync(content, cancel);
            try
            {
                Text = TextOf(Exchange.FileKinds.CleanName(file.FileName), content.ToArray(), cancel);
                ModelState.Remove(nameof(Text));
            }
            catch (FileRefusedException refused)
            {
                Wrong(nameof(Upload), refused.Message);
                return Page();
            }
        }
        await ReadAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostTakeAsync(Guid id, CancellationToken cancel)
    {
        // A file that was chosen is looked at first: what is in the box is not what is meant.
        if (Upload is { Length: > 0 })
            return await OnPostReadAsync(id, cancel);
        if (await LoadAsync(id, cancel) is not { } stored)
            return NotFound();
        var seen = await ReadAsync(cancel);
        if (Reading?.Edit is not { } edit)
            return Page();
        try
        {
            var done = await edits.CommitAsync(stored, new(Guid.NewGuid(), seen, edit, User.PersonId()), today.Date, cancel);
            if (done.Outcome.IsDone)
                Say($"{(Good == 1 ? "1 item" : $"{Good:N0} items")} imported. {done.Told}");
            else
                Wrong(nameof(Text), done.Outcome.Sentence);
        }
        catch (EditRefusedException refused)
        {
            Wrong(nameof(Text), refused.Message);
        }
        return ModelState.IsValid ? Redirect($"/projects/{id}/money/import") : Page();
    }

    /// <summary>What becomes of a line, in a word or a sentence.</summary>
    public static string WhatHappens(CostListLine line) =>
        line.Problem
        ?? line.State switch
        {
            CostLineState.New => "Is added",
            CostLineState.Changed => "Is changed",
            CostLineState.Same => "Is there already",
            _ => "Is left out: work costs what hours and rates say",
        };

    private static string TextOf(string name, byte[] content, CancellationToken cancel)
    {
        var file = ListFile.Read(name, content, cancel: cancel);
        var usual = file.Sheets.IndexOf(UsualSheet);
        return usual <= 0 ? file.Text : ListFile.Read(name, content, usual, cancel: cancel).Text;
    }

    /// <returns>The version of the money that it was read on.</returns>
    private async Task<int> ReadAsync(CancellationToken cancel)
    {
        var kept = await ledgers.LoadAsync(Id, cancel);
        if (string.IsNullOrWhiteSpace(Text))
            Wrong(nameof(Text), "The list is missing: paste it, or choose a file.");
        else
            Reading = CostList.Read(Text, Plan, kept.Ledger, Task, today.Date);
        if (Reading?.Problem is { } problem)
            Wrong(nameof(Text), problem);
        return kept.Version;
    }

    private async Task<StoredPlan?> LoadAsync(Guid id, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return null;
        (Id, Plan, Amounts) = (id, stored.Schedule.Plan, await money.TextAsync(cancel));
        if (Task is not null && Plan.Find(Task) is null)
            Task = null;
        return stored;
    }
}
