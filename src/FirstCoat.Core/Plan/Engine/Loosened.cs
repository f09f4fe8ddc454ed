namespace FirstCoat.Core.Plan.Engine;

/// <summary>What is taken away, for a try, of what holds a cluster.</summary>
internal sealed class Loosened
{
    /// <summary>Links that it need not follow: the operation and which of its links.</summary>
    public HashSet<(int Operation, int Link)> Links { get; } = [];

    /// <summary>Dates that it need not wait for: the operation and which of them.</summary>
    public HashSet<(int Operation, int Date)> Dates { get; } = [];

    /// <summary>People who have nothing else to do, and things of which there is more.</summary>
    public HashSet<int> Free { get; } = [];

    /// <summary>Other hours of people.</summary>
    public Dictionary<int, Hours> Hours { get; } = [];

    /// <summary>One more place of the kind.</summary>
    public bool Place { get; set; }

    /// <summary>Wherever the vehicle is worked on meanwhile.</summary>
    public bool Vehicle { get; set; }

    /// <summary>Places that are closed are open.</summary>
    public bool Closed { get; set; }

    /// <summary>It is moved without hands.</summary>
    public bool Hands { get; set; }

    /// <summary>Work that must not stop may.</summary>
    public bool MayStop { get; set; }

    /// <summary>Whoever comes to us, or works outside, does so at any time.</summary>
    public bool Visits { get; set; }

    public bool Money { get; set; }

    /// <summary>All other work, of its build or of the whole shop, is out of the way.</summary>
    public bool OwnRest { get; set; }

    public bool AllRest { get; set; }

    /// <summary>What follows it may follow when it can.</summary>
    public bool Window { get; set; }

    /// <summary>Takes all of another's away too.</summary>
    public void Add(Loosened other)
    {
        Links.UnionWith(other.Links);
        Dates.UnionWith(other.Dates);
        Free.UnionWith(other.Free);
        foreach (var (person, hours) in other.Hours)
        {
            Hours[person] = hours;
        }

        Place |= other.Place;
        Vehicle |= other.Vehicle;
        Closed |= other.Closed;
        Hands |= other.Hands;
        MayStop |= other.MayStop;
        Visits |= other.Visits;
        Money |= other.Money;
        OwnRest |= other.OwnRest;
        AllRest |= other.AllRest;
        Window |= other.Window;
    }
}
