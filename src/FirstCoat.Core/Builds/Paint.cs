namespace FirstCoat.Core.Builds;

/// <summary>A build's colour as data.</summary>
public static class Paint
{
    /// <summary>Whether the text is # and six hexadecimal digits.</summary>
    public static bool IsHex(string? hex) =>
        hex is { Length: 7 } && hex[0] == '#' && hex.Skip(1).All(char.IsAsciiHexDigit);

    /// <summary>
    /// Whether a paint lies so near the one accent of the interface that it would read as an alarm.
    /// </summary>
    /// <remarks>Euclidean distance in 8-bit sRGB below 48; a rule of thumb.</remarks>
    public static bool ReadsAsAlarm(string hex) => Distance(hex, "#9A3A1E") < 48;

    private static double Distance(string a, string b) =>
        Math.Sqrt(Channels(a).Zip(Channels(b), (x, y) => (double)((x - y) * (x - y))).Sum());

    private static IEnumerable<int> Channels(string hex) =>
        [Convert.ToInt32(hex[1..3], 16), Convert.ToInt32(hex[3..5], 16), Convert.ToInt32(hex[5..7], 16)];
}
