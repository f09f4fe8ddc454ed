namespace FirstCoat.Core;

/// <summary>
/// A rule of the job says no. Carries the field it concerns and one sentence a person can act on.
/// </summary>
/// <remarks>Thrown by rules and computations; the server turns it into a problem document, the bench into
/// <c>{"refused": field, "why": sentence}</c>. It is never a fault of the program.</remarks>
public sealed class Refusal(string field, string why) : Exception(why)
{
    /// <summary>Name of the input that was refused, as the caller spelled it (camelCase, unit last).</summary>
    public string Field { get; } = field;

    /// <summary>True when the thing asked for does not exist, as opposed to being badly asked for.</summary>
    public bool NotFound { get; private init; }

    /// <summary>Everything that was refused at once, each field once; this refusal is the first of them.</summary>
    public IReadOnlyList<Refusal> All => several ?? [this];

    private IReadOnlyList<Refusal>? several;

    /// <summary>Makes every check, so that all that is wrong with a form is said at once.</summary>
    /// <exception cref="Refusal">The first that was refused, with all of them in <see cref="All"/>.</exception>
    public static void Each(params IReadOnlyList<Action> checks)
    {
        var refused = checks.SelectMany(RefusedBy).DistinctBy(r => r.Field).ToList();
        if (refused.Count > 0)
        {
            throw new Refusal(refused[0].Field, refused[0].Message) { several = refused };
        }
    }

    private static IReadOnlyList<Refusal> RefusedBy(Action check)
    {
        try
        {
            check();
            return [];
        }
        catch (Refusal refusal) when (!refusal.NotFound)
        {
            return refusal.All;
        }
    }

    /// <summary>Throws a refusal when <paramref name="refuse"/> is true.</summary>
    public static void When(bool refuse, string field, string why)
    {
        if (refuse)
        {
            throw new Refusal(field, why);
        }
    }

    /// <summary>A text that must be there and may not be longer than <paramref name="most"/> characters.</summary>
    public static string Text(string? value, string field, int most = 200)
    {
        var text = (value ?? "").Trim();
        When(text.Length == 0, field, Asks(field));
        When(text.Length > most, field, $"The {Words(field)} may have at most {most} characters.");
        return text;
    }

    /// <summary>The refusal for something that is not there.</summary>
    public static Refusal Missing(string what) => new("id", $"There is no such {what}.") { NotFound = true };

    /// <summary>Asks for what is missing, as one would across a counter.</summary>
    private static string Asks(string field) =>
        field switch
        {
            "leftAt" => "Say where exactly the work is left.",
            "firstMove" => "Say what the first move is when it goes on.",
            "reason" => "Say why.",
            "method" => "Say how it will be dealt with.",
            "answer" => "Say what the answer is.",
            "what" or "title" => "Say what it is.",
            "text" or "note" => "Write something here.",
            "shopName" => "Please give the name of the shop.",
            _ => $"Please give the {Words(field)}.",
        };

    private static string Words(string field) =>
        string.Concat(field.Select(c => char.IsUpper(c) ? " " + char.ToLowerInvariant(c) : c.ToString()));
}
