using System.Net;
using System.Net.Http.Json;
using FirstCoat.Server.Reports;
using FirstCoat.Server.Web;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>What the machine can and cannot: prints in turn, a full disk, a database that is gone, headers under
/// TLS.</summary>
public sealed class MachineTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    [Fact]
    public async Task The_shops_prints_go_first_and_a_full_queue_says_so()
    {
        var turns = new PrintTurns();
        var printing = new[] { await turns.Enter("a", default), await turns.Enter("a", default) };
        var (firstA, secondA) = (turns.Enter("a", default), turns.Enter("a", default));
        (await Should.ThrowAsync<TooMany>(() => turns.Enter("a", default))).After.ShouldBeGreaterThan(TimeSpan.Zero);
        var ofB = turns.Enter("b", default);
        var ofShop = Enumerable.Range(0, PrintTurns.ShopMost).Select(_ => turns.Enter(null, default)).ToList();
        await Should.ThrowAsync<TooMany>(() => turns.Enter(null, default));

        printing[0].Dispose();
        (await ofShop[0]).Dispose();
        foreach (var own in ofShop.Skip(1))
        {
            firstA.IsCompleted.ShouldBeFalse("the shop's own go first");
            (await own).Dispose();
        }

        (await firstA).Dispose();
        (await secondA).Dispose();
        (await ofB).Dispose();
        printing[1].Dispose();
    }

    [Fact]
    public async Task Who_gives_up_waiting_takes_no_place()
    {
        var turns = new PrintTurns();
        var printing = new[] { await turns.Enter(null, default), await turns.Enter(null, default) };
        using var gone = new CancellationTokenSource();
        var waits = turns.Enter("a", gone.Token);
        await gone.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(waits);
        var next = turns.Enter("a", default);
        _ = turns.Enter("a", default);
        printing[0].Dispose();
        (await next).Dispose();
        printing[1].Dispose();
    }

    [Fact]
    public async Task A_full_disk_is_said_in_a_sentence_and_nothing_is_half_kept()
    {
        await using var scope = shop.Scope();
        var db = scope.ServiceProvider.GetRequiredService<Store.ShopDb>();
        // What the database says when it cannot write.
        await db.Database.ExecuteSqlRawAsync(
            "create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file' using errcode = '53100'; end $$; create trigger no_room before insert on shop_suppliers for each row execute function no_room();"
        );
        try
        {
            var id = Guid.CreateVersion7();
            var problem = await shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/suppliers/{id}",
                    new
                    {
                        name = "Full",
                        what = "",
                        freightDays = Array.Empty<string>(),
                        version = (uint?)null,
                    }
                )
                .Refused("disk", HttpStatusCode.InsufficientStorage);
            problem.GetProperty("detail").GetString().ShouldBe(DiskSpace.Sentence);
            (await db.Suppliers.AnyAsync(s => s.Id == id, TestContext.Current.CancellationToken)).ShouldBeFalse();
            (await db.Audit.AnyAsync(a => a.Of == id, TestContext.Current.CancellationToken)).ShouldBeFalse();
        }
        finally
        {
            await db.Database.ExecuteSqlRawAsync("drop trigger no_room on shop_suppliers; drop function no_room();");
        }
    }

    [Fact]
    public async Task Under_tls_every_cookie_is_for_tls_only_and_forms_go_nowhere_else()
    {
        var client = shop.Server.CreateClient();
        client.BaseAddress = new Uri("https://shop.example");
        var answer = await client.GetAsync("/api/session");
        var cookies = answer.Headers.GetValues("Set-Cookie").ToList();
        cookies.Count.ShouldBeGreaterThanOrEqualTo(2);
        cookies.ShouldAllBe(c => c.Contains("secure", StringComparison.OrdinalIgnoreCase));
        var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("form-action 'self'");
        policy.ShouldContain("base-uri 'none'");
        answer.Headers.Contains("Strict-Transport-Security").ShouldBeTrue();
    }

    [Fact]
    public async Task A_request_that_says_too_much_is_refused_before_it_is_read()
    {
        using var body = new StringContent(
            $"{{\"name\":\"{new string('x', 3_000_000)}\"}}",
            System.Text.Encoding.UTF8,
            "application/json"
        );
        var answer = await shop.Manager.PutAsync($"/api/shop/suppliers/{Guid.CreateVersion7()}", body);
        answer.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
    }
}
