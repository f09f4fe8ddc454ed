namespace FirstCoat.Core.Plan.Engine;

/// <summary>Finds people of different trades for a crew.</summary>
internal static class Matching
{
    /// <summary>
    /// Fills every need out of what is free, classes in the order in which a need names them; where that fails, by
    /// moving people between needs. Source: augmenting paths, L. R. Ford, D. R. Fulkerson, 1956.
    /// </summary>
    /// <returns>Whether all needs are filled; then who stands in <paramref name="taken"/>.</returns>
    public static bool Assign(Need[] crew, int[] free, Span<Taken> taken)
    {
        var places = 0;
        foreach (var need in crew)
        {
            places += need.Classes.Length;
        }

        Span<int> left = stackalloc int[free.Length];
        Span<int> flow = stackalloc int[places];
        Span<bool> seen = stackalloc bool[free.Length];
        var filling = new Filling
        {
            Crew = crew,
            Left = left,
            Flow = flow,
            Seen = seen,
        };
        foreach (var need in crew)
        {
            foreach (var c in need.Classes)
            {
                left[c] = Math.Max(0, free[c]);
            }
        }

        flow.Clear();
        for (int n = 0, at = 0; n < crew.Length; at += crew[n].Classes.Length, n++)
        {
            var missing = crew[n].Count;
            for (var i = 0; i < crew[n].Classes.Length && missing > 0; i++)
            {
                var take = Math.Min(missing, left[crew[n].Classes[i]]);
                flow[at + i] += take;
                left[crew[n].Classes[i]] -= take;
                missing -= take;
            }

            for (; missing > 0; missing--)
            {
                seen.Clear();
                if (crew.Length == 1 || !filling.Push(n, at))
                {
                    return false;
                }
            }
        }

        Note(crew, flow, taken);
        return true;
    }

    private static void Note(Need[] crew, ReadOnlySpan<int> flow, Span<Taken> taken)
    {
        taken.Clear();
        var (at, slot) = (0, 0);
        foreach (var need in crew)
        {
            var next = slot;
            for (var i = 0; i < need.Classes.Length; i++)
            {
                if (flow[at + i] > 0)
                {
                    taken[next++] = new(need.Classes[i], flow[at + i]);
                }
            }

            at += need.Classes.Length;
            slot += Math.Min(need.Count, need.Classes.Length);
        }
    }

    /// <summary>Who fills what so far.</summary>
    private ref struct Filling
    {
        public Need[] Crew;

        /// <summary>People still free, by class.</summary>
        public Span<int> Left;

        /// <summary>How many each class gives to each need, need after need.</summary>
        public Span<int> Flow;

        public Span<bool> Seen;

        /// <summary>Finds one more for a need, if it must be by sending somebody over from another need.</summary>
        public bool Push(int need, int at)
        {
            var classes = Crew[need].Classes;
            for (var i = 0; i < classes.Length; i++)
            {
                var c = classes[i];
                if (Seen[c])
                {
                    continue;
                }

                Seen[c] = true;
                if (Left[c] > 0)
                {
                    Left[c]--;
                    Flow[at + i]++;
                    return true;
                }

                for (int m = 0, other = 0; m < Crew.Length; other += Crew[m].Classes.Length, m++)
                {
                    var j = Array.IndexOf(Crew[m].Classes, c);
                    if (m != need && j >= 0 && Flow[other + j] > 0 && Push(m, other))
                    {
                        Flow[other + j]--;
                        Flow[at + i]++;
                        return true;
                    }
                }
            }

            return false;
        }
    }
}

/// <summary>All ways to fill a crew with different people, those named first in each need first.</summary>
internal ref struct Combinations
{
    /// <summary>Beyond so many ways the later ones are not tried.</summary>
    private const int Most = 200;

    private readonly int[][] _choices;
    private readonly Span<int> _at;
    private readonly int[] _index;
    private int _tried;

    public Combinations(Need[] crew, Span<int> trial)
    {
        _choices = new int[trial.Length][];
        var i = 0;
        foreach (var need in crew)
        {
            for (var k = 0; k < need.Count; k++)
            {
                _choices[i++] = need.Classes;
            }
        }

        _at = trial;
        _index = new int[trial.Length];
        Array.Fill(_index, -1);
        _tried = 0;
    }

    /// <summary>Fills in the next way.</summary>
    public bool Next(Span<int> trial)
    {
        if (_tried++ >= Most)
        {
            return false;
        }

        var i = _index[^1] < 0 ? 0 : _index.Length - 1;
        while (i >= 0)
        {
            _index[i]++;
            if (_index[i] >= _choices[i].Length)
            {
                _index[i] = -1;
                i--;
                continue;
            }

            // People of one need are taken in order, so that the same crew does not come twice.
            if (i > 0 && ReferenceEquals(_choices[i], _choices[i - 1]) && _index[i] <= _index[i - 1])
            {
                continue;
            }

            trial[i] = _choices[i][_index[i]];
            if (trial[..i].Contains(trial[i]))
            {
                continue;
            }

            if (i == _index.Length - 1)
            {
                return true;
            }

            i++;
        }

        return false;
    }
}
