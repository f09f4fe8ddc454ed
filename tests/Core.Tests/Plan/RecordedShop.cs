using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>A small shop as it is recorded: Monday to Friday, 08:00 to 16:30 with a break at noon, eight hours a day,
/// UTC. It is Thursday the 5th of March 2026, 08:00.</summary>
internal sealed class RecordedShop
{
    private static readonly List<DayShift> Week =
    [
        .. Enumerable
            .Range(1, 5)
            .Select(d => new DayShift((IsoDayOfWeek)d, new(8, 0), new(16, 30), [new(new(12, 0), new(12, 30))])),
    ];

    public RecordedShop()
    {
        Shop = new()
        {
            Id = ShopSettings.TheOne,
            Name = "Test",
            TimeZone = "Etc/UTC",
            Week = Week,
        };
        Calendar = new(WorkWeek.From(Week), [], DateTimeZone.Utc);
        (Ada, Bo) = (Person("Ada", Trade.Metal), Person("Bo", Trade.Paint));
        People = [Ada, Bo];
    }

    public ShopSettings Shop { get; }
    public WorkCalendar Calendar { get; }
    public Person Ada { get; }
    public Person Bo { get; }
    public List<Person> People { get; }
    public List<Station> Stations { get; } = [];
    public List<Build> Builds { get; } = [];
    public List<Operation> Operations { get; } = [];
    public Dictionary<Guid, List<NoticedHazard>> Dangers { get; } = [];

    public PlanFacts Facts =>
        new()
        {
            Shop = Shop,
            Calendar = Calendar,
            People = People,
            Stations = Stations,
            Builds = Builds,
            Operations = Operations,
            Dangers = Dangers,
            Now = At(5, 8),
        };

    public long At(int day, int hour, int minute = 0) => Calendar.Minute(new(2026, 3, day, hour, minute));

    public Instant Clock(int day, int hour) => Instant.FromUnixTimeSeconds(At(day, hour) * 60);

    public static Person Person(string name, params Trade[] trades) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Trades = [.. trades],
            Rates = [new(new(2026, 1, 1), 30, 60)],
        };

    public void Station(StationKind kind, int count = 1, int? door = null, StationTerms? terms = null) =>
        Stations.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                Name = kind.ToString(),
                Kind = kind,
                Count = count,
                DoorHeightMm = door,
                Terms = terms ?? new(),
            }
        );

    public Build Build(int number, LocalDate? promised = null, BuildTerms? terms = null, int? priority = null)
    {
        var build = new Build
        {
            Id = Guid.CreateVersion7(),
            Number = number,
            ClientId = Guid.Empty,
            Vehicle = Car,
            Brief = new(FinishGrade.Show, OriginalityPolicy.OriginalLook, promised, null, []),
            Contract = FirstCoat.Core.Builds.ContractTerms.TimeAndMaterials,
            Priority = priority ?? 0,
            Terms = terms ?? new(),
        };
        build.Open();
        Builds.Add(build);
        return build;
    }

    public static Vehicle Car =>
        new(
            "Plover",
            "Eight",
            1951,
            BodyStyleKey.Coupe,
            Construction.Unitary,
            "",
            "Grey",
            "#808080",
            BodyDimensions.Of(BodyStyleKey.Coupe)
        );

    public Operation Work(
        Build build,
        string name,
        int hours,
        Trade trade = Trade.Metal,
        OperationTerms? terms = null,
        StationKind? station = null,
        params OperationLink[] after
    )
    {
        var o = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = name,
            Trade = trade,
            BudgetMinutes = hours * 60,
            Station = station,
            Terms = terms ?? new(),
            After = [.. after],
            Position = Operations.Count + 1,
        };
        Operations.Add(o);
        return o;
    }

    public ShopPlan Plan() => new Planner().Plan(Facts.Problem());

    public void Starts(ShopPlan plan, Operation o, int day, int hour, int minute = 0) =>
        Calendar
            .Local(plan.Operations[o.Id.ToString()].Start)
            .ShouldBe(new LocalDateTime(2026, 3, day, hour, minute), o.Name);
}
