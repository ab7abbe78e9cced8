using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>How much room there is for files: those of tasks and receipts of payments, together.</summary>
internal static class FileRoom
{
    /// <summary>The files of a project come to at most this many bytes.</summary>
    public const long MostProjectBytes = 500L * 1024 * 1024;

    /// <summary>The files of all projects together.</summary>
    public const long MostBytes = 10L * 1024 * 1024 * 1024;

    /// <returns>Why there is no room for so many bytes more; <c>null</c> when there is.</returns>
    public static async Task<string?> WhyNoneAsync(AuxiliumDb db, Guid project, int more, CancellationToken cancel)
    {
        var ofProject =
            await db.Files.Where(f => f.ProjectId == project).SumAsync(f => (long)f.Size, cancel)
            + await db.Receipts.Where(r => r.ProjectId == project && r.RemovedAt == null).SumAsync(r => (long)r.Size, cancel);
        if (ofProject + more > MostProjectBytes)
            return $"The files of this project come to more than {MostProjectBytes / 1024 / 1024} MB: remove some that nobody needs.";
        var all = await db.Files.SumAsync(f => (long)f.Size, cancel) + await db.Receipts.SumAsync(r => (long)r.Size, cancel);
        return all + more > MostBytes
            ? $"The files of all projects come to more than {MostBytes / 1024 / 1024 / 1024} GB: ask an organiser to make room."
            : null;
    }
}
