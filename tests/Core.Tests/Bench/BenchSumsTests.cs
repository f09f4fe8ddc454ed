using System.Text.Json;
using FirstCoat.Core.Bench;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Tests.Bench;

/// <summary>Sums of the bench as they are typed and answered, with numbers worked by hand.</summary>
public sealed class BenchSumsTests
{
    private static readonly Dictionary<string, string> Whole = new()
    {
        ["wheel"] = """
            {"wasTyre":"205/65R15","wasRim":"7","wasOffset":"8","lip":"12","spring":"50.5","above":"78.3","bump":"58",
             "tyre":"245/40R18","rim":"8.5","offset":"20","wantLip":"8","wantSpring":"10"}
            """,
        ["door"] = """{"body":"1450","dolly":"600","margin":"200","door":"2200"}""",
        ["chassis"] = """
            {"wheelbaseLeft":"2404","wheelbaseRight":"2400","track":"1400","rearLeft":"700","rearRight":"706",
             "fl":"10","fr":"6","rl":"6","rr":"10"}
            """,
        ["opening"] = """{"d1":"1510","d2":"1490","width":"1200","side":"900","tolerance":"2"}""",
        ["gap"] = """
            {"stations":[{"pos":"0","gap":"4"},{"pos":"500","gap":"4.5"},{"pos":"1000","gap":"5"}],
             "target":"4.5","tolerance":"0.6","rangeLimit":"0.8","rearDrop":"4","hingeSpacing":"350","hingeToRear":"1000"}
            """,
        ["chain"] = """
            {"links":[{"name":"housing","size":"60","tol":"1"},{"name":"fan","size":"48","tol":"0.5","takes":true},
             {"name":"shim","size":"3","tol":"0.5","takes":true}],"movement":"4","need":"2"}
            """,
        ["tacks"] = """{"length":"1000","spacing":"30","closed":true}""",
        ["holes"] = """{"length":"900","pitch":"40","end":"25"}""",
        ["fold"] = """
            {"flanges":[{"size":"20"},{"size":"30"}],"angle":"90","radius":"2","thickness":"1.2","neutral":"0.42"}
            """,
        ["take-off"] = """
            {"pieces":[{"name":"sill","width":"600","height":"400","qty":"5"}],
             "width":"2000","height":"1000","gauge":"1.2","kerf":"0"}
            """,
        ["taper"] = """{"stations":"5","first":"80","last":"0","step":"350","chord":"1400"}""",
        ["cuts"] = """{"stock":"6000","kerf":"3","pieces":[{"size":"2000","qty":"2"},{"size":"1994"}]}""",
        ["steam"] = """{"thickness":"12"}""",
        ["tank"] = """{"length":"700","width":"450","height":"80","had":"50"}""",
        ["wire"] = """
            {"volts":"12","amps":"10","lengthM":"5","dropPercent":"3",
             "wires":[{"mm2":"4","amps":"25"},{"mm2":"6","amps":"35"}],"fuses":[{"amps":"10"},{"amps":"15"}]}
            """,
        ["tooling"] = """{"tooling":"1201","price":"95","unitCost":"45"}""",
    };

    public static TheoryData<string> All => [.. BenchSums.Names];

    private static BenchAnswer Answer(string sum, string figures)
    {
        using var json = JsonDocument.Parse(figures);
        return BenchSums.Answer(sum, json.RootElement);
    }

    private static Refusal Refused(string sum, string figures) => Should.Throw<Refusal>(() => Answer(sum, figures));

    private static string Without(string sum, string field)
    {
        var figures = JsonSerializer.Deserialize<Dictionary<string, JsonElement>>(Whole[sum])!;
        figures.Remove(field);
        return JsonSerializer.Serialize(figures);
    }

    [Theory]
    [InlineData("wheel", "4.0 mm to the lip, want 8")]
    [InlineData("door", "50.0 mm too high")]
    [InlineData("chassis", "The left wheelbase is 4.0 mm longer")]
    [InlineData("opening", "Leans 12.5 mm to the right")]
    [InlineData("gap", "Not even: 1.0 mm between widest and tightest")]
    [InlineData("chain", "Clears at the worst: 3.0 mm left")]
    [InlineData("tacks", "34 tacks, 29.4 mm apart")]
    [InlineData("holes", "23 holes, 38.6 mm apart")]
    // pi / 2 x (2 + 0.504) = 3.933; 2 x 3.2 - 3.933 = 2.467; 50 - 2.467.
    [InlineData("fold", "Cut it 47.5 mm long")]
    [InlineData("take-off", "1 sheet")]
    [InlineData("taper", "5 stations, 80.0 to 0.0 mm")]
    [InlineData("cuts", "1 bar, 6.0 mm over")]
    [InlineData("steam", "28.8 min in the steam")]
    [InlineData("tank", "75.2 L, 25.2 gained")]
    [InlineData("wire", "6 mm\u00b2, fuse 15 A")]
    [InlineData("tooling", "Earned back with 25 sets")]
    public void Each_sum_says_the_one_thing_to_know(string sum, string says) =>
        Answer(sum, Whole[sum]).Says.ShouldBe(says);

    [Theory]
    [MemberData(nameof(All))]
    public void Each_sum_shows_its_formula_its_source_and_rows(string sum)
    {
        var answer = Answer(sum, Whole[sum]);

        answer.Worked.ShouldNotBeEmpty();
        answer.Worked.ShouldAllBe(w => w.Any(char.IsDigit));
        answer.Source.Text.ShouldNotBeEmpty();
        answer.Rows.ShouldNotBeEmpty();
        answer.Out.Count.ShouldBeGreaterThan(1);
    }

    [Theory]
    [MemberData(nameof(All))]
    public void Nothing_typed_is_refused_at_a_figure_in_words(string sum)
    {
        var refusal = Refused(sum, "{}");

        Whole[sum].ShouldContain($"\"{refusal.Field}\"");
        refusal.Message.ShouldNotContain("Mm");
    }

    [Theory]
    [MemberData(nameof(All))]
    public void Each_number_that_is_no_number_is_refused_by_its_own_name(string sum)
    {
        var figures = JsonSerializer.Deserialize<Dictionary<string, JsonElement>>(Whole[sum])!;
        foreach (var (name, _) in figures.Where(f => f.Value.ValueKind == JsonValueKind.String))
        {
            var broken = new Dictionary<string, object>(
                figures.Select(f => KeyValuePair.Create(f.Key, (object)f.Value))
            )
            {
                [name] = "x",
            };
            Refused(sum, JsonSerializer.Serialize(broken)).Field.ShouldBe(name);
        }
    }

    [Fact]
    public void A_cell_that_cannot_be_is_named_with_its_row() =>
        Refused("take-off", Whole["take-off"].Replace("\"600\"", "\"-6\"", StringComparison.Ordinal))
            .Field.ShouldBe("pieces.0.width");

    [Fact]
    public void A_row_in_which_nothing_is_typed_is_none() =>
        Answer("cuts", """{"stock":"6000","kerf":"3","pieces":[{"size":""},{"size":"2000","qty":""},{}]}""")
            .Says.ShouldBe("1 bar, 4000.0 mm over");

    [Fact]
    public void Inches_are_taken_and_told_in_inches()
    {
        // 60 - (57 + 4) = -1 inch.
        var answer = Answer("door", """{"unit":"inch","body":"50","dolly":"7","margin":"4","door":"60"}""");

        answer.Says.ShouldBe("1.000 in too high");
        answer.Worked.ShouldBe(["60 \u2212 (50 + 7 + 4) = \u22121.000"]);
        answer.Out["doorMm"]!.GetValue<double>().ShouldBe(1524, 1e-9);
    }

    [Fact]
    public void Another_wheel_is_judged_by_what_was_measured_at_the_one_on_the_car()
    {
        // Outer edges 94.5 and 102.5, inner 110.5 and 142.5; wanted 8 and 10.
        var wheel = Answer("wheel", Whole["wheel"]);

        wheel.Out["lipMm"]!.GetValue<double>().ShouldBe(4, 1e-9);
        wheel.Out["springMm"]!.GetValue<double>().ShouldBe(18.5, 1e-9);
        wheel.Out["leastOffsetMm"]!.GetValue<double>().ShouldBe(24, 1e-9);
        wheel.Out["mostOffsetMm"]!.GetValue<double>().ShouldBe(28.5, 1e-9);
        wheel.Out["diameterMm"]!.GetValue<double>().ShouldBe(653.2, 1e-9);
        // 78.3 - 58 - (653.2 - 647.5) / 2.
        wheel.Out["aboveMm"]!.GetValue<double>().ShouldBe(17.45, 1e-9);
        wheel.Notes.ShouldContain("A spacer makes it worse.");
        wheel.Rows.ShouldContain(r => r.Label == "Speedometer" && r.Value == "0.87 % reads slow");
    }

    [Theory]
    [InlineData("24", false)]
    [InlineData("28.5", false)]
    [InlineData("23.9", true)]
    [InlineData("28.6", true)]
    public void Within_the_range_of_offsets_it_clears_and_beyond_it_does_not(string offset, bool wrong) =>
        Answer("wheel", Whole["wheel"].Replace("\"20\"", $"\"{offset}\"", StringComparison.Ordinal))
            .IsWrong.ShouldBe(wrong);

    [Fact]
    public void A_wheel_too_wide_for_both_has_no_offset()
    {
        var answer = Answer("wheel", Whole["wheel"].Replace("245/40R18", "285/35R18", StringComparison.Ordinal));

        // 285: both edges 20 further out than 245: the range 24..28.5 closes to 44..8.5.
        answer.Notes[0].ShouldBe("No offset clears both: the wheel is 35.5 mm too wide.");
    }

    [Fact]
    public void Tacks_are_set_where_it_is_coolest()
    {
        // Ends, middle, quarters: the far quarter first.
        Tacks.Along(100, 25, false).Order(false).ShouldBe([0, 4, 2, 1, 3]);
        Tacks.Along(80, 10, true).Order(true).Take(4).ShouldBe([0, 4, 2, 6]);
    }

    [Theory]
    [InlineData(1, true)]
    [InlineData(2, false)]
    [InlineData(37, true)]
    [InlineData(37, false)]
    public void Every_tack_is_set_once(int steps, bool closed)
    {
        var tacks = Tacks.Along(steps * 10, 10, closed);
        tacks.Order(closed).Order().ShouldBe(Enumerable.Range(0, tacks.Count));
    }

    [Fact]
    public void A_folded_strip_is_as_long_as_its_flats_and_its_arcs()
    {
        // U of 20, 40, 20 outside: flats 16.8, 33.6, 16.8 and two arcs of 3.9333.
        var strip = FoldedStrip.Of([20, 40, 20], 90, 2, 1.2, 0.42);

        strip.AllowanceMm.ShouldBe(Math.PI / 2 * 2.504, 1e-9);
        strip.FlatMm.ShouldBe(67.2 + 2 * strip.AllowanceMm, 1e-9);
        strip.FoldsMm.ShouldBe([16.8 + strip.AllowanceMm / 2, 50.4 + 1.5 * strip.AllowanceMm], 1e-9);
        Should.Throw<Refusal>(() => FoldedStrip.Of([20, 6, 20], 90, 2, 1.2, 0.42)).Field.ShouldBe("flanges");
    }

    [Fact]
    public void Axles_and_corners_are_asked_whole_or_not_at_all()
    {
        Answer("chassis", """{"wheelbaseLeft":"2400","wheelbaseRight":"2400","track":"1400"}""")
            .Says.ShouldBe("Straight, as far as it was measured");
        Refused("chassis", Without("chassis", "rr")).Field.ShouldBe("rr");
        Refused("chassis", Without("chassis", "rearLeft")).Field.ShouldBe("rearLeft");
        Answer("chassis", Whole["chassis"]).Notes[0].ShouldBe("The rear axle stands 3.0 mm too far right.");
    }

    [Fact]
    public void More_pieces_than_somebody_waits_for_are_refused() =>
        Refused("take-off", Whole["take-off"].Replace("\"5\"", "\"201\"", StringComparison.Ordinal))
            .Field.ShouldBe("pieces");

    [Fact]
    public void An_unknown_sum_and_an_unknown_unit_are_refused()
    {
        Refused("sorcery", "{}").Field.ShouldBe("sum");
        Refused("door", """{"unit":"cubit"}""").Field.ShouldBe("unit");
    }
}
