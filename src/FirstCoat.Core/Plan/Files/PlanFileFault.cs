namespace FirstCoat.Core.Plan.Files;

/// <summary>A fault in a problem file, with the path of the place it stands in.</summary>
public sealed class PlanFileFault(string path, string says) : Exception(path.Length == 0 ? says : $"{path}: {says}")
{
    public string Path { get; } = path;
}
