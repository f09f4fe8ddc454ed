using FirstCoat.Core.Access;
using FirstCoat.Core.Money.Papers;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Access;

internal sealed class ApprovalCodeMapping() : TableOf<ApprovalCode>("access_codes")
{
    public override void Configure(EntityTypeBuilder<ApprovalCode> e)
    {
        e.HasOne<ClientPaper>().WithMany().HasForeignKey(c => c.PaperId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class WrongAnswerMapping() : TableOf<WrongAnswer>("access_wrong_answers")
{
    public override void Configure(EntityTypeBuilder<WrongAnswer> e)
    {
        e.HasIndex(w => new { w.PaperId, w.RecordedAt });
        e.HasOne<ClientPaper>().WithMany().HasForeignKey(w => w.PaperId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class AccountSessionMapping() : TableOf<AccountSession>("access_sessions")
{
    public override void Configure(EntityTypeBuilder<AccountSession> e)
    {
        e.Property(s => s.Id).ValueGeneratedNever();
        e.Property(s => s.Device).HasMaxLength(AccountsDesk.DeviceMost);
        e.HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId).OnDelete(DeleteBehavior.Restrict);
        e.HasIndex(s => s.AccountId);
    }
}

internal sealed class RequestPrintMapping() : TableOf<RequestPrint>("access_prints")
{
    public override void Configure(EntityTypeBuilder<RequestPrint> e)
    {
        e.HasKey(p => new { p.Of, p.What });
        e.Property(p => p.What).HasMaxLength(60);
        e.Property(p => p.Print).HasMaxLength(64);
    }
}

internal sealed class PrivateLinkMapping() : TableOf<PrivateLink>("access_links")
{
    public override void Configure(EntityTypeBuilder<PrivateLink> e)
    {
        e.HasIndex(l => l.TokenHash).IsUnique();
        e.BelongsToBuild();
    }
}

internal sealed class AuditEntryMapping() : TableOf<AuditEntry>("access_audit")
{
    public override void Configure(EntityTypeBuilder<AuditEntry> e)
    {
        e.Property(a => a.Id).UseIdentityAlwaysColumn();
        e.Property(a => a.Before).HasColumnType("jsonb");
        e.Property(a => a.After).HasColumnType("jsonb");
        e.HasIndex(a => a.Of);
        e.HasIndex(a => a.At).HasDatabaseName("changes_of_a_time");
    }
}

internal sealed class DataProtectionKeyMapping() : TableOf<DataProtectionKey>("access_keys");

internal sealed class AccountMapping() : TableOf<Account>("access_accounts");
