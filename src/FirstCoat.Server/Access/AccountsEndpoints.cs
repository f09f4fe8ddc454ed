using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Access;

namespace FirstCoat.Server.Access;

/// <summary>The access room: the manager's hand on accounts.</summary>
public static class AccountsEndpoints
{
    /// <param name="WordUntil">A one-time word is out and opens until then.</param>
    /// <param name="Sessions">Browsers that are signed in.</param>
    public sealed record AccountView(
        Guid Id,
        string User,
        string Name,
        string Role,
        Guid? PersonId,
        Instant? ClosedAt,
        Instant? WordUntil,
        int Sessions
    );

    public sealed record NewAccount(
        Guid Id,
        [property: StringLength(100)] string User,
        [property: StringLength(PasswordRules.Most)] string Password,
        [property: StringLength(100)] string Name,
        [property: StringLength(20)] string Role,
        Guid? PersonId
    );

    public sealed record EditAccount(
        [property: StringLength(100)] string Name,
        [property: StringLength(20)] string Role,
        Guid? PersonId
    );

    public sealed record SavedAccount(Guid Id);

    /// <param name="Word">Told once: only its hash is kept.</param>
    public sealed record OneTimeWord(Guid Id, string Word, Instant Until);

    public static void MapAccounts(this RouteGroupBuilder api)
    {
        var accounts = api.MapGroup("/accounts").RequireAuthorization(Policies.Manager);
        accounts
            .MapGet("", async (AccountsDesk desk, CancellationToken cancel) =>
                (await desk.Look(cancel)).Select(View).ToList()
            )
            .WithName("listAccounts");
        accounts
            .MapPost("", async (NewAccount b, AccountsDesk desk, CancellationToken cancel) =>
                new SavedAccount((await desk.Add(b.Id, b.User, b.Password, b.Name, b.Role, b.PersonId, cancel)).Id)
            )
            .WithName("addAccount");
        accounts
            .MapPut("/{id:guid}", async (Guid id, EditAccount b, AccountsDesk desk, CancellationToken cancel) =>
                new SavedAccount((await desk.Edit(id, b.Name, b.Role, b.PersonId, cancel)).Id)
            )
            .WithName("editAccount");
        accounts
            .MapPost("/{id:guid}/close", async (Guid id, AccountsDesk desk, CancellationToken cancel) =>
                new SavedAccount((await desk.Close(id, cancel)).Id)
            )
            .WithName("closeAccount");
        accounts
            .MapPost("/{id:guid}/word", async (Guid id, AccountsDesk desk, CancellationToken cancel) =>
                new OneTimeWord(
                    id,
                    await desk.GiveWord(id, cancel),
                    SystemClock.Instance.GetCurrentInstant() + AccountsDesk.WordLife
                )
            )
            .WithName("giveWord");
    }

    private static AccountView View(AccountLook a) =>
        new(
            a.Account.Id,
            a.Account.UserName!,
            a.Account.Name,
            a.Role,
            a.Account.PersonId,
            a.Account.ClosedAt,
            a.Account.WordUntil,
            a.Sessions
        );
}
