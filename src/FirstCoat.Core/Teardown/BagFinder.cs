using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Teardown;

/// <summary>A bag as the finder sees it: everything that can be asked for, in lower case.</summary>
public sealed record BagEntry(Guid Id, int Code, PanelSide Side, string What, string Text, bool HasFasteners)
{
    /// <summary>The entry of a bag.</summary>
    public static BagEntry Of(Bag b) =>
        new(
            b.Id,
            b.Code,
            b.Side,
            b.What.ToLowerInvariant(),
            string.Join(
                    ' ',
                    b.Pieces.Select(p => p.Name)
                        .Concat(b.Fasteners.Select(f => $"{f.Kind} {f.Head} {f.Thread} {f.Finish}"))
                        .Prepend(b.From)
                        .Prepend(b.What)
                )
                .ToLowerInvariant(),
            b.Fasteners.Count > 0
        );
}

/// <summary>How a question was read, shown so that a wrong reading is seen.</summary>
public sealed record Reading(int? Code, PanelSide? Side, IReadOnlyList<string> Words, bool Fasteners);

/// <summary>What was found, best first.</summary>
/// <param name="Exact">False: nothing answers all of it; these are the nearest.</param>
public sealed record BagsFound(Reading Reading, IReadOnlyList<Guid> Bags, bool Exact);

/// <summary>Finds bags by what people say: a number, a side, and words in any order.</summary>
public static class BagFinder
{
    private static readonly Dictionary<string, string> Same = new(StringComparer.Ordinal)
    {
        ["fender"] = "wing",
        ["hood"] = "bonnet",
        ["trunk"] = "boot",
        ["windshield"] = "screen",
        ["windscreen"] = "screen",
        ["rocker"] = "sill",
        ["light"] = "lamp",
        ["turn"] = "indicator",
        ["muffler"] = "silencer",
    };

    private static readonly HashSet<string> Fastenings =
    [
        "screw",
        "bolt",
        "nut",
        "clip",
        "washer",
        "rivet",
        "fastener",
        "stud",
        "pin",
        "cup",
    ];

    private static readonly HashSet<string> Idle =
    [
        "the",
        "of",
        "for",
        "and",
        "from",
        "a",
        "my",
        "where",
        "is",
        "are",
        "bag",
    ];

    /// <summary>Reads a question and ranks the bags; at most <paramref name="most"/> come back.</summary>
    /// <exception cref="Refusal">Nothing was asked.</exception>
    public static BagsFound Find(string question, IReadOnlyList<BagEntry> bags, int most = 30)
    {
        var reading = Read(question);
        Refusal.When(
            reading.Code is null && reading.Side is null && reading.Words.Count == 0,
            "q",
            "Type a number, or what it is and which side."
        );
        var scored = bags.Select(b => (Bag: b, Score: Score(b, reading)))
            .Where(s => s.Score > 0)
            .OrderByDescending(s => s.Score)
            .ThenByDescending(s => s.Bag.Code)
            .ToList();
        var full = scored.Where(s => Answers(s.Bag, reading)).ToList();
        return full.Count > 0
            ? new(reading, full.Take(most).Select(s => s.Bag.Id).ToList(), true)
            : new(reading, scored.Take(3).Select(s => s.Bag.Id).ToList(), false);
    }

    /// <summary>Reads a scan such as "FC 214 L", a number, or words.</summary>
    public static Reading Read(string question)
    {
        int? code = null;
        PanelSide? side = null;
        var (words, fasteners) = (new List<string>(), false);
        foreach (
            var raw in question
                .ToLowerInvariant()
                .Split([' ', ',', '-', '.', '/', '\t'], StringSplitOptions.RemoveEmptyEntries)
                .Take(20)
        )
        {
            var word = Stem(raw);
            if (raw is "l" or "left")
            {
                side = PanelSide.Left;
            }
            else if (raw is "r" or "right")
            {
                side = PanelSide.Right;
            }
            else if (
                code is null
                && words.Count == 0
                && int.TryParse(raw.TrimEnd('l', 'r'), out var number)
                && number > 0
            )
            {
                code = number;
                side = raw[^1] switch
                {
                    'l' => PanelSide.Left,
                    'r' => PanelSide.Right,
                    _ => side,
                };
            }
            else if (raw != "fc" && !Idle.Contains(raw))
            {
                fasteners |= Fastenings.Contains(word);
                words.Add(Plain(raw));
            }
        }

        return new(code, side, words, fasteners);
    }

    private static bool Answers(BagEntry b, Reading r) =>
        (r.Code is null || b.Code == r.Code) && (r.Side is null || b.Side == r.Side) && r.Words.All(w => Has(b, w));

    private static bool Has(BagEntry b, string word) =>
        b.Text.Contains(word, StringComparison.Ordinal)
        || (Fastenings.Contains(word) && b.HasFasteners && word == "fastener");

    private static int Score(BagEntry b, Reading r)
    {
        var score = r.Code == b.Code ? 100 : 0;
        score += r.Words.Sum(w =>
            b.What.Contains(w, StringComparison.Ordinal) ? 12
            : Has(b, w) ? 8
            : 0
        );
        // The side alone finds nothing, but it decides between twins.
        return score == 0 && r.Words.Count > 0
            ? 0
            : score + (r.Side is { } s && b.Side == s ? 5 : 0) + (r.Fasteners && b.HasFasteners ? 1 : 0);
    }

    /// <summary>A word as it is compared: the one for the plural, and one word of those that mean the same. Lower case
    /// goes in.</summary>
    public static string Plain(string word) => Same.GetValueOrDefault(Stem(word), Stem(word));

    /// <summary>A plural finds the one, as far as English goes.</summary>
    private static string Stem(string word) =>
        word.Length > 3
        && word.EndsWith("es", StringComparison.Ordinal)
        && word[^3] is 's' or 'x' or 'h'
        && word.Length > 4
            ? word[..^2]
        : word.Length > 3 && word[^1] == 's' && word[^2] != 's' ? word[..^1]
        : word;
}
