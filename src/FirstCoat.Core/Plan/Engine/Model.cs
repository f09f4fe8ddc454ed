namespace FirstCoat.Core.Plan.Engine;

/// <summary>How an operation uses up time.</summary>
internal enum Run : byte
{
    /// <summary>Without a stop on the hours of whoever does it, breaks not worked.</summary>
    Nonstop,

    /// <summary>Without a stop, breaks worked.</summary>
    ThroughBreaks,

    /// <summary>Rests where nobody works.</summary>
    Split,

    /// <summary>In pieces of half an hour and more wherever somebody is idle.</summary>
    Pieces,
}

/// <summary>So much of a resource is gone from the start.</summary>
internal readonly record struct Closure(int Resource, int From, int To, int Amount);

/// <summary>From an instant on so much may be spent in all.</summary>
internal readonly record struct Cover(int From, long InAll);

/// <summary>Starts no earlier than <paramref name="Lag"/> after the other's end (or start), and no later than
/// <paramref name="Most"/> after it.</summary>
/// <param name="LagHours">Whose time the lag is counted in; round the clock for cure and dry.</param>
internal readonly record struct Link(int Other, int Lag, int Most, bool FromStart, Hours LagHours)
{
    /// <summary>There is no latest start.</summary>
    public const int NoLimit = int.MaxValue;

    public bool HasWindow => Most != NoLimit;
}

/// <summary>While it runs, <paramref name="Need"/> of a resource must be free, and <paramref name="Take"/> of it is
/// gone.</summary>
internal readonly record struct Use(int Resource, int Need, int Take);

/// <summary>So many different people, each out of one of the classes.</summary>
internal sealed record Need(int Count, int[] Classes);

/// <summary>A unit that a build keeps from the start of one operation to the end of another.</summary>
internal readonly record struct Hold(int Open, int Close, int Resource);

/// <summary>Operations that windows and holds tie together: they are placed as one.</summary>
/// <param name="Operations">Each after what it follows.</param>
internal sealed record Cluster(int[] Operations, Hold[] Holds)
{
    public bool Tied { get; init; }
}

/// <summary>A problem as numbers: operations, resources and builds are indices, time is whole units from nothing
/// on.</summary>
internal sealed class Model
{
    // Operations
    public required int[] Work { get; init; }
    public required int[] Release { get; init; }
    public required Run[] Run { get; init; }
    public required Hours[] OwnHours { get; init; }
    public required Need[][] Crew { get; init; }
    public required Use[][] Uses { get; init; }
    public required Link[][] After { get; init; }
    public required int[] Build { get; init; }
    public required Hold[] Holds { get; init; }

    // Resources: classes of people, stations, and whatever else is counted
    public required int[] Capacity { get; init; }

    /// <summary>Hours of a class of people for a build; null for all classes: round the clock.</summary>
    public Func<int, int, Hours>? ClassHours { get; init; }

    /// <summary>Whose working minutes the time of each class is booked in, all of <see cref="ClassHours"/> within it;
    /// null: the clock.</summary>
    public Hours[]? Axis { get; init; }

    /// <summary>Units of time that one unit of work takes somebody of a class; null: 1 each.</summary>
    public double[]? Pace { get; init; }

    // Builds
    public required int[] Due { get; init; }
    public required int[] Weight { get; init; }

    /// <summary>Operations of builds that only use what the others leave, placed after theirs, unless somebody is at
    /// them now; null: none.</summary>
    public bool[]? FillIn { get; init; }

    /// <summary>What is not there from the start.</summary>
    public Closure[] Closed { get; init; } = [];

    /// <summary>Minutes of work that come before an operation where one of its windows is let go, in futures; null:
    /// none does.</summary>
    public int[]? Again { get; init; }

    /// <summary>Ends that a better order must not lose, <see cref="Link.NoLimit"/> where there is none; null:
    /// none.</summary>
    public int[]? Keep { get; set; }

    /// <summary>The last start inside the windows that finished work opened, <see cref="Link.NoLimit"/> where there is
    /// none; null: none is open.</summary>
    public int[]? Until { get; init; }

    /// <summary>What each operation costs, in cents; null: no build has a limit.</summary>
    public long[]? Cost { get; init; }

    /// <summary>What each build may spend by when; null for a build without a limit.</summary>
    public Cover[]?[] Covers { get; init; } = [];

    /// <summary>What cannot be placed, and what waits for it, is left at <see cref="Parked"/> and the rest stands; else
    /// nothing stands.</summary>
    public bool Parks { get; init; }

    /// <summary>The start and end of what has no date.</summary>
    public const int Parked = int.MaxValue / 4;

    /// <summary>What the release of each operation is made of; null: nobody asks for reasons.</summary>
    public int[][]? Dates { get; init; }

    /// <summary>Who has begun an operation, -1: nobody; null: nobody has begun any.</summary>
    public int[]? GoesOn { get; init; }

    /// <summary>Where vehicles stand; null: nothing is said of places.</summary>
    public VehicleModel? Vehicles { get; init; }

    public int Count => Work.Length;

    /// <summary>Clusters that come after all others, in every order.</summary>
    public bool IsFillIn(int cluster) => FillIn is not null && FillIn[Clusters[cluster].Operations[0]];

    public int Builds => Due.Length;

    /// <summary>The time that two have, where it need not be made anew each time.</summary>
    public Func<Hours, Hours, Hours> Both { get; init; } = Hours.Both;

    public Link[][] Before { get; private set; } = [];
    public Cluster[] Clusters { get; private set; } = [];
    public int[] ClusterOf { get; private set; } = [];

    /// <summary>The operation of each cluster that is tied to nothing; -1: there is more to it. What most of the
    /// placing needs to know, side by side.</summary>
    public int[] Only { get; private set; } = [];

    /// <summary>Clusters that must be placed before each.</summary>
    public int[][] ClusterAfter { get; private set; } = [];

    public int[][] ClusterBefore { get; private set; } = [];

    /// <summary>Where the people of an operation are noted, in the decoder's list of who was taken.</summary>
    public int[] CrewAt { get; private set; } = [];

    /// <summary>Whether every trade that an operation asks for has one class, and each another.</summary>
    public bool[] Apart { get; private set; } = [];

    /// <summary>Whether people of one class all have the same hours and pace, so that crews are a matter of
    /// counting.</summary>
    public bool RoundTheClock => ClassHours is null && Pace is null;

    /// <summary>The longest way from an operation's start to the end of its build, work and lags, without regard to who
    /// is free.</summary>
    public int[] Tail { get; private set; } = [];

    /// <summary>Works out what follows from the links.</summary>
    /// <param name="before">The links from the other end and the order of all, where they are known already.</param>
    /// <exception cref="CycleException">Operations that wait for each other.</exception>
    public Model Prepare((Link[][] Before, int[] Order)? before = null)
    {
        Before = before?.Before ?? Follow(After);
        var order = before?.Order ?? Order();
        (Clusters, ClusterOf) = Tying.Make(this, order);
        Only = Array.ConvertAll(Clusters, c => c.Tied ? -1 : c.Operations[0]);
        ClusterAfter = new int[Clusters.Length][];
        for (var i = 0; i < Clusters.Length; i++)
        {
            ClusterAfter[i] = Waited(Clusters[i], i);
        }

        ClusterBefore = Turn(ClusterAfter);
        CrewAt = new int[Count + 1];
        for (var o = 0; o < Count; o++)
        {
            CrewAt[o + 1] = CrewAt[o];
            foreach (var need in Crew[o])
            {
                CrewAt[o + 1] += Math.Min(need.Count, need.Classes.Length);
            }
        }

        Apart = RoundTheClock
            ? Crew.Select(c =>
                    c.All(n => n.Classes.Length == 1) && c.Select(n => n.Classes[0]).Distinct().Count() == c.Length
                )
                .ToArray()
            : new bool[Count];
        Tail = Tails(order);
        return this;
    }

    /// <summary>The same lists from the other end.</summary>
    private static int[][] Turn(int[][] after)
    {
        var count = new int[after.Length];
        foreach (var list in after)
        {
            foreach (var other in list)
            {
                count[other]++;
            }
        }

        var before = Array.ConvertAll(count, c => c == 0 ? [] : new int[c]);
        for (var i = after.Length - 1; i >= 0; i--)
        {
            foreach (var other in after[i])
            {
                before[other][--count[other]] = i;
            }
        }

        return before;
    }

    private readonly List<int> _waited = [];

    private int[] Waited(Cluster cluster, int number)
    {
        if (cluster.Operations is [var only] && After[only] is var links && links.Length < 2)
        {
            return links.Length == 0 ? [] : [ClusterOf[links[0].Other]];
        }

        var waited = _waited;
        waited.Clear();
        foreach (var o in cluster.Operations)
        {
            foreach (var link in After[o])
            {
                var other = ClusterOf[link.Other];
                if (other != number && !waited.Contains(other))
                {
                    waited.Add(other);
                }
            }
        }

        return [.. waited];
    }

    /// <summary>The same problem seen from its end: time runs backwards.</summary>
    public Model Reversed() =>
        new Model
        {
            Work = Work,
            Release = new int[Count],
            Run = Run,
            OwnHours = OwnHours,
            Crew = Crew,
            Uses = Uses,
            After = Before.Select(links => links.ToArray()).ToArray(),
            Build = Build,
            Holds = Holds.Select(h => new Hold(h.Close, h.Open, h.Resource)).ToArray(),
            Capacity = Capacity,
            Due = new int[Builds],
            Weight = Weight,
        }.Prepare();

    /// <summary>The same links from the other end.</summary>
    public static Link[][] Follow(Link[][] after)
    {
        var count = new int[after.Length];
        foreach (var links in after)
        {
            foreach (var link in links)
            {
                count[link.Other]++;
            }
        }

        var before = Array.ConvertAll(count, c => c == 0 ? [] : new Link[c]);
        for (var o = after.Length - 1; o >= 0; o--)
        {
            for (var i = after[o].Length - 1; i >= 0; i--)
            {
                var other = after[o][i].Other;
                before[other][--count[other]] = after[o][i] with { Other = o };
            }
        }

        return before;
    }

    private int[] Order()
    {
        var order = Sort(After, Before, out var circle);
        return circle is null ? order : throw new CycleException(circle);
    }

    /// <summary>Operations each after what it follows.</summary>
    /// <param name="circle">Some that wait for each other; null: none do.</param>
    public static int[] Sort(Link[][] after, Link[][] before, out int[]? circle)
    {
        var waiting = Array.ConvertAll(after, a => a.Length);
        var ready = new Queue<int>(Enumerable.Range(0, waiting.Length).Where(o => waiting[o] == 0));
        var order = new List<int>(waiting.Length);
        while (ready.TryDequeue(out var o))
        {
            order.Add(o);
            foreach (var link in before[o])
            {
                if (--waiting[link.Other] == 0)
                {
                    ready.Enqueue(link.Other);
                }
            }
        }

        circle = order.Count == waiting.Length ? null : Circle(after, waiting);
        return [.. order];
    }

    private static int[] Circle(Link[][] after, int[] waiting)
    {
        var seen = new Dictionary<int, int>();
        var path = new List<int>();
        for (var o = Array.FindIndex(waiting, w => w > 0); ; o = after[o].First(l => waiting[l.Other] > 0).Other)
        {
            if (seen.TryGetValue(o, out var at))
            {
                path.Reverse(at, path.Count - at);
                return [.. path.Skip(at)];
            }

            seen[o] = path.Count;
            path.Add(o);
        }
    }

    private int[] Tails(int[] order)
    {
        var tail = new int[Count];
        for (var i = order.Length - 1; i >= 0; i--)
        {
            var o = order[i];
            var most = 0;
            foreach (var link in Before[o])
            {
                most = Math.Max(most, tail[link.Other] + link.Lag - (link.FromStart ? Work[o] : 0));
            }

            tail[o] = Work[o] + most;
        }

        return tail;
    }
}

/// <summary>Operations that wait for each other, each before the next.</summary>
internal sealed class CycleException(int[] operations) : Exception
{
    public int[] Operations { get; } = operations;
}
