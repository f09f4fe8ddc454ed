namespace FirstCoat.Store.Labour;

/// <summary>One change of a person's time at once: the number under which the database holds it until the transaction
/// ends.</summary>
internal static class PersonLock
{
    public static long Key(Guid personId) => BitConverter.ToInt64(personId.ToByteArray(), 8);
}
