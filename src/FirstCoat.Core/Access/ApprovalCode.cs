using System.Security.Cryptography;
using System.Text;
using NodaTime;

namespace FirstCoat.Core.Access;

/// <summary>
/// A code of six digits that goes to the client's known address and lets the holder of one link answer one paper, once.
/// </summary>
/// <remarks>
/// Six digits are few. Five tries or a quarter of an hour end a code; and what is kept of it can be checked only with
/// the server's secret and with the link's token, neither of which lies in the database.
/// </remarks>
public sealed class ApprovalCode : Recorded
{
    public const int Tries = 5;

    /// <summary>How many codes go out for one paper within <see cref="PerWindow"/>.</summary>
    public const int PerPaper = 5;

    public static readonly Duration PerWindow = Duration.FromHours(1);
    public static readonly Duration Life = Duration.FromMinutes(15);

    /// <summary>Rounds of the slow hash: some tens of milliseconds for each guess, even with the secret in
    /// hand.</summary>
    private const int Rounds = 60_000;

    public required Guid BuildId { get; init; }
    public required Guid LinkId { get; init; }

    /// <summary>What it answers.</summary>
    public required Guid PaperId { get; init; }

    public required string CodeHash { get; init; }

    /// <summary>The known address it went to.</summary>
    public required string SentTo { get; init; }

    public required Instant SentAt { get; init; }
    public int Tried { get; private set; }
    public Instant? UsedAt { get; private set; }

    /// <summary>Makes a code of six digits.</summary>
    public static string New() =>
        RandomNumberGenerator.GetInt32(1_000_000).ToString("D6", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The code's hash, bound to the server's secret, the paper and the link's token.</summary>
    /// <remarks>HMAC-SHA-256 (RFC 2104) under the secret, then PBKDF2 (RFC 8018) with the paper as salt.</remarks>
    /// <param name="secret">The server's own, never stored beside the hash.</param>
    public static string Hash(string code, Guid paper, string token, byte[] secret)
    {
        var keyed = HMACSHA256.HashData(secret, Encoding.UTF8.GetBytes($"{code}|{paper:N}|{token}"));
        return Convert.ToHexStringLower(
            Rfc2898DeriveBytes.Pbkdf2(keyed, paper.ToByteArray(), Rounds, HashAlgorithmName.SHA256, 32)
        );
    }

    /// <summary>Whether another try may be made.</summary>
    public bool IsLive(Instant now) => UsedAt is null && Tried < Tries && now < SentAt + Life;

    /// <summary>Tries a code; every try counts, and the right one uses it up.</summary>
    /// <returns>Whether it is the right one.</returns>
    public bool Try(string hash, Instant now)
    {
        if (!IsLive(now))
        {
            return false;
        }

        Tried++;
        if (!CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(hash), Encoding.ASCII.GetBytes(CodeHash)))
        {
            return false;
        }

        UsedAt = now;
        return true;
    }
}

/// <summary>An answer with a code that did not fit. Many of them in a day close the paper for codes until the
/// next.</summary>
public sealed class WrongAnswer : Recorded
{
    /// <summary>So many within <see cref="Window"/>, and no code answers the paper any more.</summary>
    public const int Most = 20;

    public static readonly Duration Window = Duration.FromHours(24);

    public required Guid BuildId { get; init; }
    public required Guid PaperId { get; init; }
    public required Guid LinkId { get; init; }
}
