using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Tests;

public sealed class RefusalTests
{
    [Fact]
    public void All_that_is_wrong_is_said_at_once_each_field_once()
    {
        var refused = Should.Throw<Refusal>(() =>
            Refusal.Each(
                () => Refusal.Text(" ", "name"),
                () => Refusal.When(true, "year", "The year is wrong."),
                () => Refusal.When(true, "name", "Never said: the name is missing already."),
                () =>
                    Refusal.Each(
                        () => Refusal.When(true, "widthMm", "Too wide."),
                        () => Refusal.When(true, "lengthMm", "Too long.")
                    )
            )
        );
        refused.Field.ShouldBe("name");
        refused.Message.ShouldBe("Please give the name.");
        refused
            .All.Select(r => (r.Field, r.Message))
            .ShouldBe([
                ("name", "Please give the name."),
                ("year", "The year is wrong."),
                ("widthMm", "Too wide."),
                ("lengthMm", "Too long."),
            ]);
    }

    [Fact]
    public void One_fault_is_said_alone_and_none_is_no_refusal()
    {
        Should
            .Throw<Refusal>(() => Refusal.Each(() => { }, () => Refusal.Text("", "what")))
            .All.Single()
            .Message.ShouldBe("Say what it is.");
        Should.NotThrow(() => Refusal.Each(() => { }));
    }

    [Fact]
    public void What_is_not_there_is_no_fault_of_the_form() =>
        Should
            .Throw<Refusal>(() => Refusal.Each(() => Refusal.Text("", "what"), () => throw Refusal.Missing("bag")))
            .NotFound.ShouldBeTrue();

    [Fact]
    public void A_vehicle_hears_all_its_limits_at_once_for_the_nearest_length_that_there_is()
    {
        var refused = Should.Throw<Refusal>(() => new BodyDimensions(200, 5000, 100).Check(BodyStyleKey.Coupe));
        refused
            .All.Select(r => r.Message)
            .ShouldBe([
                "The length must be between 2,600 and 7,000 mm.",
                "The width of a vehicle 2,600 mm long must be between 598 and 1,456 mm.",
                "The wheelbase of a vehicle 2,600 mm long must be between 1,196 and 1,872 mm.",
            ]);
        Should.NotThrow(() => new BodyDimensions(3900, 1500, 2300).Check(BodyStyleKey.Coupe));
    }
}
