using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Overview;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Overview;

/// <summary>Something that was found.</summary>
/// <param name="BuildNumber">Of whose build it is; null: the shop's.</param>
/// <param name="Do">What is done there; only of things to do.</param>
public sealed record Found(
    FoundKind Kind,
    Guid Id,
    int? BuildNumber,
    string? ColourHex,
    string Label,
    string Detail,
    ToDo? Do
);

/// <summary>Finds anything in the shop by its words, as far as a role may see it.</summary>
public sealed class FindDesk(ShopDb db, CurrentActor current)
{
    /// <summary>Rows that the database hands to the rule at most: what has all words as they were typed first, and of
    /// that what says least besides.</summary>
    private const int Candidates = 400;

    /// <summary>What answers all words of a question, kind by kind, best first.</summary>
    /// <param name="question">Words in any order; a build's number or words of its name narrow to it.</param>
    /// <param name="here">The number of the build whose page is open, for things to do there.</param>
    public async Task<List<Found>> Find(string question, int? here, CancellationToken cancel)
    {
        var words = Finder.Read(question);
        if (words.Count == 0)
        {
            return [];
        }

        var builds = await db
            .Builds.AsNoTracking()
            .Select(b => new
            {
                b.Id,
                b.Number,
                b.Vehicle,
                b.Status,
            })
            .ToDictionaryAsync(b => b.Id, cancel);
        var own = (await db.Finds.AsNoTracking().Where(r => r.Kind == FoundKind.Build).ToListAsync(cancel))
            .Select(r => r.ToFindable())
            .ToList();
        var named = own.ToDictionary(f => f.Id, f => f.Text);
        var rows = await Rows(words, w => [.. own.Where(f => Finder.Score([w], f.Text) > 0).Select(f => f.Id)], cancel);
        var panels = builds
            .Values.Where(b => b.Status is not (BuildStatus.Closed or BuildStatus.Withdrawn))
            .SelectMany(b =>
                Body.Unfold(b.Vehicle.Style, b.Vehicle.Dimensions)
                    .Panels.Select(p => Findable.Of(b.Id, FoundKind.Panel, b.Id, p.Name, "", false))
            );
        // What is a build's answers to the build's words too.
        var candidates = rows.Concat(panels)
            .Select(f =>
                f.BuildId is { } id && f.Kind != FoundKind.Build && named.TryGetValue(id, out var text)
                    ? f with
                    {
                        Text = $"{f.Text} {text}",
                    }
                    : f
            );
        var found = Finder
            .Best(
                words,
                candidates.Where(f => !OnlyByItsBuild(f, words, named)),
                builds.Values.FirstOrDefault(b => b.Number == here)?.Id
            )
            .Select(f => new Found(
                f.Kind,
                f.Id,
                f.BuildId is { } id ? builds[id].Number : null,
                f.BuildId is { } of ? builds[of].Vehicle.ColourHex : null,
                f.Label,
                f.Detail,
                null
            ));
        return [.. found, .. ToDos(words, here, builds.Values.ToDictionary(b => b.Number, b => b.Vehicle.ColourHex))];
    }

    /// <summary>A question that only names a build finds the build, not all that lies on it.</summary>
    private static bool OnlyByItsBuild(Findable f, IReadOnlyList<string> words, Dictionary<Guid, string> named) =>
        f.Kind != FoundKind.Build
        && f.BuildId is { } id
        && named.TryGetValue(id, out var text)
        && words.All(w => Finder.Score([w], text) > 0)
        && words.All(w => Finder.Score([w], f.Text[..^(text.Length + 1)]) == 0);

    /// <summary>Rows that may answer. Slips are only looked for where nothing answers as it was typed, and first in
    /// words that stand nowhere.</summary>
    private async Task<List<Findable>> Rows(
        IReadOnlyList<string> words,
        Func<string, List<Guid>> buildsOf,
        CancellationToken cancel
    )
    {
        var builds = words.ToDictionary(w => w, buildsOf);
        var found = await Rows(words, builds, [], cancel);
        if (found.Count > 0)
        {
            return found;
        }

        var (slips, strange) = (words.Where(w => w.Length >= 4 && !w.Any(char.IsDigit)).ToList(), new List<string>());
        foreach (var word in slips)
        {
            if (builds[word].Count == 0 && !await Seen.AnyAsync(r => EF.Functions.Like(r.Text, $"%{word}%"), cancel))
            {
                strange.Add(word);
            }
        }

        return slips.Count == 0 ? [] : await Rows(words, builds, strange.Count > 0 ? strange : slips, cancel);
    }

    /// <summary>Rows that a role may see.</summary>
    private IQueryable<FindRow> Seen =>
        current.Actor.IsDesk ? db.Finds.AsNoTracking() : db.Finds.AsNoTracking().Where(r => !r.ForDesk);

    private async Task<List<Findable>> Rows(
        IReadOnlyList<string> words,
        Dictionary<string, List<Guid>> buildsOf,
        IReadOnlyCollection<string> forgiven,
        CancellationToken cancel
    )
    {
        var rows = Seen;
        foreach (var word in words)
        {
            var (like, builds) = ($"%{word}%", buildsOf[word]);
            // Each case in its own words: a condition that is never met would keep the database from its index.
            rows = (forgiven.Contains(word), builds.Count > 0) switch
            {
                (true, true) => rows.Where(r =>
                    EF.Functions.Like(r.Text, like)
                    || EF.Functions.TrigramsAreWordSimilar(word, r.Text)
                    || (r.BuildId != null && builds.Contains(r.BuildId.Value))
                ),
                (true, false) => rows.Where(r =>
                    EF.Functions.Like(r.Text, like) || EF.Functions.TrigramsAreWordSimilar(word, r.Text)
                ),
                (false, true) => rows.Where(r =>
                    EF.Functions.Like(r.Text, like) || (r.BuildId != null && builds.Contains(r.BuildId.Value))
                ),
                (false, false) => rows.Where(r => EF.Functions.Like(r.Text, like)),
            };
        }

        string[] likes = [.. words.Select(w => $"%{w}%")];
        if (words.All(w => buildsOf[w].Count > 0))
        {
            // All of it may be said of a build: what lies on it is only found where some of it is its own.
            rows = rows.Where(r => likes.Any(l => EF.Functions.Like(r.Text, l)));
        }

        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        // One slip leaves two fifths of a short word's triples; the rule itself decides.
        await db.Database.ExecuteSqlAsync(
            $"select set_config('pg_trgm.word_similarity_threshold', '0.39', true)",
            cancel
        );
        var found = await rows.OrderByDescending(r => likes.All(l => EF.Functions.Like(r.Text, l)))
            .ThenBy(r => r.Text.Length)
            .ThenBy(r => r.Id)
            .Take(Candidates)
            .ToListAsync(cancel);
        await turn.CommitAsync(cancel);
        return [.. found.Select(r => r.ToFindable())];
    }

    private IEnumerable<Found> ToDos(IReadOnlyList<string> words, int? here, Dictionary<int, string> colours)
    {
        var number = words
            .Select(w => int.TryParse(w, out var n) && colours.ContainsKey(n) ? n : (int?)null)
            .FirstOrDefault(n => n is not null)
            ?? (here is { } h && colours.ContainsKey(h) ? h : null);
        var asked = words.Where(w => w != $"{number}").ToList();
        return asked.Count == 0
            ? []
            : ThingToDo
                .All.Where(t =>
                    t.Is(current.Actor.IsManager, current.Actor.IsDesk) && (!t.OfBuild || number is not null)
                )
                .Select(t =>
                    (Thing: t, Score: Finder.Score(asked, string.Join(' ', Finder.Plain($"{t.Label} {t.Words}"))))
                )
                .Where(t => t.Score > 0)
                .OrderByDescending(t => t.Score)
                .Take(4)
                .Select(t => new Found(
                    FoundKind.Do,
                    Guid.Empty,
                    t.Thing.OfBuild ? number : null,
                    t.Thing.OfBuild ? colours[number!.Value] : null,
                    t.Thing.Label,
                    "",
                    t.Thing.Key
                ));
    }
}
