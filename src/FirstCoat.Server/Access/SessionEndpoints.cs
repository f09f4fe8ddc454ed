using System.ComponentModel.DataAnnotations;
using System.Security.Claims;
using FirstCoat.Core.Access;
using FirstCoat.Core.Shop;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Identity;

namespace FirstCoat.Server.Access;

/// <summary>Claims beside the standard ones.</summary>
public static class AccountClaims
{
    public const string Person = "person";
    public const string Name = "full-name";
}

/// <summary>Sign-in, sign-out, first visit; accounts.</summary>
public static class SessionEndpoints
{
    public sealed record UserView(Guid AccountId, Guid? PersonId, string Name, string Role);

    public sealed record ShopHead(string Name, string Place, string Currency, string TimeZone, UnitSystem Units);

    /// <param name="NeedsSetUp">No account exists: the first visit makes the manager's.</param>
    public sealed record SessionView(bool NeedsSetUp, UserView? User, Instant Now, ShopHead? Shop);

    public sealed record SignIn([property: StringLength(100)] string User, [property: StringLength(200)] string Password);

    public sealed record FirstVisit([property: StringLength(100)] string ShopName, [property: StringLength(100)] string Name, [property: StringLength(100)] string User, [property: StringLength(200)] string Password);

    public sealed record AccountView(Guid Id, string User, string Name, string Role, Guid? PersonId);

    public sealed record NewAccount(Guid Id, [property: StringLength(100)] string User, [property: StringLength(200)] string Password, [property: StringLength(100)] string Name, string Role, Guid? PersonId);

    public static void MapSession(this RouteGroupBuilder api)
    {
        api.MapGet("/session", Look).AllowAnonymous().WithName("getSession");
        api.MapPost("/session", Enter).AllowAnonymous().RequireRateLimiting(Policies.SignInLimit).WithName("signIn");
        api.MapDelete("/session", async (SignInManager<Account> signIn) =>
        {
            await signIn.SignOutAsync();
            return Results.NoContent();
        }).RequireAuthorization(Policies.Anyone).WithName("signOut");
        api.MapPost("/first-visit", SetUp).AllowAnonymous().RequireRateLimiting(Policies.SignInLimit).WithName("firstVisit");
    }

    public static void MapAccounts(this RouteGroupBuilder api)
    {
        var accounts = api.MapGroup("/accounts").RequireAuthorization(Policies.Manager);
        accounts.MapGet("", async (ShopDb db, UserManager<Account> users, CancellationToken cancel) =>
        {
            var views = new List<AccountView>();
            foreach (var a in await db.Users.OrderBy(u => u.UserName).ToListAsync(cancel))
            {
                views.Add(new(a.Id, a.UserName!, a.Name, (await users.GetRolesAsync(a)).FirstOrDefault() ?? "", a.PersonId));
            }

            return views;
        }).WithName("listAccounts");
        accounts.MapPost("", async (NewAccount ask, UserManager<Account> users, ShopDb db, CancellationToken cancel) =>
        {
            Refusal.When(!Roles.All.Contains(ask.Role), "role", "The role is manager, office or technician.");
            Refusal.When(ask.Role == Roles.Technician && ask.PersonId is null, "personId", "A technician's account belongs to a person of the shop.");
            Refusal.When(ask.PersonId is { } p && !await db.People.AnyAsync(x => x.Id == p, cancel), "personId", "There is no such person.");
            if (await db.Users.FindAsync([ask.Id], cancel) is { } there)
            {
                return new AccountView(there.Id, there.UserName!, there.Name, (await users.GetRolesAsync(there)).FirstOrDefault() ?? "", there.PersonId);
            }

            await Make(users, ask.Id, ask.User, ask.Password, ask.Name, ask.Role, ask.PersonId);
            return new AccountView(ask.Id, ask.User, ask.Name, ask.Role, ask.PersonId);
        }).WithName("addAccount");
    }

    /// <summary>Makes an account; a password that is too weak is refused with the reason.</summary>
    public static async Task<Account> Make(UserManager<Account> users, Guid id, string user, string password, string name, string role, Guid? personId)
    {
        var account = new Account { Id = id, UserName = Refusal.Text(user, "user", 100), Name = Refusal.Text(name, "name", 100), PersonId = personId };
        var made = await users.CreateAsync(account, password);
        Refusal.When(!made.Succeeded, made.Errors.Any(e => e.Code.StartsWith("Password", StringComparison.Ordinal)) ? "password" : "user", string.Join(" ", made.Errors.Select(e => e.Description)));
        await users.AddToRoleAsync(account, role);
        await users.AddClaimAsync(account, new(AccountClaims.Name, account.Name));
        if (personId is { } person)
        {
            await users.AddClaimAsync(account, new(AccountClaims.Person, person.ToString()));
        }

        return account;
    }

    private static async Task<SessionView> Look(HttpContext context, ShopDb db, ShopClock clock, IAntiforgery antiforgery, CancellationToken cancel)
    {
        var tokens = antiforgery.GetAndStoreTokens(context);
        context.Response.Cookies.Append("XSRF-TOKEN", tokens.RequestToken!, new() { HttpOnly = false, SameSite = SameSiteMode.Lax, Path = "/" });
        var actor = context.RequestServices.GetRequiredService<CurrentActor>().Actor;
        var user = context.User.Identity?.IsAuthenticated == true ? new UserView(actor.AccountId, actor.PersonId, actor.Name, actor.Role) : null;
        var shop = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel);
        return new(user is null && !await db.Users.AnyAsync(cancel), user, clock.Now, shop is null ? null : new(shop.Name, shop.Place, shop.Currency, shop.TimeZone, shop.Units));
    }

    private static async Task<IResult> Enter(SignIn ask, SignInManager<Account> signIn, ShopDb db)
    {
        if (ask.User.Contains('\0') || ask.User.Length > 100 || ask.Password.Length > 200)
        {
            throw new Refusal("user", "Name or password is not right.");
        }

        // A technician's phone and a desk of the same account stay signed in side by side.
        var result = await signIn.PasswordSignInAsync(ask.User, ask.Password, isPersistent: true, lockoutOnFailure: true);
        return result.Succeeded ? Results.NoContent()
            : Results.Problem(result.IsLockedOut ? "Too many tries. Wait five minutes." : "Name or password is not right.", statusCode: 401, extensions: new Dictionary<string, object?> { ["field"] = "password" });
    }

    private static async Task<IResult> SetUp(FirstVisit ask, ShopDb db, UserManager<Account> users, SignInManager<Account> signIn, Store.Shop.ShopDesk desk, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlRawAsync("select pg_advisory_xact_lock(1)", cancel);
        Refusal.When(await db.Users.AnyAsync(cancel), "user", "The shop has been set up. Sign in.");
        await desk.SaveSettings(s => (s.Name, s.Week) = (Refusal.Text(ask.ShopName, "shopName", 100), StandardWeek()), null, cancel);
        var account = await Make(users, Guid.CreateVersion7(), ask.User, ask.Password, ask.Name, Roles.Manager, null);
        await transaction.CommitAsync(cancel);
        await signIn.SignInAsync(account, isPersistent: true);
        return Results.NoContent();
    }

    /// <summary>Where a new shop starts from; all of it can be changed.</summary>
    public static List<DayShift> StandardWeek() => [.. Enumerable.Range(1, 5).Select(d => new DayShift((IsoDayOfWeek)d, new(8, 0), new(16, 30), [new(new(12, 0), new(12, 30))]))];
}
