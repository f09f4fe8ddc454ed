using CsCheck;

namespace FirstCoat.Core.Tests;

/// <summary>Words that the program puts together fit where they go.</summary>
public sealed class WordsTests
{
    [Fact]
    public void What_fits_stays_and_what_does_not_ends_between_words()
    {
        Words.Shortened("left front door", 15).ShouldBe("left front door");
        Words.Shortened("left front door, inner skin", 20).ShouldBe("left front door…");
        Words.Shortened(new string('x', 30), 10).ShouldBe("xxxxxxxxx…");
    }

    [Fact]
    public void It_is_never_longer_and_never_cuts_a_character_in_two() =>
        Gen.Select(Gen.String, Gen.Int[2, 40])
            .Sample(
                (text, most) =>
                {
                    var cut = Words.Shortened(text, most);
                    return cut.Length <= most
                        && (
                            cut == text
                            || (
                                cut.EndsWith('…')
                                && (
                                    cut.Length < 2
                                    || !char.IsHighSurrogate(cut[^2])
                                    || char.IsHighSurrogate(text[Math.Max(0, cut.Length - 2)])
                                        && !char.IsLowSurrogate(text[cut.Length - 1])
                                )
                            )
                        );
                }
            );
}
