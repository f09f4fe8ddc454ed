using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Tests.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What a manager settles of when, by whom and where, what cannot be settled, and what is not kept.</summary>
public sealed class OperationPinTests
{
    private static readonly LocalDate Today = new(2026, 3, 5);
    private readonly Person _ada = RecordedShop.Person("Ada Moor", Trade.Metal);
    private readonly Station _bay = new()
    {
        Id = Guid.CreateVersion7(),
        Name = "Bay 2",
        Kind = StationKind.Bay,
    };
    private readonly Operation _sill = new()
    {
        Id = Guid.CreateVersion7(),
        BuildId = Guid.Empty,
        Name = "Sill",
        Trade = Trade.Metal,
        BudgetMinutes = 60,
        Station = StationKind.Bay,
        Terms = new() { Body = BodyUse.OnBody },
    };

    private void Put(OperationPin pin) => pin.Put(_sill, Today, _ada, _bay);

    private string Refused(OperationPin pin) => Should.Throw<Refusal>(() => Put(pin)).Message;

    [Fact]
    public void It_is_put_on_changed_and_let_go()
    {
        var all = new OperationPin(Today.PlusDays(4), _ada.Id, _bay.Id);
        Put(all);
        OperationPin.Of(_sill).ShouldBe(all);
        _sill.PersonId.ShouldBe(_ada.Id);
        Put(all with { Place = null });
        OperationPin.Of(_sill).ShouldBe(all with { Place = null });
        Put(new(null, null, null));
        OperationPin.Of(_sill).ShouldBe(new(null, null, null));
    }

    [Fact]
    public void A_day_before_which_it_must_not_start_stays_one_and_is_no_wish_when_only_the_person_changes()
    {
        _sill.Terms = _sill.Terms with { NotBefore = Today.PlusDays(9) };
        Put(OperationPin.Of(_sill) with { Person = _ada.Id });
        (_sill.Terms.NotBefore, _sill.Terms.PinnedOn).ShouldBe((Today.PlusDays(9), null));
    }

    [Fact]
    public void What_cannot_be_names_its_rule()
    {
        Refused(new(Today.PlusDays(-1), null, null)).ShouldBe("Nothing starts in the past.");
        _ada.Trades = [Trade.Trim];
        Refused(new(null, _ada.Id, null)).ShouldBe("Ada has not the trade metal.");
        _ada.Trades = [Trade.Metal];
        _ada.Terms = new() { NotGiven = [WorkKind.HotWork] };
        Put(new(null, _ada.Id, null));
        Put(new(null, null, null));
        _sill.Hazard = Hazard.Welding;
        Refused(new(null, _ada.Id, null)).ShouldBe("Ada is not given this kind of work: hot work.");
        _bay.Kind = StationKind.Booth;
        Refused(new(null, null, _bay.Id)).ShouldBe("Bay 2 is no place for this, which asks for: bay.");
        _sill.Terms = new() { Body = BodyUse.Beside };
        Refused(new(null, null, _bay.Id)).ShouldContain("not done in a place of its own");
        _sill.Finish("Ada", Instant.FromUtc(2026, 3, 5, 9, 0));
        Refused(new(null, null, null)).ShouldBe("It is done: nothing pins it any more.");
    }

    [Fact]
    public void What_has_stopped_to_fit_does_not_keep_the_rest_from_being_changed()
    {
        Put(new(Today, _ada.Id, _bay.Id));
        (_ada.Trades, _bay.Kind) = ([Trade.Trim], StationKind.Booth);
        new OperationPin(Today, _ada.Id, _bay.Id).Put(_sill, Today.PlusDays(2), _ada, _bay);
    }

    [Fact]
    public void What_the_plan_does_not_keep_is_said_with_why()
    {
        var pin = new OperationPin(Today, _ada.Id, _bay.Id);
        string[] Broken(LocalDate starts, Guid by, Guid? at, string why = "epoxy cures") =>
            [.. pin.Broken(starts, [by], at, () => why, id => id == _ada.Id ? "Ada" : "Bay 2")];
        Broken(Today, _ada.Id, _bay.Id).ShouldBeEmpty();
        Broken(Today.PlusDays(1), _ada.Id, _bay.Id)
            .ShouldBe(["It was to start on Thu 5 Mar, and is planned for Fri 6 Mar: epoxy cures."]);
        Broken(Today.PlusDays(1), _ada.Id, _bay.Id, "").ShouldHaveSingleItem().ShouldEndWith(": it was not begun.");
        Broken(Today, _bay.Id, null)
            .ShouldBe([
                "It was to be done by Ada, who cannot do it now.",
                "It was to be done in Bay 2, where it cannot be done now.",
            ]);
    }
}
