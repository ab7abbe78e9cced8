using Auxilium.Exchange.Prices;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>The organisation's price list.</summary>
public sealed class PriceBook(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    public async Task<IReadOnlyList<(Guid Id, PriceItem Item)>> AllAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db.Prices.AsNoTracking().OrderBy(p => p.Position).ToListAsync(cancel);
        return [.. rows.Select(p => (p.Id, new PriceItem(p.Category, p.Name, p.Unit, p.Price, p.Supplier, p.Length)))];
    }

    /// <param name="position">Its place in the list, from 0.</param>
    public static PriceRow RowOf(PriceItem item, int position) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Category = item.Category,
            Name = item.Name,
            Unit = item.Unit,
            Price = item.Price,
            Supplier = item.Supplier,
            Length = item.Length,
            Position = position,
        };

    /// <summary>Puts a list in place of the one there is. An item that is called the same stays the same one.</summary>
    public async Task ReplaceAsync(IReadOnlyList<PriceItem> items, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"lock table price_list in share row exclusive mode", cancel);
        var known = (await db.Prices.ToListAsync(cancel)).ToDictionary(p => (p.Category, p.Name));
        for (var position = 0; position < items.Count; position++)
        {
            var item = items[position];
            if (!known.Remove((item.Category, item.Name), out var row))
            {
                db.Prices.Add(RowOf(item, position));
                continue;
            }
            (row.Unit, row.Price, row.Supplier, row.Length) = (item.Unit, item.Price, item.Supplier, item.Length);
            row.Position = position;
        }
        db.Prices.RemoveRange(known.Values);
        Audit.Note(db, clock, by, null, null, $"{await Audit.NameAsync(db, by, cancel)} changed the price list: {items.Count} items.");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
