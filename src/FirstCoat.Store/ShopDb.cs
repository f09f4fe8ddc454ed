using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Bench;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Photos;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Reports;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Access;
using FirstCoat.Store.Builds;
using FirstCoat.Store.Overview;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Design;

namespace FirstCoat.Store;

/// <summary>All that the shop records. Every change writes its audit entry in the same transaction.</summary>
public sealed class ShopDb(
    DbContextOptions<ShopDb> options,
    ShopClock clock,
    CurrentActor current,
    CurrentRequest request
) : IdentityDbContext<Account, IdentityRole<Guid>, Guid>(options), IDataProtectionKeyContext
{
    public const string RecordedSequence = "recorded";

    public DbSet<ShopSettings> Settings => Set<ShopSettings>();
    public DbSet<Person> People => Set<Person>();
    public DbSet<Station> Stations => Set<Station>();
    public DbSet<Supplier> Suppliers => Set<Supplier>();
    public DbSet<ClosedDay> ClosedDays => Set<ClosedDay>();
    public DbSet<Client> Clients => Set<Client>();
    public DbSet<Build> Builds => Set<Build>();
    public DbSet<Arrival> Arrivals => Set<Arrival>();
    public DbSet<Decision> Decisions => Set<Decision>();
    public DbSet<Bag> Bags => Set<Bag>();
    public DbSet<SubAssembly> SubAssemblies => Set<SubAssembly>();
    public DbSet<BagMove> BagMoves => Set<BagMove>();
    public DbSet<PunchMark> PunchMarks => Set<PunchMark>();
    public DbSet<SurveyLook> SurveyLooks => Set<SurveyLook>();
    public DbSet<OtherBody> OtherBodies => Set<OtherBody>();
    public DbSet<Finding> Findings => Set<Finding>();
    public DbSet<ClientPaper> Papers => Set<ClientPaper>();
    public DbSet<ApprovalCode> ApprovalCodes => Set<ApprovalCode>();
    public DbSet<Payment> Payments => Set<Payment>();
    public DbSet<Operation> Operations => Set<Operation>();
    public DbSet<AcceptedTurns> Turns => Set<AcceptedTurns>();
    public DbSet<Baseline> Baselines => Set<Baseline>();
    public DbSet<WhatIf> WhatIfs => Set<WhatIf>();
    public DbSet<SettledContention> SettledContentions => Set<SettledContention>();
    public DbSet<ForecastNight> ForecastNights => Set<ForecastNight>();
    public DbSet<CommittedWeek> CommittedWeeks => Set<CommittedWeek>();
    public DbSet<CalendarLink> CalendarLinks => Set<CalendarLink>();
    public DbSet<TimeEntry> TimeEntries => Set<TimeEntry>();
    public DbSet<PartLine> Parts => Set<PartLine>();
    public DbSet<Acknowledgement> Acknowledgements => Set<Acknowledgement>();
    public DbSet<Provision> Provisions => Set<Provision>();
    public DbSet<Ripple> Ripples => Set<Ripple>();
    public DbSet<FitSheet> FitSheets => Set<FitSheet>();
    public DbSet<FitReading> FitReadings => Set<FitReading>();
    public DbSet<FitAcceptance> FitAcceptances => Set<FitAcceptance>();
    public DbSet<DatumSheet> DatumSheets => Set<DatumSheet>();
    public DbSet<DatumReading> DatumReadings => Set<DatumReading>();
    public DbSet<BenchTry> BenchTries => Set<BenchTry>();
    public DbSet<SheetOffcut> SheetOffcuts => Set<SheetOffcut>();
    public DbSet<OpeningReading> OpeningReadings => Set<OpeningReading>();
    public DbSet<FitChange> FitChanges => Set<FitChange>();
    public DbSet<SequenceChange> SequenceChanges => Set<SequenceChange>();
    public DbSet<ShopTemplate> ShopTemplates => Set<ShopTemplate>();
    public DbSet<ShopTime> ShopTimes => Set<ShopTime>();
    public DbSet<MaterialBooking> Materials => Set<MaterialBooking>();
    public DbSet<OutsideJob> OutsideJobs => Set<OutsideJob>();
    public DbSet<Photo> Photos => Set<Photo>();
    public DbSet<PanelEvent> PanelEvents => Set<PanelEvent>();
    public DbSet<ClientReport> Reports => Set<ClientReport>();
    public DbSet<WrongAnswer> WrongAnswers => Set<WrongAnswer>();
    public DbSet<AccountSession> Sessions => Set<AccountSession>();
    public DbSet<RequestPrint> Prints => Set<RequestPrint>();
    public DbSet<PrivateLink> PrivateLinks => Set<PrivateLink>();
    public DbSet<FindRow> Finds => Set<FindRow>();
    public DbSet<AuditEntry> Audit => Set<AuditEntry>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <inheritdoc />
    public override async Task<int> SaveChangesAsync(
        bool acceptAllChangesOnSuccess,
        CancellationToken cancellationToken = default
    )
    {
        // Looking for changes compares all that was read: it is done before and after, not at each question between.
        ChangeTracker.DetectChanges();
        ChangeTracker.AutoDetectChangesEnabled = false;
        try
        {
            await Accompany(cancellationToken);
        }
        finally
        {
            ChangeTracker.AutoDetectChangesEnabled = true;
        }

        return await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
    }

    /// <summary>What is kept together with a change: the rows by which it is found, the trail, the request's
    /// print.</summary>
    private async Task Accompany(CancellationToken cancellationToken)
    {
        await EndedBuilds.Refuse(this, cancellationToken);
        await new FindRows(this).Follow(cancellationToken);
        Audit.AddRange(new AuditTrail(clock.Now, current.Actor.AccountId).Of(ChangeTracker));
        Prints.AddRange(
            ChangeTracker
                .Entries<Entity>()
                .Where(e => e.State == EntityState.Added && e.Entity.Id == request.Id)
                .Select(e => new RequestPrint
                {
                    Of = e.Entity.Id,
                    What = e.Metadata.ClrType.Name,
                    Print = request.Print!,
                })
                .ToList()
        );
    }

    /// <summary>Makes the rows of what can be found where a shop has none yet.</summary>
    public Task<int> FillFinds(CancellationToken cancel) => new FindRows(this).Fill(cancel);

    /// <summary>Whether what is kept under this id was recorded by another request than the present one.</summary>
    internal async Task<bool> IsAnother<T>(Guid id, CancellationToken cancel) =>
        request.Id == id
        && await Prints.AsNoTracking().SingleOrDefaultAsync(p => p.Of == id && p.What == typeof(T).Name, cancel)
            is { } kept
        && kept.Print != request.Print;

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.HasSequence<long>(RecordedSequence);
        builder.HasPostgresExtension("pg_trgm");
        IdentityTables.Name(builder);
        // Each room maps what is its own.
        var mappings = typeof(ShopDb).Assembly.GetTypes().Where(t => t.IsAssignableTo(typeof(INamesTable)));
        foreach (var mapping in mappings.Where(t => !t.IsAbstract))
        {
            ((INamesTable)Activator.CreateInstance(mapping)!).Name(builder);
        }

        MapEntities(builder);
        builder.ApplyConfigurationsFromAssembly(typeof(ShopDb).Assembly);
    }

    /// <summary>What holds for every entity: key, version, order of entry, enums as words.</summary>
    private static void MapEntities(ModelBuilder builder)
    {
        foreach (
            var type in builder
                .Model.GetEntityTypes()
                .Where(t => typeof(Entity).IsAssignableFrom(t.ClrType))
                .Select(t => t.ClrType)
                .ToList()
        )
        {
            var entity = builder.Entity(type);
            entity.HasKey(nameof(Entity.Id));
            entity.Property(nameof(Entity.Id)).ValueGeneratedNever();
            entity.Property(nameof(Entity.Version)).IsRowVersion();
            if (typeof(Recorded).IsAssignableFrom(type))
            {
                entity.Property(nameof(Recorded.Seq)).HasDefaultValueSql($"nextval('{RecordedSequence}')");
                entity.HasIndex(nameof(Recorded.Seq)).IsUnique();
            }

            foreach (
                var property in type.GetProperties()
                    .Where(p =>
                        p.SetMethod is not null && (Nullable.GetUnderlyingType(p.PropertyType) ?? p.PropertyType).IsEnum
                    )
            )
            {
                entity.Property(property.Name).HasConversion<string>().HasMaxLength(40);
            }
        }
    }
}

/// <summary>Lets the migration tool make a context without the server.</summary>
public sealed class ShopDbDesign : IDesignTimeDbContextFactory<ShopDb>
{
    public ShopDb CreateDbContext(string[] args) =>
        new(StoreSetup.Options("Host=127.0.0.1;Database=design"), new(TimeProvider.System), new(), new());
}
