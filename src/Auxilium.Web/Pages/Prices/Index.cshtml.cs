using Auxilium.Exchange.Files;
using Auxilium.Exchange.Prices;
using Auxilium.Storage.People;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Prices;

/// <summary>The organisation's price list: shown by category, changed as one list that is typed, pasted or taken from a file.</summary>
[Authorize(Rights.Organise)]
[RequestSizeLimit(MostBytes)]
[RequestFormLimits(ValueLengthLimit = MostBytes)]
public sealed class PricesModel(PriceBook prices, Organisation organisation) : FormPage
{
    private const int MostBytes = 4 * 1024 * 1024;

    [BindProperty]
    public string? Text { get; set; }

    [BindProperty]
    public IFormFile? Upload { get; set; }

    public IReadOnlyList<PriceItem> Items { get; private set; } = [];

    /// <summary>How what is in the box was read, once somebody has asked.</summary>
    public IReadOnlyList<PriceLine> Lines { get; private set; } = [];

    public string Currency { get; private set; } = "";

    public int Unread => Lines.Count(line => line.Problem is not null);

    /// <summary>Whether somebody has asked how the list in the box is read, and it could be.</summary>
    public bool IsRead { get; private set; }

    public async Task OnGetAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        Text = PriceList.Text(Items);
    }

    public async Task<IActionResult> OnPostReadAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (Upload is { Length: > 0 } file)
        {
            var content = new MemoryStream();
            await file.CopyToAsync(content, cancel);
            try
            {
                Text = ListFile.Read(Exchange.FileKinds.CleanName(file.FileName), content.ToArray(), cancel: cancel).Text;
                ModelState.Remove(nameof(Text));
            }
            catch (FileRefusedException refused)
            {
                Wrong(nameof(Upload), refused.Message);
                return Page();
            }
        }
        Read();
        return Page();
    }

    public async Task<IActionResult> OnPostSaveAsync(CancellationToken cancel)
    {
        // A file that was chosen is looked at first: what is in the box is not what is meant.
        if (Upload is { Length: > 0 })
            return await OnPostReadAsync(cancel);
        await LoadAsync(cancel);
        if (!Read() || Unread > 0)
            return Page();
        await prices.ReplaceAsync([.. Lines.Select(line => line.Item)], User.PersonId(), cancel);
        Say(Lines.Count == 1 ? "Saved: the price list has 1 item." : $"Saved: the price list has {Lines.Count:N0} items.");
        return Redirect("/price-list");
    }

    /// <summary>Such as “4.50 per piece”.</summary>
    public static string PriceOf(PriceItem item) =>
        item.Price is not { } price ? ""
        : item.Unit.Length > 0 ? $"{price:0.00} per {item.Unit}"
        : $"{price:0.00}";

    private bool Read()
    {
        (Lines, var problem) = PriceList.Read(Text ?? "");
        IsRead = problem is null;
        if (problem is not null)
            Wrong(nameof(Text), problem);
        return problem is null;
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        Items = [.. (await prices.AllAsync(cancel)).Select(price => price.Item)];
        Currency = (await organisation.FindAsync(cancel))?.Currency ?? "";
    }
}
