using CsCheck;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Plain;
using FirstCoat.Core.Tests.Plan.Plain;

namespace FirstCoat.Core.Tests.Plan.Engine;

/// <summary>Short cuts of the decoder against a decoder that takes none.</summary>
public sealed class DecoderTests
{
    [Fact]
    public void A_run_that_begins_in_the_middle_of_a_committed_one_is_as_if_it_had_begun_at_the_start() =>
        Gen.Int[0, 100_000]
            .Sample(
                seed =>
                {
                    var model = Large(seed);
                    var (lists, random) = (new Lists(model), new Random(seed));
                    var order = lists.ByKey(
                        Enumerable.Range(0, model.Count).Select(_ => random.NextDouble()).ToArray()
                    );
                    var tried = new Decoder(model);
                    tried.Decode(order, mark: true).ShouldBeTrue();
                    for (var i = 0; i < 12; i++)
                    {
                        var (trial, from) = Turned(model, order, random);
                        tried.Decode(trial, from, trial: true).ShouldBeTrue();
                        var fresh = new Decoder(model);
                        fresh.Decode(trial);
                        (tried.Weighted, tried.Makespan).ShouldBe((fresh.Weighted, fresh.Makespan));
                        tried.Start.ShouldBe(fresh.Start);
                        if (random.Next(2) == 0)
                        {
                            tried.Commit();
                            order = trial;
                        }
                    }
                },
                iter: 40
            );

    [Fact]
    public void It_gives_up_where_the_lateness_is_above_the_limit_and_nowhere_else() =>
        Gen.Select(
                Gen.OneOf(Gen.Int[0, 100_000].Select(Large), PlainProblems.Any.Select(p => new PlainModel(p).Model)),
                Gen.Int
            )
            .Sample(
                (model, seed) =>
                {
                    var random = new Random(seed);
                    var order = new Lists(model).ByKey(
                        Enumerable.Range(0, model.Count).Select(_ => random.NextDouble()).ToArray()
                    );
                    var decoder = new Decoder(model);
                    if (!decoder.Decode(order))
                    {
                        return;
                    }

                    var weighted = decoder.Weighted;
                    decoder.Decode(order, limit: weighted).ShouldBeTrue();
                    decoder.Decode(order, limit: weighted - 1).ShouldBeFalse();
                },
                iter: 200
            );

    /// <summary>Twelve drawn shops as one, so that there is more than one mark.</summary>
    private static Model Large(int seed)
    {
        var shops = Enumerable.Range(0, 12).Select(i => AnyShop.Of(seed * 12 + i)).ToList();
        var problem = shops[0] with { Builds = [.. shops.SelectMany((s, k) => s.Builds.Select(b => Named(b, k)))] };
        return new ShopModel(problem, new HashSet<(string, string)>()).Model;
    }

    private static PlanBuild Named(PlanBuild b, int k) =>
        b with
        {
            Id = $"{k} {b.Id}",
            Operations =
            [
                .. b.Operations.Select(o =>
                    o with
                    {
                        Id = $"{k} {o.Id}",
                        After =
                        [
                            .. o
                                .After.Where(a => a.DoneAt is null)
                                .Select(a => a with { Operation = $"{k} {a.Operation}" }),
                        ],
                        Hold = o.Hold is { } h ? h with { Until = $"{k} {h.Until}" } : null,
                    }
                ),
            ],
        };

    /// <summary>Two neighbours that do not wait for each other change turns.</summary>
    private static (int[] Order, int From) Turned(Model model, int[] order, Random random)
    {
        while (true)
        {
            var at = random.Next(order.Length - 1);
            if (
                !model.ClusterAfter[order[at + 1]].Contains(order[at])
                && model.IsFillIn(order[at]) == model.IsFillIn(order[at + 1])
            )
            {
                int[] other = [.. order];
                (other[at], other[at + 1]) = (other[at + 1], other[at]);
                return (other, at);
            }
        }
    }
}
