using System.Security.Cryptography;
using System.Text;
using NodaTime;

namespace FirstCoat.Core.Access;

/// <summary>
/// A code of six digits that goes to the client's known address and lets the holder of one link answer one paper, once.
/// </summary>
/// <remarks>Six digits are few: the hash takes the link's token in, which is not kept either, and five tries end it.</remarks>
public sealed class ApprovalCode : Recorded
{
    public const int Tries = 5;
    public static readonly Duration Life = Duration.FromMinutes(15);

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
    public static string New() => RandomNumberGenerator.GetInt32(1_000_000).ToString("D6", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The code's hash, bound to the paper and the link's token.</summary>
    public static string Hash(string code, Guid paper, string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{code}|{paper:N}|{token}")));

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
