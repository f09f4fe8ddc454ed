using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Tests.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>Planning again from a template loses nothing that was done, begun or added.</summary>
public sealed class ResequenceTests
{
    private static readonly Guid Build = Guid.CreateVersion7();

    private static List<Operation> Make(string template, TemplateChoices? choices = null) =>
        [.. Templates.Make(template, Build, RecordedShop.Car, FinishGrade.Show, 1, Guid.CreateVersion7, choices)];

    private static Operation Of(IEnumerable<Operation> all, string key) => all.Single(o => o.TemplateKey == key);

    [Fact]
    public void Done_begun_and_added_work_stays_and_the_rest_follows_the_new_template()
    {
        var present = Make(Templates.PaintThenAssemble);
        var (record, floor, fitup, skins) = (
            Of(present, "record"),
            Of(present, "floor"),
            Of(present, "fitup"),
            Of(present, "skins")
        );
        record.Finish("Ada", Instant.FromUtc(2026, 3, 2, 12, 0));
        floor.BudgetMinutes = 4321;
        skins.PersonId = Guid.CreateVersion7();
        var added = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            Name = "New cross member",
            Trade = Trade.Metal,
            BudgetMinutes = 600,
            Stage = Stage.Metal,
            Position = floor.Position,
            After = [new(floor.Id, 0)],
        };
        fitup.After = [.. fitup.After, new(added.Id, 0)];
        present.Add(added);
        var done = new Resequence(
            present,
            Make(Templates.DriveFirst),
            new HashSet<Guid> { floor.Id },
            new HashSet<Guid>()
        ).Apply();

        done.Kept.Select(o => o.Name)
            .ShouldBe(["Arrival round, record, photos", "Floor and inner structure", "New cross member"]);
        done.Added.Select(o => o.TemplateKey).ShouldBe(["rough", "g-bare", "shake", "apart"]);
        done.Changed.Select(o => o.TemplateKey).ShouldBe(["epoxy"]);
        done.TakenOut.ShouldBeEmpty();
        floor.BudgetMinutes.ShouldBe(4321);
        skins.PersonId.ShouldNotBeNull();
        fitup.After.ShouldContain(a => a.Operation == added.Id);
        added.Position.ShouldBe(floor.Position + 1);
        Of(present, "epoxy").After.ShouldHaveSingleItem().Operation.ShouldBe(Of(done.Added, "apart").Id);
        Of(present, "support").Terms.Hold!.Until.ShouldBe(Of(present, "weldout").Id);
        OperationOrder.Check([.. present, .. done.Added]);
    }

    [Fact]
    public void Work_of_which_a_finding_has_replaced_a_share_keeps_what_is_left_of_it()
    {
        var present = Make(Templates.PaintThenAssemble);
        var side = Of(present, "sillR");
        new Allowance(side, 600, false).TakeOut("sillR", Guid.CreateVersion7());
        var done = new Resequence(
            present,
            Make(Templates.DriveFirst),
            new HashSet<Guid>(),
            new HashSet<Guid>()
        ).Apply();
        done.Kept.ShouldContain(side);
        side.BudgetMinutes.ShouldBe(34 * 60 - 600);
        side.Panels.ShouldNotContain("sillR");
    }

    [Fact]
    public void What_the_new_template_lacks_goes_unless_it_was_begun_or_a_finding_speaks_of_it()
    {
        var present = Make(Templates.DriveFirst);
        var (rough, bare, shake) = (Of(present, "rough"), Of(present, "g-bare"), Of(present, "shake"));
        rough.State(0.3m, default);
        var tail = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            Name = "Exhaust",
            Trade = Trade.Mechanic,
            BudgetMinutes = 60,
            Position = 99,
            After = [new(Of(present, "apart").Id, 0)],
        };
        present.Add(tail);
        var done = new Resequence(
            present,
            Make(Templates.PaintThenAssemble),
            new HashSet<Guid>(),
            new HashSet<Guid> { shake.Id }
        ).Apply();
        done.TakenOut.Select(o => o.TemplateKey).ShouldBe(["apart"]);
        done.TakenOut.ShouldAllBe(o => o.Removed);
        done.Kept.Select(o => o.Name).ShouldBe([rough.Name, bare.Name, shake.Name, "Exhaust"], ignoreOrder: true);
        // It came after what is gone, so it now comes after what that came after.
        tail.After.ShouldHaveSingleItem().Operation.ShouldBe(shake.Id);
        // The first drive stays, and so does its check: that one has no override.
        shake.After.ShouldHaveSingleItem().Operation.ShouldBe(bare.Id);
    }

    [Fact]
    public void The_same_template_again_changes_nothing_but_what_was_edited()
    {
        var present = Make(Templates.PaintThenAssemble);
        var before = present.ToDictionary(
            o => o.Id,
            o => (o.Name, o.Position, o.BudgetMinutes, Links: string.Join(',', o.After))
        );
        var done = new Resequence(
            present,
            Make(Templates.PaintThenAssemble),
            new HashSet<Guid>(),
            new HashSet<Guid>()
        ).Apply();
        done.Added.ShouldBeEmpty();
        done.TakenOut.ShouldBeEmpty();
        done.Changed.ShouldBeEmpty();
        present
            .ToDictionary(o => o.Id, o => (o.Name, o.Position, o.BudgetMinutes, Links: string.Join(',', o.After)))
            .ShouldBe(before);
    }

    [Fact]
    public void A_sequence_without_keys_is_known_by_its_names()
    {
        var present = Make(Templates.PaintThenAssemble);
        present.ForEach(o => o.TemplateKey = "");
        var done = new Resequence(
            present,
            Make(Templates.PaintThenAssemble),
            new HashSet<Guid>(),
            new HashSet<Guid>()
        ).Apply();
        (done.Added.Count, done.TakenOut.Count, done.Kept.Count).ShouldBe((0, 0, 0));
    }

    private static Resequenced From(List<Operation> present, TemplateChoices now, TemplateChoices? was = null) =>
        new Resequence(
            present,
            Make(Templates.PaintThenAssemble, now),
            new HashSet<Guid>(),
            new HashSet<Guid>(),
            Make(Templates.PaintThenAssemble, was)
        ).Apply();

    [Fact]
    public void Another_school_changes_what_the_two_templates_have_not_alike_and_leaves_what_was_changed_by_hand()
    {
        var present = Make(Templates.PaintThenAssemble);
        var (floor, hang, right) = (Of(present, "floor"), Of(present, "hang"), Of(present, "sillR"));
        floor.BudgetMinutes = 4321;
        hang.Name = "Hang doors";
        right.BudgetMinutes = 99;
        var done = From(present, new(Sides: SideSchool.Both));
        done.TakenOut.Select(o => o.TemplateKey).ShouldBe(["g-side"]);
        done.Kept.ShouldBe([floor, hang], ignoreOrder: true);
        (floor.BudgetMinutes, hang.Name).ShouldBe((4321, "Hang doors"));
        // The side no longer waits for the other: of that, the template has other terms now.
        done.Changed.ShouldContain(right);
        (right.BudgetMinutes, right.Terms.ClosedUntil).ShouldBe((34 * 60, null));
        present.Where(o => !o.Removed).SelectMany(o => o.After).ShouldAllBe(a => a.Operation != done.TakenOut[0].Id);
        OperationOrder.Check([.. present.Where(o => !o.Removed), .. done.Added]);
    }

    [Fact]
    public void The_same_choices_again_change_nothing_at_all()
    {
        var present = Make(Templates.PaintThenAssemble, new(SupportState.Cart, BlastSchool.WhereNeeded));
        Of(present, "floor").BudgetMinutes = 4321;
        Of(present, "skins").After = [];
        var choices = new TemplateChoices(SupportState.Cart, BlastSchool.WhereNeeded);
        var done = From(present, choices, choices);
        (done.Added.Count, done.Changed.Count, done.TakenOut.Count).ShouldBe((0, 0, 0));
        done.Kept.Select(o => o.TemplateKey).ShouldBe(["floor", "skins"], ignoreOrder: true);
        Of(present, "skins").After.ShouldBeEmpty();
    }

    [Fact]
    public void What_was_taken_out_by_hand_stays_out_and_what_came_after_it_comes_after_what_that_came_after()
    {
        var present = Make(Templates.PaintThenAssemble, new(Wiring: WiringSchool.OnBareMetal));
        var gone = Of(present, "cleanout");
        var (strip, next) = (
            Of(present, "strip"),
            present.Where(o => o.After.Any(a => a.Operation == gone.Id)).ToList()
        );
        next.ForEach(o => o.After = [.. o.After.Where(a => a.Operation != gone.Id), new(strip.Id, 0)]);
        gone.Remove(false);
        present.Remove(gone);
        var done = From(
            present,
            new(Blast: BlastSchool.WhereNeeded, Wiring: WiringSchool.OnBareMetal),
            new(Wiring: WiringSchool.OnBareMetal)
        );
        done.Added.Select(o => o.TemplateKey).ShouldBe(["spotblast"]);
        // The template has it after both.
        done.Added[0].After.ShouldHaveSingleItem().Operation.ShouldBe(strip.Id);
    }

    [Theory, MemberData(nameof(Schools))]
    public void From_any_school_to_any_other_and_back_is_as_it_was(TemplateChoices choices)
    {
        static List<string> Shown(IEnumerable<Operation> all)
        {
            var keys = all.ToDictionary(o => o.Id, o => o.TemplateKey);
            return
            [
                .. all.OrderBy(o => o.Position)
                    .Select(o =>
                        $"{o.TemplateKey} {o.Name} {o.BudgetMinutes} {o.Station} {o.Terms.Sets} "
                        + string.Join(',', o.After.Select(a => keys[a.Operation]).Order())
                    ),
            ];
        }

        var present = Make(Templates.PaintThenAssemble);
        var before = Shown(present);
        var there = From(present, choices);
        List<Operation> between = [.. present.Where(o => !o.Removed), .. there.Added];
        Shown(between).ShouldBe(Shown(Make(Templates.PaintThenAssemble, choices)));
        var back = From(between, new(), choices);
        Shown([.. between.Where(o => !o.Removed), .. back.Added]).ShouldBe(before);
    }

    public static TheoryData<TemplateChoices> Schools() =>
        [
            .. from hold in Enum.GetValues<SupportState>()
            from blast in Enum.GetValues<BlastSchool>()
            select new TemplateChoices(hold, blast),
            .. from sides in Enum.GetValues<SideSchool>()
            from filler in Enum.GetValues<FillerSchool>()
            from gaps in Enum.GetValues<GapSchool>()
            from wiring in Enum.GetValues<WiringSchool>()
            from trim in Enum.GetValues<TrimSchool>()
            select new TemplateChoices(Sides: sides, Filler: filler, Gaps: gaps, Wiring: wiring, Trim: trim),
        ];

    [Theory, MemberData(nameof(Schools))]
    public void Every_school_makes_a_sequence_that_holds_together(TemplateChoices choices)
    {
        var made = Make(Templates.DriveFirst, choices);
        OperationOrder.Check(made);
        made.ForEach(o => o.Check());
        var ids = made.ToDictionary(o => o.Id, o => o.Position);
        made.Where(o => o.Terms.Hold is not null).ShouldAllBe(o => ids[o.Terms.Hold!.Until] > o.Position);
        made.SelectMany(o => o.After.Select(a => (o.Position, Before: ids[a.Operation])))
            .ShouldAllBe(x => x.Before < x.Position);
    }

    [Fact]
    public void The_schools_differ_where_practitioners_do()
    {
        List<string> Keys(TemplateChoices c) => [.. Make(Templates.PaintThenAssemble, c).Select(o => o.TemplateKey)];
        Keys(new()).ShouldContain("g-side");
        Keys(new(Sides: SideSchool.Both)).ShouldNotContain("g-side");
        Keys(new(Blast: BlastSchool.AfterFabrication))
            .IndexOf("blast")
            .ShouldBeGreaterThan(Keys(new(Blast: BlastSchool.AfterFabrication)).IndexOf("weldout"));
        Keys(new(Blast: BlastSchool.WhereNeeded)).ShouldNotContain("blast");
        Keys(new(Filler: FillerSchool.FillerFirst))
            .IndexOf("fill-c")
            .ShouldBeLessThan(Keys(new(Filler: FillerSchool.FillerFirst)).IndexOf("epoxy"));
        Keys(new(Wiring: WiringSchool.OnBareMetal)).ShouldContain("loomrough");
        new TemplateChoices().Caution().ShouldBeNull();
        new TemplateChoices(SupportState.Rotisserie).Caution()!.ShouldContain("flex");
        var first = Make(Templates.PaintThenAssemble).Single(o => o.TemplateKey == "etch").After.Single();
        (first.AtMostMinutes, first.Lapse!.Name).ShouldBe((1440, "Clean bare metal again"));
        Of(Make(Templates.PaintThenAssemble), "sillR").Terms.ClosedUntil.ShouldNotBeNull();
    }

    [Fact]
    public void A_visiting_upholsterer_accepts_first_and_works_in_a_bay_of_ours_by_whole_days()
    {
        var made = Make(Templates.PaintThenAssemble, new(Trim: TrimSchool.Visiting));
        var (gate, visit) = (Of(made, "g-trim"), Of(made, "interior"));
        (gate.Kind, gate.Gate, Gates.CanOverride(gate.Gate!.Value)).ShouldBe(
            (OperationKind.Gate, GateKind.Surface, true)
        );
        gate.After.Select(a => a.Operation).ShouldBe([Of(made, "glass").Id, Of(made, "deaden").Id]);
        // 36 hours are four days and a half: five visits.
        (visit.Kind, visit.Station, visit.ClockMinutes, visit.Terms.Body).ShouldBe(
            (OperationKind.Outside, StationKind.Bay, 5 * 1440, BodyUse.OnBody)
        );
        visit.After.ShouldHaveSingleItem().Operation.ShouldBe(gate.Id);
    }
}
