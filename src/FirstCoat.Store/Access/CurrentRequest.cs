namespace FirstCoat.Store.Access;

/// <summary>The id that a request gives to what it records, and a print of all that it says: the same id with another
/// print is another request.</summary>
public sealed class CurrentRequest
{
    /// <summary>Null: nothing is recorded under an id of the asker's.</summary>
    public Guid? Id { get; private set; }

    public string? Print { get; private set; }

    /// <param name="print">Hash of the request, the same whenever it is repeated.</param>
    public void Is(Guid id, string print) => (Id, Print) = (id, print);
}

/// <summary>Which request recorded something first.</summary>
public sealed class RequestPrint
{
    public required Guid Of { get; init; }
    public required string What { get; init; }
    public required string Print { get; init; }
}
