using FirstCoat.Core;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Sequence;

/// <summary>The templates that a build can come from, and those that the shop saves of its own.</summary>
public sealed class TemplatesDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    public async Task<TemplateShelf> All(CancellationToken cancel) =>
        new(await Db.ShopTemplates.AsNoTracking().ToListAsync(cancel));

    /// <summary>Saves a build's sequence as a template; the same again under its id changes nothing.</summary>
    public async Task<ShopTemplate> Save(Guid id, Guid buildId, string name, CancellationToken cancel)
    {
        if (await Again<ShopTemplate>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var operations = await Db.Operations.AsNoTracking().Where(o => o.BuildId == buildId).ToListAsync(cancel);
        var found = await Db
            .Findings.AsNoTracking()
            .Where(f => f.BuildId == buildId)
            .Select(f => f.Operations)
            .ToListAsync(cancel);
        // What findings took out of the allowance of this vehicle, the next one has again.
        var template = ShopTemplate.From(
            id,
            name,
            build,
            [.. operations.Select(Allowance.Unfound)],
            found.SelectMany(o => o).ToHashSet(),
            Clock.Now,
            Actor.AccountId
        );
        var offered = (await All(cancel)).Offered;
        Refusal.When(
            offered.Any(t => string.Equals(t.Name, template.Name, StringComparison.OrdinalIgnoreCase)),
            "name",
            "There is a template of that name."
        );
        Refusal.When(
            offered.Count - Templates.All.Count >= ShopTemplate.Most,
            "name",
            $"There are {ShopTemplate.Most} templates: drop one first."
        );
        Db.Add(template);
        await Save(cancel);
        return template;
    }

    /// <summary>It is not offered any more; builds that came from it stay as they are.</summary>
    public async Task Drop(Guid id, CancellationToken cancel)
    {
        (await Find<ShopTemplate>(id, "template", cancel)).Dropped = true;
        await Save(cancel);
    }
}
