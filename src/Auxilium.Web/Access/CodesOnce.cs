using System.Buffers.Binary;
using System.Globalization;
using System.Security.Cryptography;
using Auxilium.Storage;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Web.Access;

/// <summary>
/// Checks the codes of two-step sign-in (RFC 6238, SHA-1, six digits, half a minute): the one of now, of the step before and of the one
/// after, and each once. No code up to the newest used one is accepted again, neither to sign in nor to set up two-step sign-in.
/// </summary>
internal sealed class CodesOnce(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock) : IUserTwoFactorTokenProvider<Account>
{
    private const int Seconds = 30;

    private const string Alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

    public async Task<bool> CanGenerateTwoFactorTokenAsync(UserManager<Account> manager, Account user) =>
        !string.IsNullOrEmpty(await manager.GetAuthenticatorKeyAsync(user));

    /// <summary>Codes are made by the person's own program, never here.</summary>
    public Task<string> GenerateAsync(string purpose, UserManager<Account> manager, Account user) => Task.FromResult("");

    public async Task<bool> ValidateAsync(string purpose, string token, UserManager<Account> manager, Account user)
    {
        if (token.Length != 6 || await manager.GetAuthenticatorKeyAsync(user) is not { Length: > 0 } key)
            return false;
        var now = clock.GetUtcNow().ToUnixTimeSeconds() / Seconds;
        var secret = Bytes(key);
        var found = 0L;
        // All are tried, so that the time taken reveals nothing.
        for (var step = now - 1; step <= now + 1; step++)
            if (
                CryptographicOperations.FixedTimeEquals(
                    System.Text.Encoding.ASCII.GetBytes(Code(secret, step)),
                    System.Text.Encoding.UTF8.GetBytes(token).AsSpan()
                )
            )
                found = step;
        if (found == 0)
            return false;
        await using var db = await databases.CreateDbContextAsync();
        // If two use the same code at once, one gets in.
        if (
            await db
                .Users.Where(u => u.Id == user.Id && u.LastCodeStep < found)
                .ExecuteUpdateAsync(u => u.SetProperty(x => x.LastCodeStep, found)) == 0
        )
            return false;
        // The account is written as a whole when its wrong tries are forgotten.
        user.LastCodeStep = found;
        return true;
    }

    /// <summary>The six digits of a step.</summary>
    internal static string Code(byte[] secret, long step)
    {
        Span<byte> counter = stackalloc byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
#pragma warning disable CA5350 // What every program for such codes knows is SHA-1; as an HMAC it is sound.
        var hash = HMACSHA1.HashData(secret, counter);
#pragma warning restore CA5350
        var offset = hash[^1] & 15;
        var number = BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(offset)) & int.MaxValue;
        return (number % 1_000_000).ToString("D6", CultureInfo.InvariantCulture);
    }

    /// <summary>What a key in base 32 stands for.</summary>
    internal static byte[] Bytes(string key)
    {
        var bytes = new List<byte>(key.Length * 5 / 8);
        var (bits, count) = (0, 0);
        foreach (var letter in key.ToUpperInvariant())
        {
            var value = Alphabet.IndexOf(letter, StringComparison.Ordinal);
            if (value < 0)
                continue;
            (bits, count) = ((bits << 5 | value) & 0xFFF, count + 5);
            if (count < 8)
                continue;
            count -= 8;
            bytes.Add((byte)(bits >> count));
        }
        return [.. bytes];
    }
}
