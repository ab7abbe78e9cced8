using System.Security.Cryptography;
using System.Text;

namespace Auxilium.Storage.Access;

/// <summary>
/// Secrets that are given to somebody once, of which only the hash is kept. They are random enough that a plain hash tells nothing.
/// </summary>
public static class Secret
{
    /// <summary>A new one: 32 random bytes as letters, digits, “-” and “_”.</summary>
    public static string New() =>
        Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).Replace('+', '-').Replace('/', '_').TrimEnd('=');

    /// <summary>
    /// Letters and digits of a code that is read off a screen and typed: 16 that are not mistaken for each other, 80 bits.
    /// </summary>
    public static string Code() => RandomNumberGenerator.GetString("abcdefghjkmnpqrstuvwxyz23456789", 16);

    /// <summary>Whether a code is the one that was given, however it is typed.</summary>
    public static bool IsSame(string code, string typed) => CryptographicOperations.FixedTimeEquals(Hash(Bare(code)), Hash(Bare(typed)));

    private static string Bare(string code) => string.Concat(code.Where(char.IsAsciiLetterOrDigit)).ToLowerInvariant();

    public static byte[] Hash(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
