using System.Security.Cryptography;
using System.Text;

namespace Auxilium.Storage.People;

/// <summary>Secrets that are given to somebody once, of which only the hash is kept. They are random enough that a plain hash tells nothing.</summary>
public static class Secret
{
    /// <summary>A new one: 32 random bytes as letters, digits, “-” and “_”.</summary>
    public static string New() => Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).Replace('+', '-').Replace('/', '_').TrimEnd('=');

    public static byte[] Hash(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
