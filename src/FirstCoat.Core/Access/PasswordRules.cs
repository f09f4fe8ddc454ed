using System.Security.Cryptography;
using System.Text;

namespace FirstCoat.Core.Access;

/// <summary>What a password must be, wherever one is chosen.</summary>
public static class PasswordRules
{
    public const int Least = 12,
        Most = 128;

    private static readonly Lazy<HashSet<string>> Common = new(Read);

    /// <summary>Checks a password that somebody chooses.</summary>
    /// <param name="own">Words near at hand that would be guessed first: the sign-in name, the own name, the
    /// shop's.</param>
    /// <exception cref="Refusal">Says what is wrong with it.</exception>
    public static void Check(string password, string field, params string[] own)
    {
        Refusal.When(
            password.Length < Least,
            field,
            $"A password has at least {Least} characters. A few words in a row are easy to keep in mind."
        );
        Refusal.When(password.Length > Most, field, $"A password has at most {Most} characters.");
        Refusal.When(password.Any(char.IsControl), field, "A password has no control characters.");
        Refusal.When(
            IsCommon(password),
            field,
            "Many people use this password, so it is guessed first. Choose words of your own."
        );
        Refusal.When(
            own.Any(w => w.Trim().Length >= 4 && Rest(password, w.Trim()) < 6),
            field,
            "This password is little more than a name that everybody here knows."
        );
    }

    /// <summary>
    /// Whether it stands on the shipped list, is such a word with figures or signs around it, repeats a short piece, or
    /// runs along the keyboard or the alphabet.
    /// </summary>
    public static bool IsCommon(string password)
    {
        var lower = password.Trim().ToLowerInvariant();
        var core = lower.Trim([.. "0123456789!?.,;:-_#*+$%&/()=@ ".AsSpan()]);
        return IsListed(lower) || (core.Length >= 3 && IsListed(core)) || Repeats(lower) || Runs(lower);
    }

    /// <summary>Characters that are left when the word is taken out.</summary>
    private static int Rest(string password, string word) =>
        password.Contains(word, StringComparison.OrdinalIgnoreCase) ? password.Length - word.Length : int.MaxValue;

    private static bool Repeats(string text) =>
        Enumerable
            .Range(1, text.Length / 3)
            .Any(n => Enumerable.Range(n, text.Length - n).All(i => text[i] == text[i - n]));

    /// <summary>All of it, in one or two stretches, is neighbours of a known row.</summary>
    private static bool Runs(string text)
    {
        string[] rows =
        [
            "0123456789012345678901234567890",
            "9876543210987654321098765432109",
            "abcdefghijklmnopqrstuvwxyz",
            "zyxwvutsrqponmlkjihgfedcba",
            "qwertyuiopasdfghjklzxcvbnm",
            "qwertzuiopasdfghjklyxcvbnm",
            "1qaz2wsx3edc4rfv5tgb6yhn7ujm8ik9ol0p",
        ];
        return Enumerable
            .Range(3, Math.Max(0, text.Length - 2))
            .Any(cut =>
                rows.Any(r => r.Contains(text[..cut], StringComparison.Ordinal))
                && (cut == text.Length || rows.Any(r => r.Contains(text[cut..], StringComparison.Ordinal)))
            );
    }

    private static bool IsListed(string word) =>
        Common.Value.Contains(Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(word)))[..12]);

    /// <summary>The list holds the first twelve digits of each word's SHA-256, one a line: it is for refusing, not for
    /// reading.</summary>
    private static HashSet<string> Read()
    {
        using var stream = typeof(PasswordRules).Assembly.GetManifestResourceStream("common-passwords.txt")!;
        using var reader = new StreamReader(stream);
        return reader
            .ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .ToHashSet(StringComparer.Ordinal);
    }
}
