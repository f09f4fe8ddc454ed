using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using FirstCoat.Core.Bodies;

namespace FirstCoat.Server.Tests.Across;

/// <summary>
/// Walks every endpoint of the API's own document: each role, and input that is missing, wrong, huge, negative or text.
/// An endpoint that the table below does not know fails the run.
/// </summary>
public sealed class ApiWalkTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private const string M = "M",
        MO = "MO",
        MT = "MT",
        All = "MOT",
        Anyone = "*";

    /// <summary>Who may call what: manager, office, technician, or anyone without a sign-in.</summary>
    private static readonly Dictionary<string, string> May = new()
    {
        ["getSession"] = Anyone,
        ["signIn"] = Anyone,
        ["signOut"] = All,
        ["firstVisit"] = Anyone,
        ["listAccounts"] = M,
        ["addAccount"] = M,
        ["editAccount"] = M,
        ["closeAccount"] = M,
        ["giveWord"] = M,
        ["changePassword"] = All,
        ["listSessions"] = All,
        ["endOtherSessions"] = All,
        ["putClient"] = MO,
        ["restIsSound"] = All,
        ["getShop"] = All,
        ["removeStation"] = M,
        ["setLayout"] = M,
        ["setRacks"] = M,
        ["setJobs"] = M,
        ["getFirstThings"] = M,
        ["putFirstThingsAway"] = M,
        ["bringFile"] = MO,
        ["findClients"] = MO,
        ["noteCompletion"] = MO,
        ["startShopClock"] = All,
        ["listShopTime"] = MO,
        ["enterShopTime"] = M,
        ["voidShopTime"] = M,
        ["saveSettings"] = M,
        ["putPerson"] = M,
        ["setRate"] = M,
        ["setAbsences"] = M,
        ["putStation"] = M,
        ["putSupplier"] = M,
        ["closeDay"] = M,
        ["reopenDay"] = M,
        ["listBuilds"] = All,
        ["find"] = All,
        ["getBuild"] = All,
        ["openBuild"] = M,
        ["listEnded"] = MO,
        ["getCard"] = All,
        ["editBuild"] = M,
        ["setBuildStatus"] = M,
        ["tryBuildStatus"] = M,
        ["moveBuild"] = MO,
        ["askDecision"] = MO,
        ["settleDecision"] = MO,
        ["addPayment"] = MO,
        ["judgePaint"] = All,
        ["getArrival"] = All,
        ["putArrival"] = All,
        ["askForPiece"] = MO,
        ["shootRound"] = All,
        ["returnStandIn"] = All,
        ["listTemplates"] = All,
        ["listOperations"] = All,
        ["putOperation"] = M,
        ["tryOperation"] = M,
        ["tryRemoval"] = M,
        ["splitOperation"] = M,
        ["trySplit"] = M,
        ["mergeOperations"] = M,
        ["tryMerge"] = M,
        ["removeOperation"] = M,
        ["finishOperation"] = All,
        ["reopenOperation"] = M,
        ["signGate"] = All,
        ["pinOperation"] = M,
        ["getGate"] = All,
        ["findSetUps"] = M,
        ["shareSetUp"] = M,
        ["partSetUp"] = M,
        ["listSequenceChanges"] = All,
        ["undoSequenceChange"] = M,
        ["redoSequenceChange"] = M,
        ["listProvisions"] = All,
        ["getDatum"] = All,
        ["putDatumSheet"] = MT,
        ["putDatumFile"] = MT,
        ["putChassis"] = MT,
        ["readDatum"] = MT,
        ["readDatumFile"] = MT,
        ["takeBackDatum"] = MT,
        ["listOpenings"] = All,
        ["measureOpening"] = MT,
        ["pressGauge"] = MT,
        ["listFigures"] = All,
        ["putSpec"] = MT,
        ["readSpec"] = MT,
        ["takeBackSpec"] = MT,
        ["removeSpec"] = MT,
        ["readCentre"] = MT,
        ["takeBackCentre"] = MT,
        ["addMirror"] = MT,
        ["readMirror"] = MT,
        ["takeBackMirror"] = MT,
        ["removeMirror"] = MT,
        ["addMount"] = MT,
        ["shimMount"] = MT,
        ["removeMount"] = MT,
        ["addBolts"] = MT,
        ["tightenBolt"] = MT,
        ["removeBolts"] = MT,
        ["takeBackOpening"] = MT,
        ["getFit"] = All,
        ["readFit"] = MT,
        ["putFitSheet"] = M,
        ["measureDoor"] = MT,
        ["acceptLine"] = MT,
        ["tryFit"] = All,
        ["changeFit"] = MT,
        ["takeBackReading"] = MT,
        ["acceptProposed"] = M,
        ["takeBackAcceptance"] = MT,
        ["judgeFitChange"] = MT,
        ["listRipples"] = All,
        ["getResting"] = All,
        ["sayRipple"] = M,
        ["judgeRipple"] = M,
        ["sayProvision"] = All,
        ["makeProvision"] = All,
        ["removeProvision"] = All,
        ["tryPin"] = M,
        ["putBefore"] = M,
        ["tryBefore"] = M,
        ["chooseImprovement"] = M,
        ["overrideGate"] = M,
        ["getClock"] = All,
        ["startClock"] = All,
        ["acknowledgeCaution"] = All,
        ["listAcknowledgements"] = All,
        ["stopClock"] = All,
        ["listHours"] = All,
        ["enterHours"] = M,
        ["correctHours"] = All,
        ["settleHours"] = M,
        ["settlePanel"] = M,
        ["settleHazard"] = M,
        ["listParts"] = All,
        ["putPart"] = All,
        ["movePart"] = All,
        ["bookMaterial"] = MO,
        ["listOutside"] = All,
        ["putOutside"] = MO,
        ["sendOutside"] = MO,
        ["promiseOutside"] = MO,
        ["countOutside"] = All,
        ["listPhotos"] = All,
        ["addPhoto"] = All,
        ["describePhoto"] = All,
        ["getPhotoFile"] = All,
        ["listBodyStyles"] = All,
        ["unfoldBody"] = All,
        ["getBody"] = All,
        ["notePanel"] = All,
        ["listBags"] = All,
        ["putBag"] = All,
        ["moveBag"] = All,
        ["findBags"] = All,
        ["printLabels"] = All,
        ["listAssemblies"] = All,
        ["beginAssembly"] = All,
        ["changeAssembly"] = All,
        ["countStep"] = All,
        ["closeStep"] = All,
        ["putStepBack"] = All,
        ["getReassembly"] = All,
        ["openLabels"] = Anyone,
        ["listBodies"] = MO,
        ["putBody"] = MO,
        ["askBody"] = MO,
        ["getSurvey"] = All,
        ["tellHistory"] = MO,
        ["punch"] = All,
        ["takeMarkBack"] = All,
        ["lookedAt"] = All,
        ["putFinding"] = All,
        ["judgeFinding"] = MO,
        ["chooseVerdict"] = All,
        ["agreeVerdict"] = M,
        ["previewVerdict"] = MO,
        ["applyVerdict"] = M,
        ["withdrawFinding"] = MO,
        ["getFloor"] = All,
        ["exportPlanProblem"] = M,
        ["getImprovement"] = M,
        ["startImprovement"] = M,
        ["dropImprovement"] = M,
        ["acceptImprovement"] = M,
        ["undoTurns"] = M,
        ["getPlanChances"] = All,
        ["getWithoutDate"] = All,
        ["getOperationWhy"] = All,
        ["getPlanLanes"] = All,
        ["getWeek"] = All,
        ["commitWeek"] = M,
        ["takeWeekBack"] = M,
        ["countWeek"] = M,
        ["listCalendars"] = All,
        ["makeCalendar"] = All,
        ["revokeCalendar"] = All,
        ["readCalendar"] = Anyone,
        ["getStartsOn"] = All,
        ["getBuildOutlook"] = All,
        ["getAhead"] = All,
        ["answerContention"] = M,
        ["listWhatIfs"] = M,
        ["putWhatIf"] = M,
        ["compareWhatIf"] = M,
        ["adoptWhatIf"] = M,
        ["dropWhatIf"] = M,
        ["setPersonTerms"] = M,
        ["setStationTerms"] = M,
        ["setPlanRules"] = M,
        ["setBuildTerms"] = M,
        ["compareWays"] = M,
        ["saveTemplate"] = M,
        ["dropTemplate"] = M,
        ["lookAtWay"] = M,
        ["chancesOfWay"] = M,
        ["planFromTemplate"] = M,
        ["getMoney"] = MO,
        ["letGoOn"] = M,
        ["listPapers"] = MO,
        ["draftEstimate"] = MO,
        ["draftChangeOrder"] = MO,
        ["editPaper"] = MO,
        ["putPaperLine"] = MO,
        ["previewPaper"] = MO,
        ["printPaper"] = MO,
        ["sendPaper"] = M,
        ["answerPaper"] = MO,
        ["withdrawPaper"] = M,
        ["listPrivatePapers"] = Anyone,
        ["openPrivatePaper"] = Anyone,
        ["printPrivatePaper"] = Anyone,
        ["sendApprovalCode"] = Anyone,
        ["answerWithCode"] = Anyone,
        ["getPrivatePaperPhoto"] = Anyone,
        ["openPrintPaper"] = Anyone,
        ["getPrintPaperPhoto"] = Anyone,
        ["listReports"] = MO,
        ["draftReport"] = MO,
        ["editReport"] = MO,
        ["previewReport"] = MO,
        ["publishReport"] = M,
        ["printReport"] = MO,
        ["listLinks"] = MO,
        ["makeLink"] = M,
        ["revokeLink"] = M,
        ["openPrivate"] = Anyone,
        ["printPrivate"] = Anyone,
        ["getPrivatePhoto"] = Anyone,
        ["openPrint"] = Anyone,
        ["getPrintPhoto"] = Anyone,
        ["bench"] = All,
        ["sumOnBench"] = All,
        ["listTries"] = All,
        ["listWorkFigures"] = All,
        ["keepTry"] = MT,
        ["takeBackTry"] = MT,
        ["listOffcuts"] = All,
        ["keepOffcut"] = MT,
        ["useOffcut"] = MT,
        ["putBackOffcut"] = MT,
        ["getWires"] = All,
        ["putWires"] = M,
    };

    private sealed record Call(string Name, HttpMethod Method, string Path, JsonElement Schema, JsonElement Document);

    [Fact]
    public void No_two_shapes_of_the_api_have_one_name() =>
        // The description knows a shape by its name alone: a second one would silently take the first one's place.
        typeof(FirstCoat.Server.Rooms.Saved)
            .Assembly.GetTypes()
            .Where(t => t.IsNestedPublic && t.Namespace!.StartsWith("FirstCoat.Server", StringComparison.Ordinal))
            .GroupBy(t => t.Name)
            .Where(g => g.Count() > 1)
            .Select(g => string.Join(", ", g.Select(t => t.FullName)))
            .ShouldBeEmpty();

    [Fact]
    public async Task Every_endpoint_is_known_to_this_test_and_denies_the_roles_that_may_not()
    {
        var calls = await Calls();
        calls.Select(c => c.Name).Order().ShouldBe(May.Keys.Order());
        var anonymous = await shop.Anonymous();
        foreach (var call in calls)
        {
            var may = May[call.Name];
            foreach (
                var (role, client) in new[]
                {
                    ("M", shop.Manager),
                    ("O", shop.Office),
                    ("T", shop.Technician),
                    ("-", anonymous),
                }
            )
            {
                if (may == Anyone || call.Name == "signOut")
                {
                    continue;
                }

                var status = (await Send(client, call, "{}")).StatusCode;
                if (role == "-")
                {
                    status.ShouldBe(HttpStatusCode.Unauthorized, $"{call.Name} without a sign-in");
                }
                else if (may.Contains(role, StringComparison.Ordinal))
                {
                    status.ShouldNotBe(HttpStatusCode.Forbidden, $"{call.Name} as {role}");
                    status.ShouldNotBe(HttpStatusCode.Unauthorized, $"{call.Name} as {role}");
                }
                else
                {
                    status.ShouldBe(HttpStatusCode.Forbidden, $"{call.Name} as {role}");
                }
            }
        }
    }

    [Fact]
    public async Task Bad_input_is_a_problem_with_a_sentence_and_a_field_never_a_fault()
    {
        var wrong = new List<string>();
        var rows = await Rows();
        foreach (
            var call in (await Calls()).Where(c =>
                c.Schema.ValueKind == JsonValueKind.Object && c.Name is not ("bench" or "addPhoto" or "signOut")
            )
        )
        {
            var client = May[call.Name] == Anyone ? await shop.Anonymous() : shop.Manager;
            foreach (var (how, body) in BadBodies(call))
            {
                var answer = await Send(client, call, body);
                var text = await answer.Content.ReadAsStringAsync();
                if ((int)answer.StatusCode is < 400 or >= 500)
                {
                    wrong.Add($"{call.Name}, {how}: {(int)answer.StatusCode} {text[..Math.Min(160, text.Length)]}");
                }
                else if (answer.StatusCode is HttpStatusCode.BadRequest && !IsProblem(text))
                {
                    wrong.Add($"{call.Name}, {how}: no field in {text[..Math.Min(200, text.Length)]}");
                }
            }
        }

        wrong.ShouldBeEmpty();
        (await Rows()).ShouldBe(rows, "nothing half-written");
    }

    [Fact]
    public async Task What_is_not_there_is_never_answered_as_if_it_were()
    {
        var wrong = new List<string>();
        foreach (
            var call in (await Calls()).Where(c =>
                c.Path.Contains("{id}", StringComparison.Ordinal) && c.Method == HttpMethod.Get && May[c.Name] != Anyone
            )
        )
        {
            var status = (int)(await Send(shop.Manager, call, "")).StatusCode;
            if (status is not (400 or 404))
            {
                wrong.Add($"{call.Name}: {status}");
            }
        }

        wrong.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_unknown_address_is_a_problem_and_not_the_page()
    {
        var answer = await shop.Manager.GetAsync("/api/nothing/here");
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
    }

    [Fact]
    public async Task Without_its_token_a_change_is_refused()
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/session")
        {
            Content = JsonContent.Create(new { user = "mara", password = ShopFixture.Password }),
        };
        var answer = await shop.CreateClient().SendAsync(request);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    private async Task<long> Rows()
    {
        await using var scope = shop.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<Store.ShopDb>();
        return await db.Audit.LongCountAsync();
    }

    private static bool IsProblem(string text)
    {
        using var json = JsonDocument.Parse(text);
        var named =
            json.RootElement.TryGetProperty("field", out var f) ? f.GetString()
            : json.RootElement.TryGetProperty("errors", out var e) && e.EnumerateObject().Any() ? "errors"
            : null;
        return !string.IsNullOrEmpty(named) && (json.RootElement.TryGetProperty("detail", out _) || named == "errors");
    }

    private async Task<List<Call>> Calls()
    {
        var document = await shop.Manager.GetAsync("/api/openapi.json").Json();
        return document
            .GetProperty("paths")
            .EnumerateObject()
            .SelectMany(path =>
                path.Value.EnumerateObject()
                    .Where(o =>
                        o.Value.ValueKind == JsonValueKind.Object && o.Value.TryGetProperty("operationId", out _)
                    )
                    .Select(o => new Call(
                        o.Value.GetProperty("operationId").GetString()!,
                        new HttpMethod(o.Name.ToUpperInvariant()),
                        path.Name,
                        o.Value.TryGetProperty("requestBody", out var body)
                        && body.GetProperty("content").TryGetProperty("application/json", out var json)
                            ? Resolve(json.GetProperty("schema"), document)
                            : default,
                        document
                    ))
            )
            .ToList();
    }

    private static JsonElement Resolve(JsonElement schema, JsonElement document) =>
        schema.TryGetProperty("$ref", out var reference)
            ? document
                .GetProperty("components")
                .GetProperty("schemas")
                .GetProperty(reference.GetString()!.Split('/')[^1])
        : schema.TryGetProperty("oneOf", out var one)
            ? Resolve(
                one.EnumerateArray().First(o => !o.TryGetProperty("type", out var t) || t.ToString() != "null"),
                document
            )
        : schema;

    private static async Task<HttpResponseMessage> Send(HttpClient client, Call call, string body)
    {
        var path = System.Text.RegularExpressions.Regex.Replace(call.Path, @"\{(\w+)\}", m => m.Groups[1].Value switch
            {
                "date" => "2026-03-03",
                "style" => "coupe",
                "hash" => new string('0', 64),
                "token" or "ticket" => "nothing",
                "calc" => "money.tooling",
                _ => Guid.CreateVersion7().ToString(),
            });
        using var request = new HttpRequestMessage(call.Method, path);
        if (call.Method != HttpMethod.Get && call.Method != HttpMethod.Delete)
        {
            request.Content =
                call.Name == "addPhoto"
                    ? new MultipartFormDataContent { { new ByteArrayContent([1, 2, 3]), "file", "photo.jpg" } }
                    : new StringContent(body, Encoding.UTF8, "application/json");
        }

        return await client.SendAsync(request);
    }

    private IEnumerable<(string How, string Body)> BadBodies(Call call)
    {
        yield return ("no body", "");
        yield return ("not JSON", "{");
        yield return ("null", "null");
        yield return ("a list", "[]");
        yield return ("text", "\"text\"");
        yield return ("empty object", "{}");
        var good = Example(call.Schema, call.Document, 0)!.AsObject();
        foreach (
            var property in call.Schema.TryGetProperty("properties", out var properties)
                ? properties.EnumerateObject().ToList()
                : []
        )
        {
            var schema = Resolve(property.Value, call.Document);
            var types = Types(schema);
            foreach (var (how, value) in Wrong(types, schema))
            {
                var bad = good.DeepClone().AsObject();
                bad[property.Name] = value;
                yield return ($"{property.Name} {how}", bad.ToJsonString());
            }

            var lacking = good.DeepClone().AsObject();
            lacking.Remove(property.Name);
            if (
                call.Schema.TryGetProperty("required", out var required)
                && required.EnumerateArray().Any(r => r.GetString() == property.Name)
            )
            {
                yield return ($"{property.Name} missing", lacking.ToJsonString());
            }
        }
    }

    private static string[] Types(JsonElement schema) =>
        !schema.TryGetProperty("type", out var type) ? ["object"]
        : type.ValueKind == JsonValueKind.Array ? type.EnumerateArray().Select(t => t.GetString()!).ToArray()
        : [type.GetString()!];

    private static IEnumerable<(string How, JsonNode? Value)> Wrong(string[] types, JsonElement schema)
    {
        if (types.Contains("string"))
        {
            yield return ("number", 17);
            yield return ("object", new JsonObject());
            var format = schema.TryGetProperty("format", out var f) ? f.GetString() : null;
            if (format is not null || schema.TryGetProperty("enum", out _))
            {
                yield return ("text of another kind", "no such thing");
                yield return ("empty", "");
            }

            if (schema.TryGetProperty("maxLength", out var most))
            {
                yield return ("too long", new string('x', most.GetInt32() + 1));
            }
        }

        if (types.Contains("integer") || types.Contains("number"))
        {
            yield return ("text", "many");
            yield return ("NaN", "NaN");
            yield return ("number as text", "12");
            yield return ("huge", JsonNode.Parse("1e60"));
        }

        if (types.Contains("boolean"))
        {
            yield return ("text", "yes");
            yield return ("number", 1);
        }

        if (types.Contains("array"))
        {
            yield return ("text", "list");
            yield return ("object", new JsonObject());
        }

        if (types.Contains("object"))
        {
            yield return ("text", "object");
            yield return ("list", new JsonArray());
        }
    }

    /// <summary>A body of the right shape; its ids point at nothing, so that it cannot succeed by chance.</summary>
    private JsonNode? Example(JsonElement raw, JsonElement document, int depth)
    {
        var schema = Resolve(raw, document);
        if (schema.TryGetProperty("enum", out var values))
        {
            return values[0].GetString();
        }

        var types = Types(schema);
        if (types.Contains("null") && depth > 0)
        {
            return null;
        }

        var format = schema.TryGetProperty("format", out var f) ? f.GetString() : null;
        return types.First(t => t != "null") switch
        {
            "string" => format switch
            {
                "uuid" => Guid.CreateVersion7().ToString(),
                "date" => "2026-03-03",
                "date-time" => "2026-03-03T09:00:00Z",
                "time" => "08:00:00",
                "local-date-time" => "2026-03-03T08:00:00",
                _ => "word",
            },
            "integer" or "number" => 1,
            "boolean" => false,
            "array" => new JsonArray(),
            _ => new JsonObject(
                schema.TryGetProperty("properties", out var properties) && depth < 6
                    ? properties
                        .EnumerateObject()
                        .Select(p => KeyValuePair.Create(p.Name, Example(p.Value, document, depth + 1)))
                    : []
            ),
        };
    }

    [Fact]
    public async Task A_repeated_opening_is_the_same_build()
    {
        var id = Guid.CreateVersion7();
        var body = TestBuild.OpenBody(id);
        await shop.Manager.PostAsJsonAsync("/api/builds", body).Json();
        await shop.Manager.PostAsJsonAsync("/api/builds", body).Json();
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Count(b => b.GetProperty("id").GetGuid() == id)
            .ShouldBe(1);
    }

    [Theory]
    [InlineData("<script>alert(1)</script>", true)]
    [InlineData("a\u0000b", false)]
    [InlineData("' or 1=1 --", true)]
    [InlineData("\u202Eelddas", true)]
    public async Task A_hostile_name_is_kept_as_text_and_what_cannot_be_kept_is_refused(string name, bool kept)
    {
        var id = Guid.CreateVersion7();
        var answer = await shop.Manager.PutAsJsonAsync(
            $"/api/shop/suppliers/{id}",
            new
            {
                name,
                what = "",
                freightDays = Array.Empty<string>(),
                version = (uint?)null,
            }
        );
        answer.StatusCode.ShouldBe(kept ? HttpStatusCode.OK : HttpStatusCode.BadRequest);
        if (kept)
        {
            (await shop.Manager.GetAsync("/api/shop").Json())
                .GetProperty("suppliers")
                .EnumerateArray()
                .Single(s => s.GetProperty("id").GetGuid() == id)
                .GetProperty("name")
                .GetString()
                .ShouldBe(name);
        }
    }

    [Theory]
    [InlineData("lengthMm", 9000)]
    [InlineData("lengthMm", -1)]
    public async Task Dimensions_that_a_style_cannot_take_name_their_field(string field, int value)
    {
        var own = BodyDimensions.Of(BodyStyleKey.Coupe);
        await shop
            .Manager.GetAsync(
                $"/api/body-styles/coupe?lengthMm={value}&widthMm={own.WidthMm}&wheelbaseMm={own.WheelbaseMm}"
            )
            .Refused(field);
    }
}
