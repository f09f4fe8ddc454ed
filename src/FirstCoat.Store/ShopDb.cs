using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
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
    public DbSet<TimeEntry> TimeEntries => Set<TimeEntry>();
    public DbSet<PartLine> Parts => Set<PartLine>();
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
        ChangeTracker.DetectChanges();
        await EndedBuilds.Refuse(this, cancellationToken);
        await new FindRows(this).Follow(cancellationToken);
        Audit.AddRange(
            ChangeTracker
                .Entries<Entity>()
                .Where(e => e.State is EntityState.Added or EntityState.Modified or EntityState.Deleted)
                .Select(AuditOf)
                .ToList()
        );
        Audit.AddRange(
            ChangeTracker
                .Entries<Account>()
                .Where(e => e.State is EntityState.Added or EntityState.Modified)
                .Select(AuditOf)
                .OfType<AuditEntry>()
                .ToList()
        );
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
        return await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
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
        builder.Entity<FindRow>(e =>
        {
            e.ToTable("overview_finds");
            e.HasKey(r => r.Id);
            e.Property(r => r.Id).ValueGeneratedNever();
            e.Property(r => r.Kind).HasConversion<string>().HasMaxLength(20);
            e.Property(r => r.Label).HasMaxLength(200);
            e.Property(r => r.Detail).HasMaxLength(200);
            e.Property(r => r.Text).HasMaxLength(Core.Overview.Findable.TextMost);
            // For words that are in it and words that are like one of it.
            e.HasIndex(r => r.Text).HasMethod("gin").HasOperators("gin_trgm_ops");
            e.HasIndex(r => r.BuildId);
            e.HasIndex(r => r.Kind);
        });
        NameIdentityTables(builder);
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

        MapShop(builder);
        MapBuilds(builder);
        MapRecords(builder);
    }

    private static void MapShop(ModelBuilder builder)
    {
        builder.Entity<ShopSettings>(e =>
        {
            e.ToTable("shop_settings");
            e.Property(s => s.TaxRates).IsJson();
            e.Property(s => s.PartTiers).IsJson();
            e.Property(s => s.Sheets).IsJson();
            e.Property(s => s.Week).IsJson();
            e.Property(s => s.Plan).IsJson();
            e.Property(s => s.Layout).IsJson();
            e.Property(s => s.Racks).IsJson();
            e.Property(s => s.Jobs).IsJson();
        });
        builder.Entity<Person>(e =>
        {
            e.ToTable("shop_people");
            e.Ignore(p => p.ShortName);
            e.Property(p => p.Trades).IsJson();
            e.Property(p => p.Rates).IsJson();
            e.Property(p => p.Absences).IsJson();
            e.Property(p => p.Terms).IsJson();
        });
        builder.Entity<Station>(e =>
        {
            e.ToTable("shop_stations");
            e.Property(s => s.Terms).IsJson();
        });
        builder.Entity<Supplier>(e =>
        {
            e.ToTable("shop_suppliers");
            e.Property(s => s.FreightDays).IsJson();
            e.Property(s => s.WorkDays).IsJson();
            e.Property(s => s.Terms).IsJson();
        });
        builder.Entity<ClosedDay>(e =>
        {
            e.ToTable("shop_closed_days");
            e.HasIndex(d => d.Date).IsUnique();
        });
    }

    private static void MapBuilds(ModelBuilder builder)
    {
        builder.Entity<AcceptedTurns>(e =>
        {
            e.ToTable("plan_turns");
            e.Property(t => t.Turns).IsJson();
            e.Property(t => t.AcceptedBy).HasMaxLength(100);
        });
        builder.Entity<Baseline>(e =>
        {
            e.ToTable("plan_baselines");
            e.Property(b => b.Rows).IsJson();
            e.Property(b => b.Why).HasMaxLength(100);
            OfBuild(e, nameof(Baseline.BuildId));
        });
        builder.Entity<WhatIf>(e =>
        {
            e.ToTable("plan_what_ifs");
            e.Ignore(w => w.IsOpen);
            e.Property(w => w.Changes).IsJson();
        });
        builder.Entity<SettledContention>().ToTable("plan_contentions");
        builder.Entity<ForecastNight>(e =>
        {
            e.ToTable("plan_forecast_nights");
            e.HasOne<Build>().WithMany().HasForeignKey(n => n.BuildId).OnDelete(DeleteBehavior.Cascade);
            e.HasIndex(n => new { n.BuildId, n.On }).IsUnique();
            e.Property(n => n.Kept).HasPrecision(4, 3);
            e.Property(n => n.Holds).HasMaxLength(200);
        });
        builder.Entity<Client>().ToTable("builds_clients");
        builder.Entity<Build>(e =>
        {
            e.ToTable("builds");
            e.Ignore(b => b.Title);
            e.Ignore(b => b.IsPlanned);
            e.HasIndex(b => b.Number).IsUnique();
            e.HasOne<Client>().WithMany().HasForeignKey(b => b.ClientId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Station>().WithMany().HasForeignKey(b => b.StationId).OnDelete(DeleteBehavior.Restrict);
            e.Property(b => b.Vehicle).IsJson();
            e.Property(b => b.Brief).IsJson();
            e.Property(b => b.Contract).IsJson();
            e.Property(b => b.Estimate).IsJson();
            e.Property(b => b.History).IsJson();
            e.Property(b => b.Terms).IsJson();
        });
        builder.Entity<Arrival>(e =>
        {
            e.ToTable("builds_arrivals");
            e.Ignore(a => a.PiecesPromised);
            e.Ignore(a => a.PiecesCame);
            e.Property(a => a.Breaks).IsJson();
            e.Property(a => a.Fluids).IsJson();
            e.Property(a => a.Promised).IsJson();
            e.Property(a => a.CameUnasked).IsJson();
            e.Property(a => a.StandIns).IsJson();
            e.Property(a => a.ToUndo).IsJson();
            e.Property(a => a.Hazards).IsJson();
            e.Property(a => a.Heights).IsJson();
            e.Property(a => a.Round).IsJson();
            OfBuild(e, nameof(Arrival.BuildId));
            e.HasIndex(a => a.BuildId).IsUnique();
        });
        builder.Entity<Decision>(e =>
        {
            e.ToTable("builds_decisions");
            e.Ignore(d => d.IsOpen);
            e.Property(d => d.Options).IsJson();
            e.Property(d => d.TakesOut).IsJson();
            e.Property(d => d.Holds).IsJson();
            e.Property(d => d.LetGo).IsJson();
            OfBuild(e, nameof(Decision.BuildId));
        });
        builder.Entity<Payment>(e =>
        {
            e.ToTable("builds_payments");
            OfBuild(e, nameof(Payment.BuildId));
        });
        builder.Entity<Operation>(e =>
        {
            e.ToTable("sequence_operations");
            e.Ignore(o => o.IsDone);
            e.Ignore(o => o.EarnedMinutes);
            e.Ignore(o => o.LetsPass);
            e.Property(o => o.Panels).IsJson();
            e.Property(o => o.After).IsJson();
            e.Property(o => o.Terms).IsJson();
            e.Property(o => o.Signatures).IsJson();
            e.Property(o => o.EarlierSignatures).IsJson();
            e.Ignore(o => o.IsForGood);
            e.Property(o => o.OutOfOrderWhy).HasMaxLength(300);
            OfBuild(e, nameof(Operation.BuildId));
        });
    }

    private static void MapRecords(ModelBuilder builder)
    {
        builder.Entity<TimeEntry>(e =>
        {
            e.ToTable("labour_entries");
            e.Ignore(t => t.Counts);
            e.Ignore(t => t.IsRunning);
            e.Property(t => t.Flag).IsJson();
            e.HasIndex(t => new { t.PersonId, t.Start });
            e.HasIndex(t => t.Replaces).IsUnique();
            // Nobody has two timers: the database itself holds the rule.
            e.HasIndex(t => t.PersonId).IsUnique().HasFilter("stop is null").HasDatabaseName("one_running_timer");
            e.HasOne<Person>().WithMany().HasForeignKey(t => t.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Operation>().WithMany().HasForeignKey(t => t.OperationId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(TimeEntry.BuildId));
        });
        builder.Entity<ShopTime>(e =>
        {
            e.ToTable("labour_shop_time");
            e.Ignore(t => t.Counts);
            e.Ignore(t => t.IsRunning);
            e.Property(t => t.Job).HasMaxLength(ShopTime.JobMost);
            e.HasIndex(t => new { t.PersonId, t.Start });
            e.HasIndex(t => t.PersonId).IsUnique().HasFilter("stop is null").HasDatabaseName("one_running_shop_time");
            e.HasOne<Person>().WithMany().HasForeignKey(t => t.PersonId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<PartLine>(e =>
        {
            e.ToTable("parts_lines");
            e.Ignore(p => p.IsAwaited);
            e.HasOne<Supplier>().WithMany().HasForeignKey(p => p.SupplierId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(PartLine.BuildId));
        });
        builder.Entity<MaterialBooking>(e =>
        {
            e.ToTable("parts_materials");
            OfBuild(e, nameof(MaterialBooking.BuildId));
        });
        builder.Entity<OutsideJob>(e =>
        {
            e.ToTable("outside_jobs");
            e.Ignore(o => o.IsAway);
            e.Ignore(o => o.Sent);
            e.Ignore(o => o.CountedIn);
            e.Ignore(o => o.MissingPieces);
            e.Property(o => o.Pieces).IsJson();
            e.HasOne<Supplier>().WithMany().HasForeignKey(o => o.SupplierId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(OutsideJob.BuildId));
        });
        builder.Entity<Photo>(e =>
        {
            e.ToTable("photos");
            OfBuild(e, nameof(Photo.BuildId));
        });
        builder.Entity<Bag>(e =>
        {
            e.ToTable("teardown_bags");
            e.Ignore(b => b.Label);
            e.Ignore(b => b.Scan);
            e.Ignore(b => b.PieceCount);
            e.Ignore(b => b.FastenerCount);
            e.Property(b => b.Pieces).IsJson();
            e.Property(b => b.Fasteners).IsJson();
            e.HasIndex(b => b.Code).IsUnique();
            OfBuild(e, nameof(Bag.BuildId));
        });
        builder.Entity<SubAssembly>(e =>
        {
            e.ToTable("teardown_assemblies");
            e.Property(a => a.Steps).IsJson();
            e.Property(a => a.States).IsJson();
            OfBuild(e, nameof(SubAssembly.BuildId));
        });
        builder.Entity<BagMove>(e =>
        {
            e.ToTable("teardown_moves");
            e.HasOne<Bag>().WithMany().HasForeignKey(m => m.BagId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(BagMove.BuildId));
        });
        builder.Entity<PunchMark>(e =>
        {
            e.ToTable("survey_marks");
            e.Property(m => m.At).IsJson();
            OfBuild(e, nameof(PunchMark.BuildId));
        });
        builder.Entity<SurveyLook>(e =>
        {
            e.ToTable("survey_looks");
            OfBuild(e, nameof(SurveyLook.BuildId));
        });
        builder.Entity<OtherBody>(e =>
        {
            e.ToTable("survey_bodies");
            e.Property(b => b.Zones).IsJson();
            e.Property(b => b.Spans).IsJson();
            OfBuild(e, nameof(OtherBody.BuildId));
        });
        builder.Entity<Finding>(e =>
        {
            e.ToTable("survey_findings");
            e.Ignore(f => f.Counts);
            e.Ignore(f => f.AreaM2);
            e.Ignore(f => f.DrawnMm);
            e.Ignore(f => f.Chosen);
            e.Property(f => f.At).IsJson();
            e.Property(f => f.Area).IsJson();
            e.Property(f => f.Options).IsJson();
            e.Property(f => f.Operations).IsJson();
            e.Property(f => f.Parts).IsJson();
            e.Property(f => f.InEstimate).IsJson();
            e.HasIndex(f => new { f.BuildId, f.Number }).IsUnique();
            OfBuild(e, nameof(Finding.BuildId));
        });
        builder.Entity<PanelEvent>(e =>
        {
            e.ToTable("survey_panel_events");
            e.Ignore(p => p.Counts);
            e.Property(p => p.Flag).IsJson();
            OfBuild(e, nameof(PanelEvent.BuildId));
        });
        builder.Entity<ClientReport>(e =>
        {
            e.ToTable("reports");
            e.Ignore(r => r.IsDraft);
            e.Property(r => r.Text).IsJson();
            e.HasIndex(r => new { r.BuildId, r.Number }).IsUnique();
            OfBuild(e, nameof(ClientReport.BuildId));
        });
        builder.Entity<ClientPaper>(e =>
        {
            e.ToTable("money_papers");
            e.Ignore(p => p.State);
            e.Ignore(p => p.IsOpen);
            e.Ignore(p => p.Name);
            e.Ignore(p => p.Adds);
            e.Ignore(p => p.Operations);
            e.Ignore(p => p.Change);
            e.Ignore(p => p.Taken);
            e.Property(p => p.Words).IsJson();
            e.Property(p => p.Lines).IsJson();
            e.Property(p => p.Answer).IsJson();
            e.HasIndex(p => new
                {
                    p.BuildId,
                    p.Kind,
                    p.Number,
                })
                .IsUnique();
            OfBuild(e, nameof(ClientPaper.BuildId));
        });
        builder.Entity<ApprovalCode>(e =>
        {
            e.ToTable("access_codes");
            e.HasOne<ClientPaper>().WithMany().HasForeignKey(c => c.PaperId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(ApprovalCode.BuildId));
        });
        builder.Entity<WrongAnswer>(e =>
        {
            e.ToTable("access_wrong_answers");
            e.HasIndex(w => new { w.PaperId, w.RecordedAt });
            e.HasOne<ClientPaper>().WithMany().HasForeignKey(w => w.PaperId).OnDelete(DeleteBehavior.Restrict);
            OfBuild(e, nameof(WrongAnswer.BuildId));
        });
        builder.Entity<AccountSession>(e =>
        {
            e.ToTable("access_sessions");
            e.Property(s => s.Id).ValueGeneratedNever();
            e.Property(s => s.Device).HasMaxLength(AccountsDesk.DeviceMost);
            e.HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(s => s.AccountId);
        });
        builder.Entity<RequestPrint>(e =>
        {
            e.ToTable("access_prints");
            e.HasKey(p => new { p.Of, p.What });
            e.Property(p => p.What).HasMaxLength(60);
            e.Property(p => p.Print).HasMaxLength(64);
        });
        builder.Entity<PrivateLink>(e =>
        {
            e.ToTable("access_links");
            e.HasIndex(l => l.TokenHash).IsUnique();
            OfBuild(e, nameof(PrivateLink.BuildId));
        });
        builder.Entity<AuditEntry>(e =>
        {
            e.ToTable("access_audit");
            e.Property(a => a.Id).UseIdentityAlwaysColumn();
            e.Property(a => a.Before).HasColumnType("jsonb");
            e.Property(a => a.After).HasColumnType("jsonb");
            e.HasIndex(a => a.Of);
        });
        builder.Entity<DataProtectionKey>().ToTable("access_keys");
    }

    private static void OfBuild<T>(
        Microsoft.EntityFrameworkCore.Metadata.Builders.EntityTypeBuilder<T> entity,
        string property
    )
        where T : class
    {
        entity.HasOne<Build>().WithMany().HasForeignKey(property).OnDelete(DeleteBehavior.Restrict);
        entity.HasIndex(property);
    }

    private static void NameIdentityTables(ModelBuilder builder)
    {
        builder.Entity<Account>().ToTable("access_accounts");
        builder.Entity<IdentityRole<Guid>>().ToTable("access_roles");
        builder.Entity<IdentityUserRole<Guid>>().ToTable("access_account_roles");
        builder.Entity<IdentityUserClaim<Guid>>().ToTable("access_account_claims");
        builder.Entity<IdentityUserLogin<Guid>>().ToTable("access_account_logins");
        builder.Entity<IdentityUserToken<Guid>>().ToTable("access_account_tokens");
        builder.Entity<IdentityRoleClaim<Guid>>().ToTable("access_role_claims");
    }

    private AuditEntry AuditOf(EntityEntry<Entity> entry) =>
        AuditOf(
            entry,
            entry.Entity.Id,
            entry
                .Properties.Where(p =>
                    p.Metadata.Name is not nameof(Entity.Version)
                    && (entry.State != EntityState.Modified || p.IsModified)
                )
                .ToList()
        );

    /// <summary>What the shop would want to know of an account's life; never what opens it.</summary>
    private AuditEntry? AuditOf(EntityEntry<Account> entry)
    {
        var told = entry
            .Properties.Where(p =>
                p.Metadata.Name
                    is nameof(Account.Name)
                        or nameof(Account.UserName)
                        or nameof(Account.PersonId)
                        or nameof(Account.ClosedAt)
                        or nameof(Account.WordUntil)
                && (entry.State != EntityState.Modified || p.IsModified)
            )
            .ToList();
        return told.Count == 0 ? null : AuditOf(entry, entry.Entity.Id, told);
    }

    private AuditEntry AuditOf(EntityEntry entry, Guid of, List<PropertyEntry> changed)
    {
        static string Pick(IEnumerable<PropertyEntry> properties, Func<PropertyEntry, object?> value) =>
            JsonSerializer.Serialize(properties.ToDictionary(p => p.Metadata.Name, value), StoreJson.Options);
        return new()
        {
            At = clock.Now,
            By = current.Actor.AccountId,
            What = entry.Metadata.ClrType.Name,
            Of = of,
            Action = entry.State switch
            {
                EntityState.Added => "added",
                EntityState.Deleted => "removed",
                _ => "changed",
            },
            Before = entry.State == EntityState.Added ? null : Pick(changed, p => p.OriginalValue),
            After = entry.State == EntityState.Deleted ? null : Pick(changed, p => p.CurrentValue),
        };
    }
}

/// <summary>Lets the migration tool make a context without the server.</summary>
public sealed class ShopDbDesign : IDesignTimeDbContextFactory<ShopDb>
{
    public ShopDb CreateDbContext(string[] args) =>
        new(StoreSetup.Options("Host=127.0.0.1;Database=design"), new(TimeProvider.System), new(), new());
}
