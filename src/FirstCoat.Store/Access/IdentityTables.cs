using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Access;

/// <summary>The tables of the sign-in library, under names like the shop's own.</summary>
internal static class IdentityTables
{
    public static void Name(ModelBuilder builder)
    {
        builder.Entity<Account>().ToTable("access_accounts");
        builder.Entity<IdentityRole<Guid>>().ToTable("access_roles");
        builder.Entity<IdentityUserRole<Guid>>().ToTable("access_account_roles");
        builder.Entity<IdentityUserClaim<Guid>>().ToTable("access_account_claims");
        builder.Entity<IdentityUserLogin<Guid>>().ToTable("access_account_logins");
        builder.Entity<IdentityUserToken<Guid>>().ToTable("access_account_tokens");
        builder.Entity<IdentityRoleClaim<Guid>>().ToTable("access_role_claims");
    }
}
