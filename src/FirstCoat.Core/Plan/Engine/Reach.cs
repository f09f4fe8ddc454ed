namespace FirstCoat.Core.Plan.Engine;

/// <summary>What can be reached over links; the marks are used again, so that asking often costs little.</summary>
internal sealed class Reach(int count)
{
    private readonly int[] _mark = new int[count];
    private readonly List<int> _found = [];
    private int _round;

    public bool Has(int o) => _mark[o] == _round;

    public List<int> From(int start, Func<int, Link[]> next)
    {
        _round++;
        _found.Clear();
        _found.Add(start);
        _mark[start] = _round;
        for (var i = 0; i < _found.Count; i++)
        {
            foreach (var link in next(_found[i]))
            {
                if (_mark[link.Other] != _round)
                {
                    _mark[link.Other] = _round;
                    _found.Add(link.Other);
                }
            }
        }

        return _found;
    }
}
