using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Builds;
using FirstCoat.Store.Parts;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Reports;
using FirstCoat.Store.Sequence;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Demo;

/// <summary>The last touches before today: where vehicles stand, what was found, what waits for an answer.</summary>
internal sealed class DemoPresent(DemoShop shop)
{
    public async Task Tell(CancellationToken cancel)
    {
        await Places(cancel);
        await Findings(cancel);
        await new DemoSurvey(shop).Tell(cancel);
        await new DemoArrival(shop).Tell(cancel);
        await new DemoPapers(shop).FoundUnderSeal(cancel);
        await new DemoPapers(shop).AskForestry(cancel);
        await new DemoTeardown(shop).Tell(cancel);
        await new DemoSteps(shop).Tell(cancel);
        await Questions(cancel);
        await BeforePaint(cancel);
        await new DemoFit(shop).Tell(cancel);
        await new DemoDatum(shop).Tell(cancel);
        await new DemoFigures(shop).Tell(cancel);
        await new DemoBench(shop).Tell(cancel);
        await Tried(cancel);
        await Reports(cancel);
    }

    /// <summary>What later work on the charabanc needs in its metal: some of it is there, some is not, and of the rest
    /// nobody has thought yet.</summary>
    private async Task BeforePaint(CancellationToken cancel)
    {
        (string Who, string Work, ProvisionKind Kind, string What, string Where, bool Made)[] said =
        [
            ("davit", "brakes", ProvisionKind.Hole, "the brake pipes", "both floor legs, 40 behind the bulkhead", true),
            ("davit", "brakes", ProvisionKind.Bracket, "the handbrake lever", "right floor leg, by the seat", false),
            ("davit", "deaden", ProvisionKind.Nut, "the loom clips, six", "header rail, 300 apart", false),
            ("odile", "glass", ProvisionKind.Nothing, "the frames carry their own screws", "", false),
        ];
        foreach (var (who, work, kind, what, where, made) in said)
        {
            await shop.As(who, async s =>
            {
                var desk = s.GetRequiredService<ProvisionDesk>();
                var build = shop.Build(46);
                if ((await desk.Of(build, cancel)).FirstOrDefault(x => x.Of.TemplateKey == work) is not { } sheet)
                {
                    return;
                }

                var id = Guid.CreateVersion7();
                await desk.Say(id, sheet.Of.Id, kind, what, where, cancel);
                if (made)
                {
                    await desk.Made(id, true, null, cancel);
                }
            });
        }
    }

    /// <summary>What the manager is turning over in her mind.</summary>
    private async Task Tried(CancellationToken cancel)
    {
        var day = shop.Day;
        await shop.As("sunniva", s => s.GetRequiredService<WhatIfDesk>()
                .Put(
                    Guid.CreateVersion7(),
                    "Teodor ill in November",
                    [
                        new(WhatIfKind.Absence)
                        {
                            PersonId = shop.Person("teodor"),
                            From = day.PlusDays(20),
                            To = day.PlusDays(33),
                        },
                    ],
                    null,
                    cancel
                ));
        await shop.As("sunniva", s => s.GetRequiredService<WhatIfDesk>()
                .Put(
                    Guid.CreateVersion7(),
                    "A third bay, Saturdays",
                    [
                        new(WhatIfKind.MoreStations) { Station = StationKind.Bay },
                        new(WhatIfKind.Saturdays)
                        {
                            From = day,
                            To = day.PlusWeeks(8),
                            PersonId = shop.Person("bram"),
                        },
                    ],
                    null,
                    cancel
                ));
    }

    private async Task Places(CancellationToken cancel)
    {
        foreach (var b in DemoCast.Builds.Where(b => b.Number != 37 && b.Station != "Yard"))
        {
            await shop.As("sunniva", s =>
                s.GetRequiredService<BuildsDesk>().Stand(shop.Build(b.Number), shop.Station(b.Station!), "", cancel)
            );
        }

        await shop.As("sunniva", s =>
            s.GetRequiredService<BuildsDesk>()
                .SetStatus(
                    shop.Build(42),
                    BuildStatus.Paused,
                    "floor out, shell braced; sills tacked on the left only",
                    "weld out the left sill, then release the jig braces",
                    cancel
                )
        );
    }

    private async Task Findings(CancellationToken cancel)
    {
        async Task Note(
            string who,
            int build,
            string panel,
            string? zone,
            PanelFact fact,
            Coat? coat = null,
            Held? held = null,
            string note = ""
        ) =>
            await shop.As(who, s =>
                s.GetRequiredService<SurveyDesk>()
                    .Note(shop.Build(build), Guid.CreateVersion7(), panel, zone, fact, coat, held, note, cancel)
            );
        await Note("bram", 41, "wingR", "lower rear", PanelFact.Replace);
        await Note("bram", 41, "wingR", "lower rear", PanelFact.NewMetal);
        await Note("bram", 41, "wingR", null, PanelFact.Coat, Coat.BareSteel);
        await Note("bram", 41, "wingR", "lower rear", PanelFact.NewMetal);
        await Note("wil", 41, "doorR", "top", PanelFact.Coat, Coat.Filler);
        await Note("wil", 41, "nose", null, PanelFact.Coat, Coat.Filler);
        await Note("bram", 41, "sillL", "aft", PanelFact.Replace);
        await Note(
            "bram",
            43,
            "doorL",
            null,
            PanelFact.TemporaryMetalIn,
            note: "brace across the left front door opening; blocks hanging the door"
        );
        await Note(
            "bram",
            43,
            "doorR",
            null,
            PanelFact.TemporaryMetalIn,
            note: "brace across the right front door opening; blocks hanging the door"
        );
        await Note("bram", 43, "rwingL", "rear", PanelFact.Replace);
        await Note("nessa", 44, "wingL", null, PanelFact.Coat, Coat.BareSteel);
        await Note("nessa", 44, "boardR", null, PanelFact.Replace);
        await Note("odile", 46, "bay5s1L", null, PanelFact.Coat, Coat.WeatheredAsh);
        await Note("odile", 46, "bay5s2L", null, PanelFact.Coat, Coat.WeatheredAsh);
    }

    private async Task Questions(CancellationToken cancel)
    {
        await Ask(
            38,
            "Seats may miss the handover",
            "The trimmer names no day. Fit the old seats first, or move the date?",
            DecisionFor.Manager,
            ["Old seats", "Move the date"],
            7,
            await Named(38, "Carpet", cancel),
            cancel
        );
        await Ask(
            43,
            "Left sill: make it or buy it?",
            "A made section waits for nobody; the bought one comes by ferry.",
            DecisionFor.Manager,
            ["Make it", "Buy it"],
            6,
            await Named(43, "Left side: sill", cancel),
            cancel
        );
        await Ask(
            44,
            "Blast the tub here, or send it?",
            "Blasting here clears Prep 2 for two days.",
            DecisionFor.Manager,
            ["Here", "Send it"],
            3,
            await Named(44, "Blast", cancel),
            cancel
        );
        await Ask(
            39,
            "Dirt nib in the bonnet clear",
            "Polish it out, or spray again before it leaves the booth.",
            DecisionFor.Manager,
            ["Polish", "Spray again"],
            5,
            await Named(39, "Flat and polish", cancel),
            cancel
        );
        await Ask(
            45,
            "Deposit unpaid: start anyway?",
            "Reminded twice.",
            DecisionFor.Manager,
            ["Start", "Wait"],
            10,
            await First(45, cancel),
            cancel
        );
        await shop.As("iben", async s =>
            await s.GetRequiredService<PartsDesk>()
                .Put(
                    shop.Build(38),
                    Guid.CreateVersion7(),
                    new(
                        "Seat covers, pair",
                        1,
                        540,
                        null,
                        shop.Supplier("Strand Trimmers"),
                        false,
                        (await Named(38, "Carpet", cancel)).Cast<Guid?>().FirstOrDefault()
                    ),
                    null,
                    cancel
                )
        );
    }

    private async Task<List<Guid>> Named(int build, string start, CancellationToken cancel) =>
        (await shop.Operations(build, cancel))
            .Where(o => !o.IsDone && o.Name.StartsWith(start, StringComparison.Ordinal))
            .Select(o => o.Id)
            .Take(1)
            .ToList();

    private async Task<List<Guid>> First(int build, CancellationToken cancel) =>
        (await shop.Operations(build, cancel))
            .Where(o => !o.IsDone && o.Kind == OperationKind.Work)
            .Select(o => o.Id)
            .Take(1)
            .ToList();

    private Task Ask(
        int build,
        string question,
        string detail,
        DecisionFor who,
        List<string> options,
        int inDays,
        List<Guid> holds,
        CancellationToken cancel,
        Guid? photo = null
    ) =>
        shop.As("sunniva", s =>
            s.GetRequiredService<BuildsDesk>()
                .Ask(
                    shop.Build(build),
                    Guid.CreateVersion7(),
                    new(question, detail, who, options, holds, shop.Day.PlusDays(inDays), photo),
                    cancel
                )
        );

    private async Task Reports(CancellationToken cancel)
    {
        await shop.As("sunniva", async s =>
        {
            var desk = s.GetRequiredService<ReportsDesk>();
            var id = Guid.CreateVersion7();
            await desk.Draft(shop.Build(41), id, cancel);
            await desk.Publish(id, null, cancel);
        });
        await shop.As("iben", s =>
            s.GetRequiredService<ReportsDesk>().Draft(shop.Build(38), Guid.CreateVersion7(), cancel)
        );
    }
}
