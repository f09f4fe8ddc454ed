using FirstCoat.Core.Shop;

namespace FirstCoat.Store.Access;

/// <summary>Where clients reach the application: what the shop says, never what a request calls it.</summary>
/// <param name="own">Where the server listens, for a shop that has said nothing.</param>
public sealed class ShopAddress(Func<string> own)
{
    /// <summary>The address without a slash at its end.</summary>
    public string Of(ShopSettings shop) => (shop.Address.Length > 0 ? shop.Address : own()).TrimEnd('/');
}
