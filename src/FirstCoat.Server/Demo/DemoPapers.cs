using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Money;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Demo;

/// <summary>What clients agreed to, and what they are asked now.</summary>
internal sealed class DemoPapers(DemoShop shop)
{
    /// <summary>The estimate of a build is sent on its first day, and the signed copy comes back.</summary>
    public static async Task Accept(IServiceProvider s, Guid build, string client, CancellationToken cancel)
    {
        var desk = s.GetRequiredService<PapersDesk>();
        var id = Guid.CreateVersion7();
        await desk.DraftEstimate(build, id, cancel);
        await desk.Send(id, null, SentWay.ByHand, cancel);
        await desk.AnswerOnPaper(id, true, client, [], "signed copy in the build's folder", cancel);
    }

    /// <summary>Under old sealer on 41: found after the estimate was agreed, so the client is asked.</summary>
    public async Task FoundUnderSeal(CancellationToken cancel)
    {
        var (build, id, photo) = (shop.Build(41), Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop.As("wil", async s =>
        {
            var picture = DemoPhotos.DrawRust(shop.Day.PlusDays(-2).At(new(15, 20)), 41, shop.PhotoScale);
            await s.GetRequiredService<PhotosDesk>()
                .Add(
                    build,
                    photo,
                    new MemoryStream(picture),
                    picture.Length,
                    new("Right front floor, underseal off", Stage.Metal, null, null, false),
                    cancel
                );
        });
        await shop.As("iben", s =>
            s.GetRequiredService<PhotosDesk>()
                .Describe(
                    photo,
                    new("Right front floor, underseal off. The ring is 40 cm across.", Stage.Metal, null, null, true),
                    null,
                    cancel
                )
        );
        var at = await DemoSurvey.Middle(shop, 41, "floorFR", cancel);
        // 62 x 50 cm: 0.31 square metres.
        List<MapPoint> area =
        [
            new(at.X - 25, at.Y - 31),
            new(at.X + 25, at.Y - 31),
            new(at.X + 25, at.Y + 31),
            new(at.X - 25, at.Y + 31),
        ];
        await shop.As("wil", s =>
            s.GetRequiredService<FindingsDesk>()
                .Put(
                    build,
                    id,
                    new(
                        "floorFR",
                        at,
                        area,
                        FindingKind.Thinning,
                        Probe.GoesThrough,
                        620,
                        true,
                        1.2m,
                        "The old underseal hid metal too thin to weld to; a patch would not take paint well",
                        photo,
                        null
                    ),
                    null,
                    cancel
                )
        );
        await shop.As("iben", s =>
            s.GetRequiredService<FindingsDesk>()
                .Judge(
                    id,
                    [
                        new(Verdict.Repair, 9, Trade.Metal, 20, 30.86m, RiskPercent: 25),
                        new(Verdict.Replace, 14, Trade.Metal, 24, 0, 182, 18, 2, 5),
                    ],
                    null,
                    cancel
                )
        );
        await shop.As("bram", s =>
            s.GetRequiredService<FindingsDesk>()
                .Choose(id, Verdict.Replace, "thin all round: a patch has nothing to hold to", cancel)
        );
        await shop.As("sunniva", async s =>
        {
            await s.GetRequiredService<FindingsDesk>().Agree(id, cancel);
            await s.GetRequiredService<FindingsDesk>().Apply(id, cancel);
            var papers = s.GetRequiredService<PapersDesk>();
            var paper = (await papers.Look(build, cancel)).Single(p => p.Paper.Kind == PaperKind.ChangeOrder).Paper;
            await papers.Edit(
                paper.Id,
                paper.Words with
                {
                    Title = "Right front floor: cut it out?",
                    Reason =
                        "The old underseal hid 0.31 square metres of metal too thin to weld to. A patch would not take paint well: we would cut it out and let in a new pan.",
                    AnswerBy = shop.Day.PlusDays(6),
                },
                null,
                cancel
            );
            await papers.Send(paper.Id, null, SentWay.Letter, cancel);
        });
    }

    /// <summary>The forest's pick-up has an estimate with something to choose, and no answer yet.</summary>
    public Task AskForestry(CancellationToken cancel) => shop.As("sunniva", async s =>
        {
            var papers = s.GetRequiredService<PapersDesk>();
            var id = Guid.CreateVersion7();
            var draft = await papers.DraftEstimate(shop.Build(45), id, cancel);
            await papers.Edit(
                id,
                draft.Words with
                {
                    Title = "Your Dotterel, sound and in daily work again",
                    Deposit = 6000,
                    Choices =
                    [
                        new("A", "Bed floor in larch instead of steel", 0, 0)
                        {
                            Work = new(10 * 60, Trade.Wood, Stage.Trim, 240, 0, 0, 60, []),
                        },
                        new("B", "Zinc spray on the chassis, at Corran", 0, 0)
                        {
                            Work = new(0, null, Stage.Epoxy, 0, 1328, 4, 0, []),
                        },
                        new("C", "Second colour on the roof", 0, 0)
                        {
                            Work = new(9 * 60, Trade.Paint, Stage.Colour, 0, 0, 0, 74, []),
                        },
                    ],
                },
                null,
                cancel
            );
            await papers.Send(id, null, SentWay.Letter, cancel);
        });
}
