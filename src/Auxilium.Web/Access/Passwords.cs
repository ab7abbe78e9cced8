using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Identity;

namespace Auxilium.Web.Access;

/// <summary>The rules for passwords: long rather than complicated, and not among those that are tried first.</summary>
internal sealed class Passwords : IPasswordValidator<Account>
{
    public const int Shortest = 10;

    public const int Longest = 200;

    /// <summary>How much of a password is checked: the rest only makes it stronger.</summary>
    private const int LookedAt = 64;

    /// <summary>From 0, the weakest, to 4.</summary>
    private const int LeastScore = 3;

    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password) =>
        Task.FromResult(
            WhyRefused(password ?? "", user.Email) is { } why
                ? IdentityResult.Failed(new IdentityError { Code = "weak", Description = why })
                : IdentityResult.Success
        );

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public static string? WhyRefused(string password, string? mail)
    {
        if (password.Length < Shortest)
            return $"A password has at least {Shortest} characters: a few words that belong to no saying are easy to remember.";
        if (password.Length > Longest)
            return $"This password has {password.Length:N0} characters: {Longest} are the most.";
        if (password.Distinct().Count() < 5)
            return "This password repeats a few characters: choose one with more of them.";
        if (
            mail is { Length: > 0 }
            && password.Contains(mail.Split('@')[0], StringComparison.OrdinalIgnoreCase)
            && mail.Split('@')[0].Length > 3
        )
            return "This password has your mail address in it: choose another.";
        string[] own = mail is null ? ["auxilium"] : ["auxilium", mail, .. mail.Split('@', '.')];
        return Zxcvbn.Zxcvbn.MatchPassword(password.Length > LookedAt ? password[..LookedAt] : password, own).Score < LeastScore
            ? "This password is easy to guess: choose a few words that do not belong together."
            : null;
    }
}
