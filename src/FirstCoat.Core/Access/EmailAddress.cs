using System.Net.Mail;

namespace FirstCoat.Core.Access;

/// <summary>The one check of an e-mail address, wherever one is entered.</summary>
public static class EmailAddress
{
    /// <summary>The most characters that an address may have. Source: RFC 5321, 4.5.3.1.3, less the angle
    /// brackets.</summary>
    public const int Most = 254;

    /// <summary>The address without blanks around it; nothing stays nothing.</summary>
    /// <exception cref="Refusal">No letter could be sent to it.</exception>
    public static string Checked(string? text, string field)
    {
        var address = (text ?? "").Trim();
        Refusal.When(
            address.Length > 0 && !IsGood(address),
            field,
            "This is no e-mail address: write it as name@place.example."
        );
        return address;
    }

    /// <summary>Whether a letter can be addressed to it: one plain address, without a name around it, in letters every
    /// mail server knows.</summary>
    public static bool IsGood(string address)
    {
        if (
            address.Length > Most
            || address.Any(c =>
                c is <= ' ' or > '~' or '"' or '<' or '>' or '(' or ')' or ',' or ';' or ':' or '\\' or '[' or ']'
            )
        )
        {
            return false;
        }

        var at = address.LastIndexOf('@');
        return at is > 0 and <= 64
            && address.IndexOf('@', StringComparison.Ordinal) == at
            && IsHost(address[(at + 1)..])
            && MailAddress.TryCreate(address, out var read)
            && read.Address == address
            && !address[..at].StartsWith('.')
            && !address[..at].EndsWith('.')
            && !address.Contains("..", StringComparison.Ordinal);
    }

    private static bool IsHost(string host) =>
        host.Contains('.', StringComparison.Ordinal)
        && host.Split('.')
            .All(part =>
                part.Length is > 0 and <= 63
                && part.All(c => char.IsAsciiLetterOrDigit(c) || c == '-')
                && part[0] != '-'
                && part[^1] != '-'
            );
}
