using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace FirstCoat.Store.Access;

/// <summary>
/// The server's own secrets, as files that only the shop's account can read: one for what is hashed, one that locks the
/// keys of sign-ins, which lie in the database. They belong into every backup.
/// </summary>
public sealed class ShopSecrets(string folder)
{
    private readonly Lazy<byte[]> _hashing = new(() =>
        Kept(folder, "hashing", () => RandomNumberGenerator.GetBytes(32))
    );
    private readonly Lazy<byte[]> _lock = new(() => Kept(folder, "lock.pfx", MakeLock));

    /// <summary>What keyed hashes take in.</summary>
    public byte[] Hashing => _hashing.Value;

    /// <summary>The certificate under which sign-in keys lie in the database.</summary>
    public X509Certificate2 Lock => X509CertificateLoader.LoadPkcs12(_lock.Value, null);

    private static byte[] Kept(string folder, string name, Func<byte[]> make)
    {
        PrivateFolder.Make(folder);
        var path = Path.Combine(folder, name);
        if (!File.Exists(path))
        {
            var half = $"{path}.{Guid.NewGuid():N}";
            using (var file = PrivateFolder.NewFile(half))
            {
                file.Write(make());
                file.Flush(flushToDisk: true);
            }

            // Two servers that start at once: the first one's stays.
            if (!Placed(half, path))
            {
                File.Delete(half);
            }
        }

        return File.ReadAllBytes(path);
    }

    private static bool Placed(string half, string path)
    {
        try
        {
            File.Move(half, path, overwrite: false);
            return true;
        }
        catch (IOException) when (File.Exists(path))
        {
            return false;
        }
    }

    private static byte[] MakeLock()
    {
        using var key = RSA.Create(3072);
        var request = new CertificateRequest("CN=First Coat", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var made = request.CreateSelfSigned(DateTimeOffset.UnixEpoch, DateTimeOffset.UnixEpoch.AddYears(400));
        return made.Export(X509ContentType.Pfx);
    }
}

/// <summary>Folders that only the shop's account may enter, and files that only it reads.</summary>
public static class PrivateFolder
{
    private const UnixFileMode Own = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    /// <summary>Makes the folder, or closes it to others where it is open to them.</summary>
    public static void Make(string folder)
    {
        if (!Directory.Exists(folder))
        {
            Directory.CreateDirectory(folder, Own);
        }
        else if (File.GetUnixFileMode(folder) != Own)
        {
            File.SetUnixFileMode(folder, Own);
        }
    }

    /// <summary>Begins a file that is not there yet.</summary>
    public static FileStream NewFile(string path) =>
        new(
            path,
            new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.Write,
                UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
                Options = FileOptions.Asynchronous,
            }
        );
}
