using System.Security.Cryptography;
using NodaTime;

namespace FirstCoat.Core.Access;

/// <summary>A client's link to the published reports of one build. Only the hash of its token is kept.</summary>
public sealed class PrivateLink : Recorded
{
    public required Guid BuildId { get; init; }
    public required string TokenHash { get; init; }
    public required Instant ExpiresAt { get; init; }
    public Instant? RevokedAt { get; private set; }

    /// <summary>Whether it opens anything.</summary>
    public bool IsLive(Instant now) => RevokedAt is null && now < ExpiresAt;

    /// <summary>Closes the link for good.</summary>
    public void Revoke(Instant at) => RevokedAt ??= at;

    /// <summary>Hash of a token, as stored.</summary>
    public static string Hash(string token) =>
        Convert.ToHexStringLower(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(token)));

    /// <summary>A new token from 32 random bytes, safe in an address.</summary>
    public static string NewToken() =>
        Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).TrimEnd('=').Replace('+', '-').Replace('/', '_');
}

/// <summary>What an account may do.</summary>
public static class Roles
{
    public const string Manager = "manager";
    public const string Office = "office";
    public const string Technician = "technician";
    public static readonly IReadOnlyList<string> All = [Manager, Office, Technician];
}
