using FirstCoat.Core.Access;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Photos;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using FirstCoat.Server.Access;

namespace FirstCoat.Server.Benches;

/// <summary>
/// Five years of a shop of thirty people, with thirty vehicles in it and two hundred that have left: what the
/// application is measured with. All of it follows from one seed.
/// </summary>
internal sealed class BigShop(Instant now)
{
    public const string Password = "a-shop-of-many-years";

    private const int Ended = 200,
        Years = 5,
        PhotosOfBuild = 261,
        PartsOfBuild = 53,
        BatchesOfBuild = 13,
        BagsOfBuild = 174,
        FindingsOfBuild = 15,
        Audits = 2_000_000,
        MinutesOfEntry = 125,
        EntriesOfDay = 3;

    /// <summary>How many are in the shop, and how many work there.</summary>
    public const int Open = 30,
        Staff = 30;

    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static readonly string[] Makes = ["Plover", "Whimbrel", "Garganey", "Dunlin", "Avocet", "Turnstone"];
    private static readonly string[] Things =
    [
        "window regulator",
        "door seal",
        "headlamp rim",
        "wing bolt",
        "seat rail",
        "bumper iron",
        "grille clip",
        "lock striker",
        "heater hose",
        "brake line",
    ];

    private readonly Random _chance = new(41);
    private readonly LocalDate _today = now.InZone(Zone).Date;
    private readonly List<Person> _people = [];
    private readonly List<Supplier> _suppliers = [];
    private readonly List<Station> _stations = [];
    private readonly List<Visit> _visits = [];

    /// <summary>A build with the days on which it was worked on.</summary>
    private sealed record Visit(Build Build, LocalDate From, LocalDate To, IReadOnlyList<Operation> Operations)
    {
        public List<Operation> Work { get; } = [.. Operations.Where(o => o.Kind == OperationKind.Work)];

        /// <summary>Where the work stands on a day, between 0 and 1.</summary>
        public double Share(LocalDate day) =>
            (double)Period.DaysBetween(From, day) / Math.Max(1, Period.DaysBetween(From, To));
    }

    /// <summary>Names of the technicians' accounts.</summary>
    public static IEnumerable<string> Users => Enumerable.Range(0, Staff).Select(i => $"tech{i}");

    /// <summary>Fills an empty, migrated database.</summary>
    public async Task Fill(ShopDb db, IServiceProvider services)
    {
        await Shop(db);
        for (var i = 0; i < Ended + Open; i++)
        {
            _visits.Add(Visited(i));
        }

        var clients = _visits.Select(v => v.Build.ClientId).Distinct().ToList();
        await BulkCopy.Write(
            db,
            clients.Select(
                (id, i) =>
                    new Client
                    {
                        Id = id,
                        Name = $"Client {i} Halloway",
                        Email = $"c{i}@mail.test",
                    }
            )
        );
        await BulkCopy.Write(db, _visits.Select(v => v.Build));
        await BulkCopy.Write(db, _visits.SelectMany(v => v.Operations));
        await BulkCopy.Write(db, Entries());
        await BulkCopy.Write(db, _visits.SelectMany(Photos));
        await BulkCopy.Write(db, _visits.SelectMany(Parts));
        await BulkCopy.Write(db, _visits.SelectMany(Batches));
        await BulkCopy.Write(db, _visits.SelectMany(Bags));
        await BulkCopy.Write(db, _visits.SelectMany(Findings));
        await BulkCopy.Write(db, _visits.SelectMany(PanelsOf));
        await BulkCopy.Write(db, _visits.SelectMany(Materials));
        await BulkCopy.Write(db, _visits.SelectMany(Payments));
        await BulkCopy.Write(db, _visits.Where(v => v.Build.IsPlanned).SelectMany(Questions));
        await BulkCopy.Write(db, _visits.Where(v => v.Build.IsPlanned).SelectMany(Nights));
        await Audit(db);
        await db.FillFinds(CancellationToken.None);
        await Accounts(services);
        // As the cluster does by itself some minutes later.
        await db.Database.ExecuteSqlAsync($"vacuum analyze");
    }

    private async Task Shop(ShopDb db)
    {
        await BulkCopy.Write(
            db,
            [
                new ShopSettings
                {
                    Id = ShopSettings.TheOne,
                    Name = "Long Quay Coachworks",
                    Week = SessionEndpoints.StandardWeek(),
                    PlanWidthMm = 90_000,
                    PlanDepthMm = 60_000,
                    DelayPerDay = 40,
                    PartTiers = [new(100, 40), new(null, 20)],
                    OutsideMarkup = 10,
                },
            ]
        );
        var trades = Enum.GetValues<Trade>();
        _people.AddRange(
            Enumerable
                .Range(0, Staff)
                .Select(i => new Person
                {
                    Id = Guid.CreateVersion7(),
                    Name = $"Tech{i} Marsh",
                    Trades = [trades[i % trades.Length], trades[(i + 3) % trades.Length], Trade.Hand],
                    Rates =
                    [
                        .. Enumerable
                            .Range(0, Years + 1)
                            .Select(y => new PersonRate(new(2020 + y, 1, 1), 22 + y, 54 + y)),
                    ],
                })
        );
        _suppliers.AddRange(
            Enumerable.Range(0, 25).Select(i => new Supplier { Id = Guid.CreateVersion7(), Name = $"Supplier {i}" })
        );
        (StationKind Kind, int Many, int Count)[] kinds =
        [
            (StationKind.Booth, 2, 1),
            (StationKind.Prep, 4, 1),
            (StationKind.Jig, 3, 1),
            (StationKind.Lift, 4, 1),
            (StationKind.Blast, 1, 1),
            (StationKind.Bay, 16, 1),
            (StationKind.Bench, 1, 10),
            (StationKind.Engine, 1, 6),
            (StationKind.Yard, 1, 40),
        ];
        foreach (var (kind, many, count) in kinds)
        {
            for (var i = 0; i < many; i++)
            {
                var at = _stations.Count;
                _stations.Add(
                    new()
                    {
                        Id = Guid.CreateVersion7(),
                        Name = many == 1 ? $"{kind}" : $"{kind} {i + 1}",
                        Kind = kind,
                        Count = count,
                        XMm = at % 10 * 8000,
                        YMm = at / 10 * 7000,
                        WidthMm = 7000,
                        DepthMm = 5000,
                        DoorHeightMm = 3000,
                    }
                );
            }
        }

        await BulkCopy.Write(db, _people);
        await BulkCopy.Write(db, _suppliers);
        await BulkCopy.Write(db, _stations);
    }

    /// <summary>Two hundred that followed one another over five years, and thirty that began in the last ten
    /// months.</summary>
    private Visit Visited(int i)
    {
        var ended = i < Ended;
        var from = ended
            ? _today.PlusDays(-365 * Years + i * (365 * Years - 300) / Ended)
            : _today.PlusDays(-300 + (i - Ended) * 9);
        var to = ended ? from.PlusDays(230 + _chance.Next(60)) : from.PlusDays(280 + _chance.Next(60));
        var style = (BodyStyleKey)(i % 10);
        var vehicle = new Vehicle(
            Makes[i % Makes.Length],
            $"Mark {i}",
            1950 + i % 30,
            style,
            Construction.SeparateChassis,
            $"P{i}",
            "Tidewater",
            "#1B6670",
            BodyDimensions.Of(style)
        );
        var build = new Build
        {
            Id = Guid.CreateVersion7(),
            Number = i + 1,
            ClientId = i % 4 == 3 ? _visits[i - 1].Build.ClientId : Guid.CreateVersion7(),
            OpenedOn = from,
            Vehicle = vehicle,
            Brief = new(FinishGrade.Driver, OriginalityPolicy.OriginalLook, to.PlusDays(20), null, []),
            Contract = ContractTerms.TimeAndMaterials,
            Template = i % 3 == 0 ? Templates.DriveFirst : Templates.PaintThenAssemble,
            Priority = i,
        };
        build.Open();
        build.Accept(
            new(42_000, 9_000, 6_000, 2_000),
            from.PlusDays(10).AtMidnight().InZoneLeniently(Zone).ToInstant()
        );
        var operations = Templates.Make(
            build.Template,
            build.Id,
            vehicle,
            FinishGrade.Driver,
            0.6m,
            Guid.CreateVersion7
        );
        if (ended)
        {
            build.End(withdrawn: false, to);
        }
        else
        {
            var yard = i - Ended >= 12;
            build.Stand(
                _stations
                    .Where(s => s.Kind == (yard ? StationKind.Yard : StationKind.Bay))
                    .ElementAt(yard ? 0 : i - Ended)
                    .Id,
                ""
            );
        }

        var visit = new Visit(build, from, to, operations);
        var done = ended ? operations.Count : (int)(operations.Count * Math.Min(0.95, visit.Share(_today)));
        foreach (
            var (o, at) in operations.Take(done).Select((o, n) => (o, at: Noon(visit, (n + 1.0) / operations.Count)))
        )
        {
            if (o.Kind == OperationKind.Gate)
            {
                Sign(o, at);
            }
            else
            {
                o.Finish(_people[_chance.Next(Staff)].Name, at);
            }
        }

        return visit;
    }

    private void Sign(Operation gate, Instant at)
    {
        for (var k = 0; k < 2 && !gate.IsDone; k++)
        {
            gate.Sign(_people[k].Id, _people[k].Name, at, worked: false, hasSecond: true);
        }
    }

    private Instant Noon(Visit visit, double share) =>
        Instant.Min(
            now - Duration.FromHours(1),
            visit
                .From.PlusDays((int)(share * Period.DaysBetween(visit.From, visit.To)))
                .At(new LocalTime(12, 0))
                .InZoneLeniently(Zone)
                .ToInstant()
        );

    /// <summary>Three stretches a working day for each person, on what was under way then.</summary>
    private IEnumerable<TimeEntry> Entries()
    {
        for (var day = _today.PlusDays(-365 * Years); day < _today; day = day.PlusDays(1))
        {
            var there = _visits.Where(v => v.From <= day && day < v.To).ToList();
            if (day.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday || there.Count == 0)
            {
                continue;
            }

            foreach (var person in _people)
            {
                for (var k = 0; k < EntriesOfDay; k++)
                {
                    var visit = there[_chance.Next(there.Count)];
                    var at = (int)(visit.Share(day) * visit.Work.Count) - _chance.Next(3);
                    var start = day.At(new LocalTime(8 + k * 3, 0)).InZoneLeniently(Zone).ToInstant();
                    var entry = new TimeEntry
                    {
                        Id = Guid.CreateVersion7(),
                        PersonId = person.Id,
                        BuildId = visit.Build.Id,
                        OperationId = visit.Work[Math.Clamp(at, 0, visit.Work.Count - 1)].Id,
                        Start = start,
                        Kind = _chance.Next(20) == 0 ? LabourKind.Rework : LabourKind.Billable,
                        RecordedAt = start,
                    };
                    entry.StopAt(start + Duration.FromMinutes(MinutesOfEntry - 20 + _chance.Next(41)));
                    yield return entry;
                }
            }
        }
    }

    private IEnumerable<Photo> Photos(Visit visit) =>
        Enumerable
            .Range(0, PhotosOfBuild)
            .Select(i => new Photo
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                Hash = $"{Guid.CreateVersion7():N}{Guid.CreateVersion7():N}",
                ThumbHash = $"{Guid.CreateVersion7():N}{Guid.CreateVersion7():N}",
                Width = 1600,
                Height = 1200,
                TakenAt = Noon(visit, i / (double)PhotosOfBuild),
                By = _people[i % Staff].Name,
                OperationId = visit.Work[i * visit.Work.Count / PhotosOfBuild].Id,
                Caption = i % 3 == 0 ? $"{Things[i % Things.Length]}, as found" : "",
                ClientMaySee = i % 5 == 0,
                RecordedAt = Noon(visit, i / (double)PhotosOfBuild),
            });

    private IEnumerable<PartLine> Parts(Visit visit)
    {
        for (var i = 0; i < PartsOfBuild; i++)
        {
            var share = i / (double)PartsOfBuild;
            var part = new PartLine
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                OperationId = visit.Work[(int)(share * visit.Work.Count)].Id,
                Name = $"{Things[i % Things.Length]} {visit.Build.Number}-{i}",
                Quantity = 1 + i % 4,
                UnitCost = 8 + i * 7 % 240,
                SupplierId = _suppliers[_chance.Next(_suppliers.Count)].Id,
                RecordedAt = now,
            };
            var ordered = Noon(visit, Math.Max(0, share - 0.15)).InZone(Zone).Date;
            if (ordered < _today.PlusDays(-1))
            {
                part.Move(PartState.Ordered, ordered);
                part.Move(PartState.Expected, ordered.PlusDays(10));
                if (ordered.PlusDays(14) < _today)
                {
                    part.Move(PartState.Received, ordered.PlusDays(6 + _chance.Next(8)));
                }
            }

            yield return part;
        }
    }

    private IEnumerable<OutsideJob> Batches(Visit visit)
    {
        for (var i = 0; i < BatchesOfBuild; i++)
        {
            var share = i / (double)BatchesOfBuild;
            var job = new OutsideJob
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                SupplierId = _suppliers[i % _suppliers.Count].Id,
                OperationId = visit.Work[(int)(share * visit.Work.Count)].Id,
                Title = $"{Things[i % Things.Length]}s to be plated",
                Pieces = [new(Things[i % Things.Length], 4), new("bracket", 6)],
                QuotedDays = 15,
                Quoted = 180 + i * 40,
                RecordedAt = now,
            };
            var sent = Noon(visit, share * 0.8).InZone(Zone).Date;
            if (sent < _today.PlusDays(-1))
            {
                job.Send(sent, sent.PlusDays(15));
                if (sent.PlusDays(24) < _today)
                {
                    job.CountIn(sent.PlusDays(12 + _chance.Next(12)), [4, 6]);
                }
            }

            yield return job;
        }
    }

    private IEnumerable<Bag> Bags(Visit visit) =>
        Enumerable
            .Range(0, BagsOfBuild)
            .Select(i =>
            {
                var bag = new Bag
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = visit.Build.Id,
                    Code = visit.Build.Number * 200 + i,
                    Side = (PanelSide)(i % 3),
                    What = $"{Things[i % Things.Length]}s {i / 10}",
                    From = "front door, inside",
                    Pieces = [new("piece", 1 + i % 4)],
                    Fasteners = [new("screw", "oval", "M4 x 16", "chrome", 8, true, 0)],
                    OffBy = _people[i % Staff].Name,
                    OffAt = Noon(visit, i / (double)BagsOfBuild / 5),
                    RecordedAt = Noon(visit, i / (double)BagsOfBuild / 5),
                };
                bag.Move(
                    visit.Build.IsPlanned ? BagState.OnShelf : BagState.OnCar,
                    $"{"ABCD"[i % 4]}{1 + i % 5}-{1 + i % 12}",
                    null
                );
                return bag;
            });

    private IEnumerable<Finding> Findings(Visit visit)
    {
        var places = SurveyPlaces.Of(visit.Build.Vehicle, []);
        return Enumerable
            .Range(0, FindingsOfBuild)
            .Select(i => new Finding
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                Number = i + 1,
                FoundBy = _people[i % Staff].Name,
                FoundAt = Noon(visit, 0.05),
                Place = places[i * 3 % places.Count].Key,
                At = new(100 + i * 10, 200),
                Kind = (FindingKind)(i % 6),
                Area = [new(0, 0), new(200, 0), new(200, 150 + i * 9), new(0, 150)],
                Note = $"{Things[i % Things.Length]} side",
                RecordedAt = Noon(visit, 0.05),
            });
    }

    private IEnumerable<PanelEvent> PanelsOf(Visit visit) =>
        visit
            .Operations.Where(o => o.IsDone && (o.Coat is not null || o.Held is not null))
            .SelectMany(o =>
                o.Panels.Select(p => new PanelEvent
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = visit.Build.Id,
                    Panel = p,
                    Fact = o.Coat is not null ? PanelFact.Coat : PanelFact.Held,
                    Coat = o.Coat,
                    Held = o.Coat is null ? o.Held : null,
                    At = o.DoneAt!.Value,
                    By = o.DoneBy ?? "",
                    OperationId = o.Id,
                    RecordedAt = o.DoneAt.Value,
                })
            );

    private IEnumerable<MaterialBooking> Materials(Visit visit) =>
        Enumerable
            .Range(0, 12)
            .Where(i => Noon(visit, i / 12.0) < now - Duration.FromDays(1))
            .Select(i => new MaterialBooking
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                Name = "Primer, mixed",
                Quantity = 2.5m,
                Unit = "l",
                UnitCost = 31.40m,
                On = Noon(visit, i / 12.0).InZone(Zone).Date,
                RecordedAt = now,
            });

    private IEnumerable<Payment> Payments(Visit visit) =>
        Enumerable
            .Range(0, 5)
            .Where(i => Noon(visit, i / 5.0) < now - Duration.FromDays(1))
            .Select(i => new Payment
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                On = Noon(visit, i / 5.0).InZone(Zone).Date,
                Amount = 9_000,
                RecordedAt = now,
            });

    /// <summary>A question that stops something, in every third build.</summary>
    private IEnumerable<Decision> Questions(Visit visit) =>
        visit.Build.Number % 3 != 0
            ? []
            :
            [
                new Decision
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = visit.Build.Id,
                    Question = "Which grain for the seats?",
                    For = DecisionFor.Client,
                    Options = ["Smooth", "Grained"],
                    Holds = [visit.Work[^3].Id],
                    DueOn = _today.PlusDays(14),
                    RecordedAt = now,
                },
            ];

    /// <summary>Three weeks of forecasts, each a little other than the one before.</summary>
    private IEnumerable<ForecastNight> Nights(Visit visit) =>
        Enumerable
            .Range(1, 21)
            .Select(i => new ForecastNight
            {
                Id = Guid.CreateVersion7(),
                BuildId = visit.Build.Id,
                On = _today.PlusDays(-i),
                P50 = visit.To.PlusDays(i % 5),
                P80 = visit.To.PlusDays(9 + i % 5),
                P90 = visit.To.PlusDays(14 + i % 5),
                Kept = 0.6m,
                HoldsKind = WaitKind.Person,
                Holds = "in turn",
            });

    private static async Task Audit(ShopDb db)
    {
        db.Database.SetCommandTimeout(TimeSpan.FromMinutes(10));
        // Nobody listens to what happened years ago.
        await db.Database.ExecuteSqlAsync($"alter table access_audit disable trigger tell_change");
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into access_audit (at, by, what, of, action, after)
            select now() - make_interval(mins => i), b.ids[1 + i % 230],
                (array['TimeEntry', 'Operation', 'Photo', 'Bag', 'PartLine'])[1 + i % 5], b.ids[1 + i % 230], 'changed',
                jsonb_build_object('note', 'change ' || i)
            from (select array_agg(id) as ids from builds) b, generate_series(1, {Audits}) i
            """
        );
        await db.Database.ExecuteSqlAsync($"alter table access_audit enable trigger tell_change");
    }

    private async Task Accounts(IServiceProvider services)
    {
        var accounts = services.GetRequiredService<AccountsDesk>();
        await accounts.Add(
            Guid.CreateVersion7(),
            "manager",
            Password,
            "Mara Marsh",
            Roles.Manager,
            null,
            CancellationToken.None
        );
        foreach (var (user, person) in Users.Zip(_people))
        {
            await accounts.Add(
                Guid.CreateVersion7(),
                user,
                Password,
                person.Name,
                Roles.Technician,
                person.Id,
                CancellationToken.None
            );
        }
    }
}
