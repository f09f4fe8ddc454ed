using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Overview;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;

namespace FirstCoat.Store.Overview;

/// <summary>A findable thing as it is kept; follows what it stands for in the same transaction.</summary>
public sealed class FindRow
{
    public Guid Id { get; init; }
    public FoundKind Kind { get; init; }
    public Guid? BuildId { get; init; }
    public string Label { get; private set; } = "";
    public string Detail { get; private set; } = "";
    public string Text { get; private set; } = "";
    public bool ForDesk { get; init; }

    public static FindRow Of(Findable f)
    {
        var row = new FindRow
        {
            Id = f.Id,
            Kind = f.Kind,
            BuildId = f.BuildId,
            ForDesk = f.ForDesk,
        };
        row.Take(f);
        return row;
    }

    public void Take(Findable f) =>
        (Label, Detail, Text) = (Words.Shortened(f.Label, 200), Words.Shortened(f.Detail, 200), f.Text);

    public Findable ToFindable() => new(Id, Kind, BuildId, Label, Detail, Text, ForDesk);
}

/// <summary>Keeps the rows of what can be found: with every save, and once for a shop of before there were
/// any.</summary>
internal sealed class FindRows(ShopDb db)
{
    /// <summary>Properties of which a change changes what is found; none named: not findable.</summary>
    private static readonly Dictionary<Type, string[]> Told = new()
    {
        [typeof(Build)] = [nameof(Build.Number), nameof(Build.Vehicle), nameof(Build.ClientId), nameof(Build.Status)],
        [typeof(Client)] = [nameof(Client.Name)],
        [typeof(Finding)] =
        [
            nameof(Finding.Place),
            nameof(Finding.Kind),
            nameof(Finding.Note),
            nameof(Finding.WithdrawnWhy),
        ],
        [typeof(Bag)] =
        [
            nameof(Bag.What),
            nameof(Bag.From),
            nameof(Bag.Pieces),
            nameof(Bag.Fasteners),
            nameof(Bag.Place),
            nameof(Bag.State),
        ],
        [typeof(Operation)] = [nameof(Operation.Name), nameof(Operation.Removed), nameof(Operation.Stage)],
        [typeof(PartLine)] = [nameof(PartLine.Name), nameof(PartLine.SupplierId), nameof(PartLine.State)],
        [typeof(OutsideJob)] = [nameof(OutsideJob.Title), nameof(OutsideJob.SupplierId), nameof(OutsideJob.Pieces)],
        [typeof(ClientPaper)] = [nameof(ClientPaper.Words)],
        [typeof(Person)] = [nameof(Person.Name), nameof(Person.Active), nameof(Person.Trades)],
        [typeof(Supplier)] = [nameof(Supplier.Name), nameof(Supplier.What)],
    };

    private readonly Dictionary<Guid, Build> _builds = [];
    private readonly Dictionary<Guid, string> _names = [];

    /// <summary>Lets the rows follow what is about to be saved.</summary>
    public async Task Follow(CancellationToken cancel)
    {
        var changed = db.ChangeTracker.Entries<Entity>().Where(Tells).ToList();
        if (changed.Count == 0)
        {
            return;
        }

        var things = changed
            .Where(e => e.State != EntityState.Deleted)
            .Select(e => e.Entity)
            .Where(e => e is not Client)
            .Union(await Named([.. changed.Where(e => e.State == EntityState.Modified).Select(e => e.Entity)], cancel))
            .ToList();
        var gone = changed.Where(e => e.State == EntityState.Deleted).Select(e => e.Entity.Id).ToHashSet();
        await Put(things, gone, cancel);
    }

    /// <summary>What is found by a name that changes elsewhere: a client's builds, what comes from a supplier, the
    /// places of another body.</summary>
    private async Task<List<Entity>> Named(IReadOnlyCollection<Entity> renamed, CancellationToken cancel)
    {
        var (clients, suppliers, builds) = (
            renamed.OfType<Client>().Select(c => c.Id).ToList(),
            renamed.OfType<Supplier>().Select(s => s.Id).ToList(),
            renamed.OfType<Build>().Select(b => b.Id).ToList()
        );
        return
        [
            .. clients.Count == 0 ? [] : await db.Builds.Where(b => clients.Contains(b.ClientId)).ToListAsync(cancel),
            .. suppliers.Count == 0
                ? []
                : await db
                    .Parts.Where(p => p.SupplierId != null && suppliers.Contains(p.SupplierId.Value))
                    .ToListAsync(cancel),
            .. suppliers.Count == 0
                ? []
                : await db.OutsideJobs.Where(j => suppliers.Contains(j.SupplierId)).ToListAsync(cancel),
            .. builds.Count == 0 ? [] : await db.Findings.Where(f => builds.Contains(f.BuildId)).ToListAsync(cancel),
        ];
    }

    /// <summary>Makes every row of a shop that has none.</summary>
    /// <returns>How many were made.</returns>
    public async Task<int> Fill(CancellationToken cancel)
    {
        if (await db.Finds.AnyAsync(cancel))
        {
            return 0;
        }

        // All or none: a part of them would be taken for all.
        await using var whole = await db.Database.BeginTransactionAsync(cancel);
        var made =
            await Fill(db.Builds, cancel)
            + await Fill(db.Findings, cancel)
            + await Fill(db.Bags, cancel)
            + await Fill(db.Operations, cancel)
            + await Fill(db.Parts, cancel)
            + await Fill(db.OutsideJobs, cancel)
            + await Fill(db.Papers, cancel)
            + await Fill(db.People, cancel)
            + await Fill(db.Suppliers, cancel);
        await whole.CommitAsync(cancel);
        return made;
    }

    private async Task<int> Fill<T>(IQueryable<T> kind, CancellationToken cancel)
        where T : Entity
    {
        var things = await kind.AsNoTracking().ToListAsync(cancel);
        await Know(things, cancel);
        db.Finds.AddRange(things.Select(Of).OfType<Findable>().Select(FindRow.Of));
        var made = await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
        return made;
    }

    private static bool Tells(EntityEntry<Entity> e) =>
        Told.TryGetValue(e.Entity.GetType(), out var told)
        && (
            e.State is EntityState.Added or EntityState.Deleted
            || (e.State == EntityState.Modified && told.Any(name => e.Property(name).IsModified))
        );

    private async Task Put(IReadOnlyCollection<Entity> things, HashSet<Guid> gone, CancellationToken cancel)
    {
        var kept = things.Where(t => db.Entry(t).State != EntityState.Added).Select(t => t.Id).Concat(gone).ToList();
        var rows =
            kept.Count == 0 ? [] : await db.Finds.Where(r => kept.Contains(r.Id)).ToDictionaryAsync(r => r.Id, cancel);
        await Know(things, cancel);
        foreach (var thing in things)
        {
            switch (Of(thing), rows.GetValueOrDefault(thing.Id))
            {
                case ({ } found, { } row):
                    row.Take(found);
                    break;
                case ({ } found, null):
                    db.Finds.Add(FindRow.Of(found));
                    break;
                case (null, { } row):
                    db.Finds.Remove(row);
                    break;
            }
        }

        db.Finds.RemoveRange(rows.Values.Where(r => gone.Contains(r.Id)));
    }

    /// <summary>What the words are made of besides the things themselves: builds, their clients, suppliers.</summary>
    private async Task Know(IReadOnlyCollection<Entity> things, CancellationToken cancel)
    {
        var builds = things.OfType<Finding>().Select(f => f.BuildId).Distinct().ToList();
        foreach (var b in await db.Builds.AsNoTracking().Where(b => builds.Contains(b.Id)).ToListAsync(cancel))
        {
            _builds[b.Id] = b;
        }

        var (clients, suppliers) = (
            things.OfType<Build>().Select(b => b.ClientId).Distinct().ToList(),
            things
                .OfType<PartLine>()
                .Select(p => p.SupplierId)
                .Concat(things.OfType<OutsideJob>().Select(j => (Guid?)j.SupplierId))
                .OfType<Guid>()
                .Distinct()
                .ToList()
        );
        foreach (
            var (id, name) in (
                await db
                    .Clients.AsNoTracking()
                    .Where(c => clients.Contains(c.Id))
                    .Select(c => new { c.Id, c.Name })
                    .ToListAsync(cancel)
            )
                .Select(c => (c.Id, c.Name))
                .Concat(
                    (
                        await db
                            .Suppliers.AsNoTracking()
                            .Where(s => suppliers.Contains(s.Id))
                            .Select(s => new { s.Id, s.Name })
                            .ToListAsync(cancel)
                    ).Select(s => (s.Id, s.Name))
                )
        )
        {
            _names[id] = name;
        }

        // What is saved together with them has not reached the database yet.
        foreach (var e in db.ChangeTracker.Entries<Entity>().Select(e => e.Entity))
        {
            switch (e)
            {
                case Build b:
                    _builds[b.Id] = b;
                    break;
                case Client c:
                    _names[c.Id] = c.Name;
                    break;
                case Supplier s:
                    _names[s.Id] = s.Name;
                    break;
            }
        }
    }

    /// <summary>How a thing is found; null: it is not, any more.</summary>
    private Findable? Of(Entity thing) =>
        thing switch
        {
            Build b => Findable.Of(
                b.Id,
                FoundKind.Build,
                b.Id,
                b.Title,
                $"{Name(b.ClientId)}{(b.Status is BuildStatus.Closed ? ", handed over" : b.Status is BuildStatus.Withdrawn ? ", withdrawn" : "")}",
                false,
                $"{b.Number}",
                $"{b.Vehicle.Year}",
                b.Vehicle.ColourName,
                b.Vehicle.Identification
            ),
            Finding { WithdrawnWhy: not null } or Operation { Removed: true } or Person { Active: false } => null,
            Finding f => Findable.Of(
                f.Id,
                FoundKind.Finding,
                f.BuildId,
                $"{PlaceOf(f)}, {Spoken(f.Kind)}",
                $"finding {f.Number}",
                false,
                f.Note
            ),
            Bag b => Findable.Of(
                b.Id,
                FoundKind.Bag,
                b.BuildId,
                $"{b.Label} {b.What}",
                b.State == BagState.OnShelf ? b.Place : Spoken(b.State),
                false,
                [b.From, .. b.Pieces.Select(p => p.Name), .. b.Fasteners.Select(x => $"{x.Kind} {x.Head} {x.Thread}")]
            ),
            Operation o => Findable.Of(
                o.Id,
                FoundKind.Operation,
                o.BuildId,
                o.Name,
                o.Stage.ToString().ToLowerInvariant(),
                false
            ),
            PartLine p => Findable.Of(
                p.Id,
                FoundKind.Part,
                p.BuildId,
                p.Name,
                Spoken(p.State),
                false,
                Name(p.SupplierId)
            ),
            OutsideJob j => Findable.Of(
                j.Id,
                FoundKind.Batch,
                j.BuildId,
                j.Title,
                Name(j.SupplierId),
                false,
                j.Pieces.Select(p => p.Name)
            ),
            ClientPaper p => Findable.Of(p.Id, FoundKind.Paper, p.BuildId, $"{p.Name}: {p.Words.Title}", "", true),
            Person p => Findable.Of(
                p.Id,
                FoundKind.Person,
                null,
                p.Name,
                string.Join(", ", p.Trades.Select(t => t.Name())),
                false
            ),
            Supplier s => Findable.Of(s.Id, FoundKind.Supplier, null, s.Name, s.What, false),
            _ => null,
        };

    private string Name(Guid? id) => id is { } i ? _names.GetValueOrDefault(i, "") : "";

    private string PlaceOf(Finding f) =>
        (
            _builds.TryGetValue(f.BuildId, out var b)
                ? SurveyPlaces.Of(b.Vehicle, []).FirstOrDefault(p => p.Key == f.Place)?.Name
                : null
        ) ?? f.Place;

    /// <summary>A name of the code as words: NotFound is "not found".</summary>
    private static string Spoken<T>(T value)
        where T : struct, Enum =>
        string.Concat(
            value
                .ToString()
                .Select((c, i) => char.IsUpper(c) ? (i > 0 ? " " : "") + char.ToLowerInvariant(c) : c.ToString())
        );
}
