namespace FirstCoat.Server.Web;

/// <summary>More was asked for than is served at a time: a 429 with a sentence, and when to come again.</summary>
public sealed class TooMany(string why, TimeSpan after) : Exception(why)
{
    public TimeSpan After { get; } = after;
}
