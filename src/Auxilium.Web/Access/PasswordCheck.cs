using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Identity;

namespace Auxilium.Web.Access;

/// <summary>
/// Checks passwords, in the same time whether there is such an account, it is locked after too many tries,
/// or has another password or none: one hash is computed in any case.
/// </summary>
public sealed class PasswordCheck(UserManager<Account> accounts, AccessLog log)
{
    private static readonly Account Nobody = new() { Id = "nobody" };

    private static string? s_hashOfNobody;

    /// <summary>Whether this is the password; wrong tries are counted, and lock the account for a while.</summary>
    /// <param name="account">Whose; <c>null</c> where there is none.</param>
    /// <param name="password">What was typed.</param>
    public async Task<bool> IsRightAsync(Account? account, string password)
    {
        var isTooLong = password.Length > Passwords.Longest;
        var isClosed = account is not null && await accounts.IsLockedOutAsync(account);
        if (account?.PasswordHash is null || isClosed || isTooLong)
        {
            s_hashOfNobody ??= accounts.PasswordHasher.HashPassword(Nobody, "nobody's password");
            accounts.PasswordHasher.VerifyHashedPassword(Nobody, s_hashOfNobody, isTooLong ? "" : password);
            log.Refused(account?.Id, isClosed);
            return false;
        }
        if (await accounts.CheckPasswordAsync(account, password))
        {
            await accounts.ResetAccessFailedCountAsync(account);
            return true;
        }
        await accounts.AccessFailedAsync(account);
        log.Refused(account.Id, await accounts.IsLockedOutAsync(account));
        return false;
    }
}
