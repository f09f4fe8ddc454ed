using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Store.Access;

/// <summary>Letters to a build's client: each greets by name, says one thing, and is signed by the shop.</summary>
public sealed class ClientLetters(ShopDb db, ShopClock clock, CurrentActor current, IMail mail, ShopAddress address)
{
    /// <summary>How long the link in a letter opens.</summary>
    private static readonly Duration LinkLife = Duration.FromDays(60);

    /// <summary>Writes to the client's known address.</summary>
    /// <exception cref="Core.Refusal">No letter can be addressed to the client.</exception>
    public Task Write(Client client, ShopSettings shop, string subject, string text, CancellationToken cancel) =>
        mail.Send(
            new(
                client.Email,
                client.Name,
                subject,
                $"Dear {client.Name},\n\n{text}\n\nKind regards,\n{shop.Name}{(shop.Phone.Length > 0 ? $", {shop.Phone}" : "")}"
            ),
            shop.Name,
            cancel
        );

    /// <summary>Writes with a new private link, within the caller's transaction; the link is kept with what the caller
    /// saves.</summary>
    /// <param name="path">Behind the link, such as "/papers/…"; nothing: its first page.</param>
    /// <param name="before">What stands above the link.</param>
    /// <param name="after">What stands below it.</param>
    public async Task WriteWithLink(
        Build build,
        Client client,
        ShopSettings shop,
        string subject,
        string before,
        string path,
        string after,
        CancellationToken cancel
    )
    {
        var token = PrivateLink.NewToken();
        db.Add(
            new PrivateLink
            {
                Id = Guid.CreateVersion7(),
                BuildId = build.Id,
                TokenHash = PrivateLink.Hash(token),
                ExpiresAt = clock.Now + LinkLife,
                RecordedAt = clock.Now,
                RecordedBy = current.Actor.AccountId,
            }
        );
        await Write(
            client,
            shop,
            subject,
            $"{before}\n\n{address.Of(shop)}/r/{token}{path}\n\n{after} The link is yours alone.",
            cancel
        );
    }
}
