namespace FirstCoat.Core.Plan.Files;

/// <summary>A fault in a problem file, with the path of the place it stands in.</summary>
public sealed class PlanFileFault(string path, string says) : Exception(path.Length == 0 ? says : $"{path}: {says}")
{
    public string Path { get; } = path;

    /// <exception cref="PlanFileFault">If it is one.</exception>
    internal static void When(bool isFault, string path, string says)
    {
        if (isFault)
        {
            throw new PlanFileFault(path, says);
        }
    }

    /// <summary>Names that may stand only once.</summary>
    internal static void Twice(IEnumerable<string> ids, Func<int, string> path)
    {
        var seen = new HashSet<string>();
        var i = 0;
        foreach (var id in ids)
        {
            When(!seen.Add(id), path(i++), $"\"{id}\" stands here twice");
        }
    }
}
