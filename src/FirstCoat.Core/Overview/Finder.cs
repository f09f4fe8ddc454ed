using System.Globalization;
using System.Text;
using FirstCoat.Core.Teardown;

namespace FirstCoat.Core.Overview;

/// <summary>What can be found.</summary>
public enum FoundKind
{
    Build,
    Panel,
    Finding,
    Bag,
    Operation,
    Part,
    Batch,
    Paper,
    Person,
    Supplier,
    Do,
}

/// <summary>Something that can be found by its words.</summary>
/// <param name="BuildId">Whose it is; null: the shop's.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Detail">Where it is, or how it stands.</param>
/// <param name="Text">All words it answers to, as <see cref="Finder.Plain"/> makes them, with one space
/// between.</param>
/// <param name="ForDesk">It tells of prices: a technician does not find it.</param>
public sealed record Findable(
    Guid Id,
    FoundKind Kind,
    Guid? BuildId,
    string Label,
    string Detail,
    string Text,
    bool ForDesk = false
)
{
    /// <summary>Makes one; label and detail are found, and whatever else is given.</summary>
    public static Findable Of(
        Guid id,
        FoundKind kind,
        Guid? build,
        string label,
        string detail,
        bool forDesk,
        params IEnumerable<string> more
    ) =>
        new(
            id,
            kind,
            build,
            label,
            detail,
            Words.Shortened(
                string.Join(' ', Finder.Plain(string.Join(' ', more.Prepend(detail).Prepend(label))).Distinct()),
                TextMost
            ),
            forDesk
        );

    /// <summary>The longest text that is kept, in characters.</summary>
    public const int TextMost = 600;
}

/// <summary>Finds by words in any order, one slip of the finger in each forgiven.</summary>
public static class Finder
{
    /// <summary>Words of a question that are read; more say nothing new.</summary>
    public const int WordsMost = 8;

    /// <summary>Words as they are compared: lower case, without marks over letters, the one for the plural, one word of
    /// those that mean the same.</summary>
    public static IEnumerable<string> Plain(string text)
    {
        var word = new StringBuilder();
        foreach (var c in text.Normalize(NormalizationForm.FormD).Append(' '))
        {
            if (char.IsLetterOrDigit(c))
            {
                word.Append(char.ToLowerInvariant(c));
            }
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && word.Length > 0)
            {
                yield return word.ToString() switch
                {
                    "l" => "left",
                    "r" => "right",
                    var w => BagFinder.Plain(w),
                };
                word.Clear();
            }
        }
    }

    /// <summary>The words of a question, each once.</summary>
    public static IReadOnlyList<string> Read(string question) => [.. Plain(question).Distinct().Take(WordsMost)];

    /// <summary>How well a text answers a question; 0: a word of the question is not in it.</summary>
    /// <param name="question">As <see cref="Read"/> makes it.</param>
    /// <param name="text">As it is kept in <see cref="Findable.Text"/>.</param>
    public static int Score(IReadOnlyList<string> question, string text)
    {
        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var score = 0;
        foreach (var asked in question)
        {
            var best = words.Max(w => Likeness(asked, w));
            if (best == 0)
            {
                return 0;
            }

            score += best;
        }

        return score;
    }

    /// <summary>Ranks what may answer: best first, each kind in its order, at most so many of a kind.</summary>
    /// <param name="here">The build whose page is open: of what answers as well, its own comes first.</param>
    public static IReadOnlyList<Findable> Best(
        IReadOnlyList<string> question,
        IEnumerable<Findable> candidates,
        Guid? here = null,
        int mostOfAKind = 5
    ) =>
        question.Count == 0
            ? []
            :
            [
                .. candidates
                    .Select(c =>
                        (
                            What: c,
                            Score: Score(question, c.Text) is > 0 and var s
                                ? s + (Score(question, string.Join(' ', Plain(c.Label))) > 0 ? 2 : 0)
                                : 0
                        )
                    )
                    .Where(c => c.Score > 0)
                    .GroupBy(c => c.What.Kind)
                    .OrderBy(g => g.Key)
                    .SelectMany(g =>
                        g.OrderByDescending(c => c.Score)
                            .ThenByDescending(c => here is not null && c.What.BuildId == here)
                            .ThenBy(c => c.What.Label, StringComparer.OrdinalIgnoreCase)
                            .ThenBy(c => c.What.Id)
                            .Take(mostOfAKind)
                    )
                    .Select(c => c.What),
            ];

    private static int Likeness(string asked, string word) =>
        word == asked ? 6
        : word.StartsWith(asked, StringComparison.Ordinal) ? 5
        : asked.Length >= 3 && word.Contains(asked, StringComparison.Ordinal) ? 3
        : asked.Length >= 4 && !asked.Any(char.IsDigit) && IsOneSlipFrom(asked, word) ? 2
        : 0;

    /// <summary>Whether one letter too many, too few, wrong, or two swapped make the one word the other, or the
    /// beginning of it.</summary>
    /// <remarks>Source: the restricted edit distance of Damerau (1964), limited to one.</remarks>
    public static bool IsOneSlipFrom(string asked, string word) =>
        IsWithinOne(asked, word)
        || (
            word.Length > asked.Length + 1
            && Enumerable.Range(asked.Length - 1, 3).Any(n => IsWithinOne(asked, word[..n]))
        );

    private static bool IsWithinOne(string a, string b)
    {
        if (Math.Abs(a.Length - b.Length) > 1)
        {
            return false;
        }

        var i = 0;
        while (i < a.Length && i < b.Length && a[i] == b[i])
        {
            i++;
        }

        var (x, y) = (a[i..], b[i..]);
        return x.Length == y.Length
                ? x.Length == 0
                    || x[1..] == y[1..]
                    || (x.Length > 1 && x[0] == y[1] && x[1] == y[0] && x[2..] == y[2..])
            : x.Length > y.Length ? x[1..] == y
            : y[1..] == x;
    }
}

/// <summary>What somebody may want to do.</summary>
public enum ToDo
{
    Clock,
    NoteFinding,
    EnterHours,
    BagSomething,
    OrderPart,
    SendBatch,
    DraftReport,
    DraftEstimate,
    OpenBuild,
    TryPlan,
    DrawPlan,
    ChangeShop,
}

/// <summary>Something to do that is found by its words.</summary>
/// <param name="OfBuild">It is done on a build's page: one must be named.</param>
public sealed record ThingToDo(
    ToDo Key,
    string Label,
    string Words,
    bool ForManager = false,
    bool ForDesk = false,
    bool OfBuild = false
)
{
    public static readonly IReadOnlyList<ThingToDo> All =
    [
        new(ToDo.Clock, "Start or stop the clock", "book hours timer work"),
        new(ToDo.NoteFinding, "Note something found", "finding rust damage survey", OfBuild: true),
        new(ToDo.EnterHours, "Enter hours", "book time correct", OfBuild: true),
        new(ToDo.BagSomething, "Bag something", "label tray store", OfBuild: true),
        new(ToDo.OrderPart, "Order a part", "buy need", OfBuild: true),
        new(ToDo.SendBatch, "Send a batch out", "plating chrome supplier away", ForDesk: true, OfBuild: true),
        new(ToDo.DraftReport, "Draft a report", "update client letter photos", ForDesk: true, OfBuild: true),
        new(ToDo.DraftEstimate, "Draft an estimate", "quote price change order", ForDesk: true, OfBuild: true),
        new(ToDo.OpenBuild, "Open a build", "new vehicle client job", ForManager: true),
        new(ToDo.TryPlan, "Try a change of the plan", "what if sandbox absence booth", ForManager: true),
        new(ToDo.DrawPlan, "Draw the shop's plan", "station bay wall door", ForManager: true),
        new(ToDo.ChangeShop, "Change people, rates and calendar", "person week tax account supplier", ForManager: true),
    ];

    /// <summary>Whether a role may do it.</summary>
    public bool Is(bool manager, bool desk) => (!ForManager || manager) && (!ForDesk || desk);
}
