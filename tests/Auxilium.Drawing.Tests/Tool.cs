using System.Diagnostics;

namespace Auxilium.Drawing.Tests;

/// <summary>Programs that are not ours, to judge files that are.</summary>
internal static class Tool
{
    /// <summary>What a program says of a file.</summary>
    /// <param name="file">Its content: it is given as the last argument but for those that follow.</param>
    public static string Run(string name, byte[] file, string[] before, params string[] after)
    {
        var path = Path.Combine(Path.GetTempPath(), $"auxilium-{Guid.NewGuid():N}.pdf");
        File.WriteAllBytes(path, file);
        try
        {
            using var process = Process.Start(
                new ProcessStartInfo(name, [.. before, path, .. after])
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                    StandardOutputEncoding = System.Text.Encoding.UTF8,
                }
            )!;
            var problems = process.StandardError.ReadToEndAsync();
            var said = process.StandardOutput.ReadToEnd();
            process.WaitForExit();
            Assert.True(process.ExitCode == 0, $"{name} ends with {process.ExitCode}: {problems.Result}{said}");
            return said;
        }
        finally
        {
            File.Delete(path);
        }
    }

    /// <summary>The text of a PDF, as a reader finds it.</summary>
    public static string TextOf(byte[] pdf) => Run("pdftotext", pdf, ["-raw", "-enc", "UTF-8"], "-");
}
