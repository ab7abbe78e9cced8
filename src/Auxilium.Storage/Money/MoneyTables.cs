using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Money;

/// <summary>The tables of money. They are no part of a plan: whoever reads a plan never reads them.</summary>
internal static class MoneyTables
{
    public static void Make(ModelBuilder builder)
    {
        builder.Entity<ProjectMoneyRow>(money =>
        {
            money.ToTable("project_money").HasKey(m => m.ProjectId);
            money.HasOne<ProjectRow>().WithOne().HasForeignKey<ProjectMoneyRow>(m => m.ProjectId);
        });
        builder.Entity<CostItemRow>(item =>
        {
            item.ToTable("cost_items").HasKey(i => new { i.ProjectId, i.Id });
            item.HasIndex(i => new { i.ProjectId, i.TaskId });
            item.HasOne<ProjectRow>().WithMany().HasForeignKey(i => i.ProjectId);
            item.Property(i => i.Item).HasColumnType("jsonb");
        });
        builder.Entity<RowBudgetRow>(budget =>
        {
            budget.ToTable("row_budgets").HasKey(b => new { b.ProjectId, b.TaskId });
            budget.HasOne<ProjectRow>().WithMany().HasForeignKey(b => b.ProjectId);
        });
        builder.Entity<MoneyAccessRow>(access =>
        {
            access.ToTable("money_access").HasKey(a => new { a.ProjectId, a.PersonId });
            access.HasOne<ProjectRow>().WithMany().HasForeignKey(a => a.ProjectId);
            access.HasOne<PersonRow>().WithMany().HasForeignKey(a => a.PersonId);
        });
        builder.Entity<MoneyEntryRow>(entry =>
        {
            entry.ToTable("money_journal").HasIndex(e => new { e.ProjectId, e.Version }).IsUnique();
            entry.HasIndex(e => e.EditId).IsUnique();
            entry.HasOne<ProjectRow>().WithMany().HasForeignKey(e => e.ProjectId);
        });
        builder.Entity<ReceiptRow>(receipt =>
        {
            receipt.ToTable("receipts").HasIndex(r => new { r.ProjectId, r.Name });
            receipt.HasOne<ProjectRow>().WithMany().HasForeignKey(r => r.ProjectId);
            receipt.Property(r => r.At).HasColumnType("timestamp with time zone");
            receipt.Property(r => r.RemovedAt).HasColumnType("timestamp with time zone");
        });
    }
}
