using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Identity;

namespace Auxilium.Web.Access;

/// <summary>What a password must be: long rather than odd, and not one that everybody tries first.</summary>
internal sealed class Passwords : IPasswordValidator<Account>
{
    public const int Shortest = 10;

    public const int Longest = 200;

    /// <summary>Words that alone, or with digits and signs after them, make no password.</summary>
    private static readonly string[] Common =
    [
        "password", "passwort", "letmein", "welcome", "iloveyou", "sunshine", "princess", "football", "baseball", "superman", "dragon", "monkey", "qwerty", "qwertz", "qwertyuiop", "azerty", "azertyuiop", "asdfghjkl", "zxcvbnm", "administrator", "admin", "changeme", "trustno", "whatever", "starwars", "master", "login", "auxilium", "secret", "abcdefghij", "abcdefghijk",
    ];

    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password) =>
        Task.FromResult(WhyRefused(password ?? "", user.Email) is { } why ? IdentityResult.Failed(new IdentityError { Code = "weak", Description = why }) : IdentityResult.Success);

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public static string? WhyRefused(string password, string? mail)
    {
        if (password.Length < Shortest) return $"A password has at least {Shortest} characters: a few words that belong to no saying are easy to remember.";
        if (password.Length > Longest) return $"This password has {password.Length:N0} characters: {Longest} are the most.";
        if (password.Distinct().Count() < 5) return "This password repeats a few characters: choose one with more of them.";
        var letters = password.Trim().TrimEnd([.. "0123456789!?.*#-_$"]).ToLowerInvariant();
        if (letters.Length == 0 || Common.Contains(letters)) return "This password is one of those that are tried first: choose another.";
        return mail is { Length: > 0 } && password.Contains(mail.Split('@')[0], StringComparison.OrdinalIgnoreCase) && mail.Split('@')[0].Length > 3
            ? "This password has your mail address in it: choose another."
            : null;
    }
}
