namespace FirstCoat.Server.Web;

/// <summary>Names of choices in addresses and forms, where the body's JSON rules do not reach.</summary>
public static class Named
{
    /// <summary>The value of that name, whatever its case; null for no text.</summary>
    /// <exception cref="Refusal">There is no such name.</exception>
    public static T? Choice<T>(string? text, string field)
        where T : struct, Enum
    {
        if (string.IsNullOrEmpty(text))
        {
            return null;
        }

        // Names only: a number would reach values that have none.
        var known =
            !char.IsAsciiDigit(text[0])
            && Enum.TryParse<T>(text, ignoreCase: true, out var value)
            && Enum.IsDefined(value);
        Refusal.When(!known, field, $"There is no {field} called {text[..Math.Min(40, text.Length)]}.");
        return Enum.Parse<T>(text, ignoreCase: true);
    }
}
