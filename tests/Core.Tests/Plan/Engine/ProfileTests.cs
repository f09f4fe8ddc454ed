using CsCheck;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Tests.Plan.Engine;

/// <summary>The steps of a resource against a plain array of instants.</summary>
public sealed class ProfileTests
{
    private const int Time = 60;

    [Fact]
    public void It_says_what_counting_every_instant_says()
    {
        Gen.Select(Gen.Int[0, Time - 1], Gen.Int[1, 20], Gen.Int[1, 2]).Array[1, 40].Sample(stretches =>
        {
            var profile = new Profile(5);
            var taken = new int[Time + 40];
            var booked = new List<(int, int, int)>();
            foreach (var (start, length, amount) in stretches)
            {
                // Every third time something is given back, as a search does.
                if (booked.Count % 3 == 2)
                {
                    var (s, e, a) = booked[booked.Count / 2];
                    booked.RemoveAt(booked.Count / 2);
                    Book(profile, taken, s, e, -a);
                }

                booked.Add((start, start + length, amount));
                Book(profile, taken, start, start + length, amount);
                profile.MostUsed(start, start + length).ShouldBe(taken[start..(start + length)].Max());
            }

            foreach (var (from, length, need) in stretches)
            {
                var expected = Enumerable.Range(from, Time + 80).First(t => Enumerable.Range(t, length).All(i => (i < taken.Length ? taken[i] : 0) <= 5 - need));
                profile.FirstFit(from, length, need).ShouldBe(expected);
            }

            profile.Taken(0, taken.Length).Sum(t => (t.To - t.From) * t.Used).ShouldBe(taken.Sum());
        }, iter: 3000);
    }

    [Fact]
    public void More_than_there_is_never_fits() => new Profile(2).FirstFit(0, 1, 3).ShouldBe(int.MaxValue);

    private static void Book(Profile profile, int[] taken, int start, int end, int amount)
    {
        profile.Add(start, end, amount);
        for (var i = start; i < end; i++)
        {
            taken[i] += amount;
        }
    }
}
