using System.Security.Cryptography;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Access;

/// <summary>An account with its role and the sessions that are open.</summary>
public sealed record AccountLook(Account Account, string Role, int Sessions);

/// <summary>A sign-in that was let in.</summary>
public sealed record Entered(Guid SessionId, Guid AccountId);

/// <summary>Who a session belongs to, as the account stands now; null where it opens nothing any more.</summary>
public sealed record SessionOwner(Guid SessionId, Actor Actor);

/// <summary>Name or password is not right. Which of them is never said.</summary>
public sealed class NotLetIn() : Exception("Name or password is not right.");

/// <summary>
/// Commands of the access room: accounts, what opens them, and their sessions. Sessions run on the real clock, as the
/// cookies in the browsers do; everything else on the shop's.
/// </summary>
public sealed class AccountsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    UserManager<Account> users,
    IPasswordHasher<Account> hasher
) : Desk(db, clock, current)
{
    public const int DeviceMost = 120;

    /// <summary>Told to every server when a session ends, with its id.</summary>
    public const string EndedChannel = "session_ended";

    /// <summary>A sign-in lasts so long at the most, however often it is used.</summary>
    public static readonly Duration SessionLife = Duration.FromDays(90);

    /// <summary>How long a one-time word opens.</summary>
    public static readonly Duration WordLife = Duration.FromDays(3);

    /// <summary>One change of accounts after another, so that the last manager cannot be lost between two of
    /// them.</summary>
    private const long AccountsTurn = 0x4643_4143_4354;

    /// <summary>Letters of a one-time word, without those that are taken for each other.</summary>
    private const string WordLetters = "abcdefghjkmnpqrstuvwxyz23456789";

    /// <summary>Verified against where there is no such account, so that a known name takes no longer than an unknown
    /// one.</summary>
    private static readonly Lazy<string> Nobodys = new(() =>
        new PasswordHasher<Account>().HashPassword(new Account { Name = "" }, Guid.NewGuid().ToString())
    );

    private static Instant RealNow => SystemClock.Instance.GetCurrentInstant();

    /// <summary>All accounts, open ones first.</summary>
    public async Task<List<AccountLook>> Look(CancellationToken cancel)
    {
        var roles = await Db
            .UserRoles.Join(Db.Roles, u => u.RoleId, r => r.Id, (u, r) => new { u.UserId, r.Name })
            .ToDictionaryAsync(r => r.UserId, r => r.Name!, cancel);
        var now = RealNow;
        var sessions = await Db
            .Sessions.Where(s => s.EndedAt == null && s.EndsAt > now)
            .GroupBy(s => s.AccountId)
            .ToDictionaryAsync(g => g.Key, g => g.Count(), cancel);
        return (await Db.Users.AsNoTracking().OrderBy(u => u.UserName).ToListAsync(cancel))
            .OrderBy(a => a.ClosedAt is not null)
            .Select(a => new AccountLook(a, roles.GetValueOrDefault(a.Id, ""), sessions.GetValueOrDefault(a.Id)))
            .ToList();
    }

    /// <summary>Makes an account, whole or not at all; asked again with the same id it returns what is there.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public async Task<Account> Add(
        Guid id,
        string user,
        string password,
        string name,
        string role,
        Guid? personId,
        CancellationToken cancel
    )
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        var account = await AddWithin(id, user, password, name, role, personId, cancel);
        await turn.CommitAsync(cancel);
        return account;
    }

    /// <summary>Makes an account within the caller's transaction.</summary>
    public async Task<Account> AddWithin(
        Guid id,
        string user,
        string password,
        string name,
        string role,
        Guid? personId,
        CancellationToken cancel
    )
    {
        var (sign, full) = (Refusal.Text(user, "user", 100), Refusal.Text(name, "name", 100));
        PasswordRules.Check(password, "password", sign, full);
        await CheckRole(role, personId, id, cancel);
        await Turn(AccountsTurn, cancel);
        if (await Db.Users.FindAsync([id], cancel) is { } there)
        {
            return there.UserName == sign && there.Name == full && there.PersonId == personId
                ? there
                : throw new UsedId();
        }

        var account = new Account
        {
            Id = id,
            UserName = sign,
            Name = full,
            PersonId = personId,
        };
        var made = await users.CreateAsync(account, password);
        Refusal.When(
            !made.Succeeded,
            "user",
            made.Errors.Any(e => e.Code == nameof(IdentityErrorDescriber.DuplicateUserName))
                ? "Somebody signs in with this name already."
                : "A name to sign in with has letters, digits and -._@+ only."
        );
        await users.AddToRoleAsync(account, role);
        return account;
    }

    /// <summary>Says whose account it is and what it may do; sessions of another role end, so that none keeps what it
    /// may no longer.</summary>
    public async Task<Account> Edit(Guid id, string name, string role, Guid? personId, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        await Turn(AccountsTurn, cancel);
        var account = await Known(id, cancel);
        Refusal.When(account.ClosedAt is not null, "id", "This account is closed: open it again first.");
        await CheckRole(role, personId, id, cancel);
        var was = (await users.GetRolesAsync(account)).FirstOrDefault();
        (account.Name, account.PersonId) = (Refusal.Text(name, "name", 100), personId);
        if (was != role)
        {
            await RefuseLastManager(account, was, "role", cancel);
            await users.RemoveFromRolesAsync(account, was is null ? [] : [was]);
            await users.AddToRoleAsync(account, role);
            await EndWithin(id, except: null, cancel);
        }

        await Save(cancel);
        await turn.CommitAsync(cancel);
        return account;
    }

    /// <summary>Closes an account: nothing opens it, its sessions end at once. It stays, since records name
    /// it.</summary>
    public async Task<Account> Close(Guid id, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        await Turn(AccountsTurn, cancel);
        var account = await Known(id, cancel);
        Refusal.When(id == Actor.AccountId, "id", "You cannot close your own account: another manager can.");
        await RefuseLastManager(account, (await users.GetRolesAsync(account)).FirstOrDefault(), "id", cancel);
        account.ClosedAt ??= Clock.Now;
        await EndWithin(id, except: null, cancel);
        await Save(cancel);
        await turn.CommitAsync(cancel);
        return account;
    }

    /// <summary>Gives out a one-time word, which opens the account once for choosing a password; it opens a closed
    /// account again. What opened it before does so no more.</summary>
    /// <returns>The word, told once and not kept.</returns>
    public async Task<string> GiveWord(Guid id, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        await Turn(AccountsTurn, cancel);
        var account = await Known(id, cancel);
        Refusal.When(id == Actor.AccountId, "id", "Change your own password under your name instead.");
        var word = string.Join(
            '-',
            Enumerable.Range(0, 4).Select(_ => new string(RandomNumberGenerator.GetItems<char>(WordLetters, 4)))
        );
        (account.PasswordHash, account.WordUntil, account.ClosedAt) = (
            hasher.HashPassword(account, word),
            RealNow + WordLife,
            null
        );
        await EndWithin(id, except: null, cancel);
        await Save(cancel);
        await turn.CommitAsync(cancel);
        return word;
    }

    /// <summary>Changes the own password; other sessions end, this one stays.</summary>
    public async Task ChangePassword(string old, string chosen, Guid session, CancellationToken cancel)
    {
        var account = await Known(Actor.AccountId, cancel);
        Refusal.When(!Fits(account, old), "old", "This is not your present password.");
        Refusal.When(old == chosen, "chosen", "Choose another one than before.");
        PasswordRules.Check(chosen, "chosen", account.UserName!, account.Name);
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        (account.PasswordHash, account.WordUntil) = (hasher.HashPassword(account, chosen), null);
        await EndWithin(account.Id, session, cancel);
        await Save(cancel);
        await turn.CommitAsync(cancel);
    }

    /// <summary>Lets somebody in. Known, unknown and closed names take one verification each and get one
    /// answer.</summary>
    /// <param name="chosen">The password that takes the place of a one-time word.</param>
    /// <exception cref="NotLetIn">Name or password is not right.</exception>
    /// <exception cref="Refusal">A one-time word fits: a password is to be chosen.</exception>
    public async Task<Entered> Enter(
        string user,
        string password,
        string? chosen,
        string device,
        CancellationToken cancel
    )
    {
        var name = users.NormalizeName(user);
        var account = await Db.Users.SingleOrDefaultAsync(u => u.NormalizedUserName == name, cancel);
        var fits = Fits(account is { ClosedAt: null } ? account : null, password);
        if (!fits || account!.WordUntil < RealNow)
        {
            throw new NotLetIn();
        }

        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        if (account.WordUntil is not null)
        {
            Refusal.When(
                string.IsNullOrEmpty(chosen),
                "chosen",
                "This word opens once. Choose a password of your own now."
            );
            Refusal.When(chosen == password, "chosen", "Choose another one than the word.");
            PasswordRules.Check(chosen!, "chosen", account.UserName!, account.Name);
            (account.PasswordHash, account.WordUntil) = (hasher.HashPassword(account, chosen!), null);
        }

        var entered = await BeginWithin(account, device, cancel);
        await turn.CommitAsync(cancel);
        return entered;
    }

    /// <summary>Begins a session for an account that was just made, within the caller's transaction.</summary>
    public async Task<Entered> BeginWithin(Account account, string device, CancellationToken cancel)
    {
        var session = new AccountSession
        {
            Id = Guid.CreateVersion7(),
            AccountId = account.Id,
            StartedAt = RealNow,
            EndsAt = RealNow + SessionLife,
            Device = Words.Shortened(string.Concat(device.Where(c => !char.IsControl(c))), DeviceMost),
        };
        Db.Add(session);
        await Save(cancel);
        return new(session.Id, account.Id);
    }

    /// <summary>Who a session belongs to; asked with every request, so that an end, a closing or another role holds at
    /// once.</summary>
    public async Task<SessionOwner?> Owner(Guid session, CancellationToken cancel)
    {
        var now = RealNow;
        var found = await (
            from s in Db.Sessions
            join a in Db.Users on s.AccountId equals a.Id
            join ur in Db.UserRoles on a.Id equals ur.UserId
            join r in Db.Roles on ur.RoleId equals r.Id
            where s.Id == session && s.EndedAt == null && s.EndsAt > now && a.ClosedAt == null
            select new
            {
                a.Id,
                a.PersonId,
                a.Name,
                Role = r.Name!,
            }
        )
            .AsNoTracking()
            .FirstOrDefaultAsync(cancel);
        return found is null ? null : new(session, new(found.Id, found.PersonId, found.Name, found.Role));
    }

    /// <summary>Ends one session: its cookie and its live connection open nothing any more.</summary>
    public async Task Leave(Guid session, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        await End(await Db.Sessions.Where(s => s.Id == session && s.EndedAt == null).ToListAsync(cancel), cancel);
        await turn.CommitAsync(cancel);
    }

    /// <summary>Sessions of the actor that are open, newest first.</summary>
    public async Task<List<AccountSession>> Own(CancellationToken cancel)
    {
        var now = RealNow;
        return await Db
            .Sessions.AsNoTracking()
            .Where(s => s.AccountId == Actor.AccountId && s.EndedAt == null && s.EndsAt > now)
            .OrderByDescending(s => s.StartedAt)
            .ToListAsync(cancel);
    }

    /// <summary>Ends the actor's other sessions.</summary>
    public async Task EndOthers(Guid keep, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        await EndWithin(Actor.AccountId, keep, cancel);
        await turn.CommitAsync(cancel);
    }

    private async Task EndWithin(Guid account, Guid? except, CancellationToken cancel) =>
        await End(
            await Db
                .Sessions.Where(s => s.AccountId == account && s.EndedAt == null && s.Id != except)
                .ToListAsync(cancel),
            cancel
        );

    private async Task End(List<AccountSession> sessions, CancellationToken cancel)
    {
        foreach (var session in sessions)
        {
            session.EndedAt = RealNow;
            // Heard by every server once the transaction stands.
            await Db.Database.ExecuteSqlAsync($"select pg_notify({EndedChannel}, {session.Id.ToString()})", cancel);
        }

        await Save(cancel);
    }

    private async Task<Account> Known(Guid id, CancellationToken cancel) =>
        await Db.Users.FindAsync([id], cancel) ?? throw Refusal.Missing("account");

    private bool Fits(Account? account, string password) =>
        hasher.VerifyHashedPassword(
            account ?? new Account { Name = "" },
            account?.PasswordHash ?? Nobodys.Value,
            password
        ) != PasswordVerificationResult.Failed
        && account?.PasswordHash is not null;

    private async Task CheckRole(string role, Guid? personId, Guid account, CancellationToken cancel)
    {
        Refusal.When(!Roles.All.Contains(role), "role", "The role is manager, office or technician.");
        Refusal.When(
            role == Roles.Technician && personId is null,
            "personId",
            "A technician's account belongs to a person of the shop."
        );
        Refusal.When(
            personId is { } p && !await Db.People.AnyAsync(x => x.Id == p, cancel),
            "personId",
            "There is no such person."
        );
        Refusal.When(
            personId is { } q
                && await Db.Users.AnyAsync(u => u.PersonId == q && u.Id != account && u.ClosedAt == null, cancel),
            "personId",
            "This person has an account already."
        );
    }

    private async Task RefuseLastManager(Account account, string? role, string field, CancellationToken cancel)
    {
        if (role == Roles.Manager && account.ClosedAt is null)
        {
            var others = await Db
                .UserRoles.Join(
                    Db.Roles.Where(r => r.Name == Roles.Manager),
                    u => u.RoleId,
                    r => r.Id,
                    (u, _) => u.UserId
                )
                .Join(Db.Users, u => u, a => a.Id, (_, a) => a)
                .CountAsync(a => a.Id != account.Id && a.ClosedAt == null, cancel);
            Refusal.When(others == 0, field, "This is the shop's only manager: make another one first.");
        }
    }
}
