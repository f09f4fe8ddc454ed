using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using FirstCoat.Server.Benches;

namespace FirstCoat.Server.Tests.Across;

/// <summary>Every wrong value in every field of every operation of a shop in full use: a refusal, never a fault, and
/// nothing that anybody can no longer open.</summary>
public sealed class HostileTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    [Fact]
    public async Task No_value_in_any_field_of_any_operation_breaks_the_server_or_what_it_keeps()
    {
        var filled = await shop.Filled();
        var requests = new HostileRequests(
            JsonNode.Parse(await shop.Manager.GetStringAsync("/api/openapi.json"))!,
            filled.IdOf
        );
        var (wrong, counts) = (new List<string>(), new SortedDictionary<int, int>());
        var anonymous = await shop.Anonymous();
        foreach (var request in requests.All())
        {
            // Printing needs a server that listens, and the test host's own client sends no nought in an address: the
            // bench does both. The rest end the sessions that the walk runs in, or make its accounts; each has its own
            // tests.
            if (
                request.Path.Contains("%00", StringComparison.Ordinal)
                || request.Call.Name.StartsWith("print", StringComparison.Ordinal)
                || request.Call.Name
                    is "signOut"
                        or "endOtherSessions"
                        or "closeAccount"
                        or "giveWord"
                        or "firstVisit"
                        or "startImprovement"
            )
            {
                continue;
            }

            var client =
                request.Call.Path.StartsWith("/api/private", StringComparison.Ordinal) || request.Call.Name is "signIn"
                    ? anonymous
                    : shop.Manager;
            using var message = new HttpRequestMessage(request.Call.Method, request.Path)
            {
                Content = request.Body is { } b ? new StringContent(b, Encoding.UTF8, "application/json") : null,
            };
            using var answer = await client.SendAsync(message);
            var status = (int)answer.StatusCode;
            counts[status] = counts.GetValueOrDefault(status) + 1;
            if (status >= 500 || status == 401 && client == shop.Manager || (request.MustRefuse && status < 400))
            {
                wrong.Add(
                    $"{request.Call.Name}, {request.How}: {status} {Core.Words.Shortened(await answer.Content.ReadAsStringAsync(), 200)}"
                );
            }
        }

        foreach (
            var call in requests.Calls.Where(c =>
                c.Method == HttpMethod.Get && !c.Name.StartsWith("print", StringComparison.Ordinal)
            )
        )
        {
            foreach (var client in new[] { shop.Manager, shop.Office, shop.Technician })
            {
                using var answer = await client.GetAsync(requests.PathOf(call));
                if ((int)answer.StatusCode >= 500)
                {
                    wrong.Add(
                        $"{call.Name} cannot be read any more: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
                    );
                }
            }
        }

        wrong.ShouldBeEmpty(
            $"{counts.Values.Sum()} requests: {string.Join(", ", counts.Select(c => $"{c.Value} x {c.Key}"))}"
        );
        counts.Values.Sum().ShouldBeGreaterThan(5000);
        counts.ShouldContainKey((int)HttpStatusCode.BadRequest);
    }
}
