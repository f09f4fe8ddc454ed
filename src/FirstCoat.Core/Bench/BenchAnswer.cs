using System.Text.Json.Nodes;

namespace FirstCoat.Core.Bench;

/// <summary>A line of an answer.</summary>
/// <param name="Was">The same of what it is compared with; empty: nothing.</param>
public sealed record BenchRow(string Label, string Value, string Was = "", bool IsWrong = false);

/// <summary>Where a sum comes from.</summary>
/// <param name="Text">Rule, standard or derivation.</param>
/// <param name="IsRuleOfThumb">The product's sheet, the maker or local code comes first.</param>
public sealed record BenchSource(string Text, bool IsRuleOfThumb = false);

/// <summary>What a bench sum comes to, in words and as figures for its drawing.</summary>
/// <param name="Says">The one thing to know.</param>
/// <param name="Notes">What to do about it.</param>
/// <param name="Worked">The formula with the numbers in it.</param>
/// <param name="Out">Figures for the drawing, unrounded; lengths in millimetres.</param>
public sealed record BenchAnswer(
    string Says,
    bool IsWrong,
    IReadOnlyList<string> Notes,
    IReadOnlyList<BenchRow> Rows,
    IReadOnlyList<string> Worked,
    BenchSource Source,
    JsonObject Out
);
