namespace FirstCoat.Server.Web;

/// <summary>How much the disk still takes on which the shop's data lies.</summary>
public sealed class DiskSpace(IConfiguration settings)
{
    public const string Sentence =
        "The disk of the shop's machine is full. Nothing was kept. Make room on it, then try again.";

    /// <summary>Below this nothing can be trusted to be kept: a database needs room to write down what it is about to
    /// do.</summary>
    private const long Least = 24 * 1024 * 1024;

    /// <summary>Whether the disk is as good as full.</summary>
    public bool IsFull => Folders.Any(f => Free(f) < Least);

    private IEnumerable<string> Folders =>
        new[] { settings["Shop:Photos"], settings["Shop:Mail"], settings["Shop:Data"] }
            .OfType<string>()
            .Where(Directory.Exists);

    private static long Free(string folder)
    {
        try
        {
            return new DriveInfo(folder).AvailableFreeSpace;
        }
        catch (IOException)
        {
            return long.MaxValue;
        }
    }
}
