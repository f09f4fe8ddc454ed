using CsCheck;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Tests.Plan.Engine;

/// <summary>The steps of a resource against a plain array of instants.</summary>
public sealed class ProfileTests
{
    private const int Time = 400;
    private const int Capacity = 5;

    [Fact]
    public void It_says_what_counting_every_instant_says()
    {
        Gen.Select(Gen.Int[0, Time - 1], Gen.Int[1, 20], Gen.Int[1, 2])
            .Array[1, 150]
            .Sample(
                stretches =>
                {
                    var profile = new Profile(Capacity);
                    var taken = new int[Time + 40];
                    var booked = new List<(int, int, int)>();
                    foreach (var (turn, (start, length, amount)) in stretches.Index())
                    {
                        // Every third time something is given back, as a search does.
                        if (turn % 3 == 2)
                        {
                            var (s, e, a) = booked[booked.Count / 2];
                            booked.RemoveAt(booked.Count / 2);
                            Book(profile, taken, s, e, -a);
                        }

                        booked.Add((start, start + length, amount));
                        Book(profile, taken, start, start + length, amount);
                        profile.MostUsed(start, start + length).ShouldBe(taken[start..(start + length)].Max());
                    }

                    bool Free(int from, int length, int need) =>
                        Enumerable.Range(from, length).All(i => (i < taken.Length ? taken[i] : 0) <= Capacity - need);
                    int First(int from, int length, int need) =>
                        Enumerable.Range(from, Time * 2).First(t => Free(t, length, need));
                    foreach (var (from, length, need) in stretches)
                    {
                        profile.FirstFit(from, length, need).ShouldBe(First(from, length, need));

                        var least = (length + 1) / 2;
                        var wanted = Free(from, length, need)
                            ? from
                            : First(Enumerable.Range(from, length).First(t => !Free(t, 1, need)), least, need);
                        profile.FreeOrNext(from, length, need, least).ShouldBe(wanted);
                    }

                    profile.Taken(0, taken.Length).Sum(t => (t.To - t.From) * t.Used).ShouldBe(taken.Sum());
                },
                iter: 2000
            );
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
