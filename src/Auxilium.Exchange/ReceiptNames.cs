namespace Auxilium.Exchange;

/// <summary>Finds receipts and their files by what they are called.</summary>
public static class ReceiptNames
{
    /// <summary>
    /// What a payment calls its receipt, as a file can be called: <c>2027/109</c> is <c>2027-109</c>. The case of letters makes no
    /// difference.
    /// </summary>
    public static string Plain(string receipt) =>
        FileKinds.CleanName(string.Concat(receipt.Select(c => c is '/' or '\\' or ':' or '|' ? '-' : c)));

    /// <summary>What its file is called.</summary>
    /// <param name="receipt">What a payment calls it, with or without the ending.</param>
    /// <param name="ending">Of the file, such as <c>.pdf</c>.</param>
    public static string File(string receipt, string ending)
    {
        var plain = Plain(receipt);
        return plain.EndsWith(ending, StringComparison.OrdinalIgnoreCase) ? plain : FileKinds.CleanName(plain + ending);
    }

    /// <summary>What payments whose receipt it is call it, in plain form.</summary>
    public static IEnumerable<string> In(string file) => [file, Path.GetFileNameWithoutExtension(file)];
}
