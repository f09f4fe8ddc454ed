using System.Collections.Concurrent;
using System.Data.Common;
using System.Runtime.CompilerServices;
using FirstCoat.Core.Access;
using FirstCoat.Core.Bench;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Photos;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Reports;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace FirstCoat.Store;

/// <summary>
/// Counts what was recorded and kept: what was made of it holds until the count has grown. It is counted once it is
/// kept, never before, so that what is made at the new count has seen it.
/// </summary>
public sealed class ShopChanges : ISaveChangesInterceptor, IDbTransactionInterceptor, IDbConnectionInterceptor
{
    /// <summary>Kinds of record that no plan reads. What is not named here counts.</summary>
    public static readonly IReadOnlySet<string> Beside = new HashSet<string>
    {
        nameof(Account),
        nameof(Acknowledgement),
        nameof(ApprovalCode),
        nameof(Bag),
        nameof(BagMove),
        nameof(Baseline),
        nameof(BenchTry),
        nameof(BodyMount),
        nameof(BoltSet),
        nameof(CalendarLink),
        nameof(CentreReading),
        nameof(Client),
        nameof(ClientReport),
        nameof(CommittedWeek),
        nameof(DatumReading),
        nameof(DatumSheet),
        nameof(FitAcceptance),
        nameof(FitChange),
        nameof(FitReading),
        nameof(FitSheet),
        nameof(ForecastNight),
        nameof(MirrorPlace),
        nameof(OtherBody),
        nameof(OpeningReading),
        nameof(Photo),
        nameof(PrivateLink),
        nameof(Provision),
        nameof(Ripple),
        nameof(SequenceChange),
        nameof(SheetOffcut),
        nameof(ShopTemplate),
        nameof(PunchMark),
        nameof(ShopTime),
        nameof(SubAssembly),
        nameof(SpecFigure),
        nameof(SurveyLook),
        nameof(WhatIf),
        nameof(WireTable),
        nameof(WrongAnswer),
    };

    private readonly ConditionalWeakTable<DbContext, HashSet<string>> _saved = [];

    /// <summary>Of this server's connections, as the database numbers them: what they change is counted here
    /// already.</summary>
    private readonly ConcurrentDictionary<int, bool> _own = [];

    /// <summary>What is said where nobody knows which kinds changed.</summary>
    public const string Everything = "everything";

    private readonly ConcurrentDictionary<string, long> _ofKind = [];
    private long _forPlan,
        _all;

    /// <summary>Of what the plan is made from.</summary>
    public long ForPlan => Interlocked.Read(ref _forPlan);

    /// <summary>Of any kind of record.</summary>
    public long All => Interlocked.Read(ref _all);

    /// <summary>Of some kinds of record.</summary>
    public long Of(params ReadOnlySpan<string> kinds)
    {
        var sum = _ofKind.GetValueOrDefault(Everything);
        foreach (var kind in kinds)
        {
            sum += _ofKind.GetValueOrDefault(kind);
        }

        return sum;
    }

    /// <summary>What another server changed, or this one while nobody listened.</summary>
    /// <param name="connection">The number of the connection that changed it; null: nobody knows.</param>
    public void Elsewhere(string what, int? connection)
    {
        if (connection is null || !_own.ContainsKey(connection.Value))
        {
            Note([what]);
        }
    }

    private void Note(IReadOnlyCollection<string> kinds)
    {
        foreach (var kind in kinds)
        {
            _ofKind.AddOrUpdate(kind, 1, (_, n) => n + 1);
        }

        if (kinds.Count > 0)
        {
            Interlocked.Increment(ref _all);
        }

        if (kinds.Any(k => !Beside.Contains(k)))
        {
            Interlocked.Increment(ref _forPlan);
        }
    }

    ValueTask<InterceptionResult<int>> ISaveChangesInterceptor.SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken
    )
    {
        var kinds = eventData
            .Context!.ChangeTracker.Entries<AuditEntry>()
            .Where(e => e.State == EntityState.Added)
            .Select(e => e.Entity.What);
        _saved.GetOrCreateValue(eventData.Context).UnionWith(kinds);
        return new(result);
    }

    ValueTask<int> ISaveChangesInterceptor.SavedChangesAsync(
        SaveChangesCompletedEventData eventData,
        int result,
        CancellationToken cancellationToken
    )
    {
        if (eventData.Context!.Database.CurrentTransaction is null)
        {
            Kept(eventData.Context);
        }

        return new(result);
    }

    Task ISaveChangesInterceptor.SaveChangesFailedAsync(
        DbContextErrorEventData eventData,
        CancellationToken cancellationToken
    )
    {
        if (eventData.Context!.Database.CurrentTransaction is null)
        {
            _saved.Remove(eventData.Context);
        }

        return Task.CompletedTask;
    }

    Task IDbTransactionInterceptor.TransactionCommittedAsync(
        DbTransaction transaction,
        TransactionEndEventData eventData,
        CancellationToken cancellationToken
    )
    {
        Kept(eventData.Context!);
        return Task.CompletedTask;
    }

    Task IDbTransactionInterceptor.TransactionRolledBackAsync(
        DbTransaction transaction,
        TransactionEndEventData eventData,
        CancellationToken cancellationToken
    )
    {
        _saved.Remove(eventData.Context!);
        return Task.CompletedTask;
    }

    void IDbConnectionInterceptor.ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) =>
        _own[((NpgsqlConnection)connection).ProcessID] = true;

    Task IDbConnectionInterceptor.ConnectionOpenedAsync(
        DbConnection connection,
        ConnectionEndEventData eventData,
        CancellationToken cancellationToken
    )
    {
        _own[((NpgsqlConnection)connection).ProcessID] = true;
        return Task.CompletedTask;
    }

    private void Kept(DbContext context)
    {
        if (_saved.TryGetValue(context, out var kinds))
        {
            Note(kinds);
            _saved.Remove(context);
        }
    }
}
