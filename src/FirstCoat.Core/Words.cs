namespace FirstCoat.Core;

/// <summary>Words that the program puts together.</summary>
public static class Words
{
    /// <summary>A name of the code in words: "hot work".</summary>
    public static string Of(Enum name) =>
        string.Concat(
            name.ToString()
                .Select((c, i) => char.IsUpper(c) ? $"{(i > 0 ? " " : "")}{char.ToLowerInvariant(c)}" : $"{c}")
        );

    /// <summary>The text, or as much of it as there is room for, cut between words with a sign that it goes
    /// on.</summary>
    /// <param name="most">Characters, the sign counted.</param>
    public static string Shortened(string text, int most)
    {
        if (text.Length <= most)
        {
            return text;
        }

        var room = text[..(most - 1)];
        var gap = room.LastIndexOf(' ');
        var cut =
            gap > most / 2 ? room[..gap]
            : char.IsHighSurrogate(room[^1]) ? room[..^1]
            : room;
        return $"{cut.TrimEnd(' ', ',', ':', ';', '(')}\u2026";
    }
}
