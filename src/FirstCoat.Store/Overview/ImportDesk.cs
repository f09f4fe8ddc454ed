using System.Globalization;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Parts;
using FirstCoat.Store.Readings;
using FirstCoat.Store.Shop;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Overview;

public enum ImportAction
{
    New,
    Changed,
    Same,
    Refused,
}

/// <summary>What a row does, or why it cannot.</summary>
public sealed record ImportLine(int Line, string Name, ImportAction Action, string Says);

/// <summary>What a file does.</summary>
/// <param name="Kept">Whether it was done; all of it or nothing.</param>
/// <param name="Unknown">Columns that are left out.</param>
public sealed record Imported(bool Kept, IReadOnlyList<ImportLine> Lines, IReadOnlyList<string> Unknown);

/// <summary>Brings people, suppliers, clients and parts from a file of comma-separated values, first as a trial that
/// keeps nothing.</summary>
public sealed class ImportDesk(ShopDb db, ShopClock clock, CurrentActor current, ShopDesk shop, PartsDesk parts)
    : Desk(db, clock, current)
{
    private const int MostRows = 2000;

    /// <summary>Reads the file row by row; a row that cannot be keeps the whole file out.</summary>
    /// <param name="keep">False: shows what would be done.</param>
    /// <param name="buildId">Whose parts they are.</param>
    /// <exception cref="Refusal">It is no such file at all.</exception>
    public async Task<Imported> Bring(ImportKind kind, string text, Guid? buildId, bool keep, CancellationToken cancel)
    {
        Refusal.When(
            (kind == ImportKind.Parts) != buildId is not null,
            "buildId",
            "Parts belong to a build; nothing else does."
        );
        if (buildId is { } build)
        {
            await Build(build, cancel);
        }

        var (rows, unknown) = Read(kind, text);
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        var lines = new List<ImportLine>();
        foreach (var row in rows)
        {
            try
            {
                Refusal.When(
                    lines.Exists(l =>
                        l.Action != ImportAction.Refused
                        && string.Equals(l.Name, row.Text("name"), StringComparison.OrdinalIgnoreCase)
                    ),
                    "name",
                    "This name stands twice in the file."
                );
                var (action, says) = await Take(kind, row, buildId, cancel);
                lines.Add(new(row.Line, row.Text("name"), action, says));
            }
            catch (Refusal refusal)
            {
                Db.ChangeTracker.Clear();
                lines.Add(new(row.Line, row.Text("name"), ImportAction.Refused, refusal.Message));
            }
        }

        var done = keep && lines.TrueForAll(l => l.Action != ImportAction.Refused);
        if (done)
        {
            await all.CommitAsync(cancel);
        }
        else
        {
            Db.ChangeTracker.Clear();
            await all.RollbackAsync(cancel);
        }

        return new(done, lines, unknown);
    }

    private static (List<ImportedRow> Rows, List<string> Unknown) Read(ImportKind kind, string text)
    {
        var known = ImportedRow.Columns(kind);
        using var csv = CsvText.Read(text);
        Refusal.When(!csv.Read() || !csv.ReadHeader(), "text", "The file is empty.");
        var header = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant().Replace('_', ' ')).ToList();
        Refusal.When(
            !header.Contains(known[0]),
            "text",
            $"The first line names the columns: {string.Join(", ", known)}. At least “{known[0]}” is needed."
        );
        var rows = new List<ImportedRow>();
        while (csv.Read())
        {
            var fields = header
                .Select((h, i) => (h, Value: csv.TryGetField<string>(i, out var v) ? v ?? "" : ""))
                .Where(f => known.Contains(f.h))
                .GroupBy(f => f.h)
                .ToDictionary(g => g.Key, g => g.First().Value);
            if (fields.Values.Any(v => v.Length > 0))
            {
                rows.Add(new(csv.Parser.RawRow, fields));
            }

            Refusal.When(rows.Count > MostRows, "text", "At most 2,000 rows at once.");
        }

        Refusal.When(rows.Count == 0, "text", "There is no row under the heading.");
        return (rows, header.Where(h => h.Length > 0 && !known.Contains(h)).Distinct().ToList());
    }

    private Task<(ImportAction Action, string Says)> Take(
        ImportKind kind,
        ImportedRow row,
        Guid? build,
        CancellationToken cancel
    ) =>
        kind switch
        {
            ImportKind.People => TakePerson(row, cancel),
            ImportKind.Suppliers => TakeSupplier(row, cancel),
            ImportKind.Clients => TakeClient(row, cancel),
            _ => TakePart(row, build!.Value, cancel),
        };

    private async Task<(ImportAction, string)> TakePerson(ImportedRow row, CancellationToken cancel)
    {
        var name = Refusal.Text(row.Text("name"), "name", 100);
        var there = await Db.People.FirstOrDefaultAsync(p => p.Name == name, cancel);
        var (trades, cost, billing) = (row.Trades("trades"), row.Number("cost"), row.Number("billing"));
        Refusal.When(
            cost is null != billing is null,
            "billing",
            "Give both what an hour costs and what it is billed at, or neither."
        );
        var from = row.Date("from") ?? there?.Rates.LastOrDefault()?.From ?? await Today(cancel);
        var same =
            there is not null
            && (trades.Count == 0 || trades.Order().SequenceEqual(there.Trades.Order()))
            && (billing is null || there.Rates.Contains(new(from, cost!.Value, billing.Value)));
        if (same)
        {
            return (ImportAction.Same, "is here already");
        }

        var person = await shop.PutPerson(
            there?.Id ?? Guid.CreateVersion7(),
            name,
            trades.Count > 0 ? trades : there?.Trades ?? [],
            there?.Active ?? true,
            null,
            cancel
        );
        if (billing is { } rate)
        {
            await shop.SetRate(person.Id, new(from, cost!.Value, rate), cancel);
        }

        return (
            there is null ? ImportAction.New : ImportAction.Changed,
            string.Join(
                ", ",
                person
                    .Trades.Select(t => t.Name())
                    .Append(
                        billing is null
                            ? person.Rates.Count > 0
                                ? "rate as before"
                                : "no rate yet"
                            : string.Create(CultureInfo.InvariantCulture, $"{billing:0.00} an hour")
                    )
            )
        );
    }

    private async Task<(ImportAction, string)> TakeSupplier(ImportedRow row, CancellationToken cancel)
    {
        var name = Refusal.Text(row.Text("name"), "name", 100);
        var there = await Db.Suppliers.FirstOrDefaultAsync(s => s.Name == name, cancel);
        var (what, freight, work) = (row.Text("what"), row.Days("freight days"), row.Days("work days"));
        if (
            there is not null
            && (what.Length == 0 || what == there.What)
            && (freight.Count == 0 || freight.SequenceEqual(there.FreightDays))
            && (work.Count == 0 || work.SequenceEqual(there.WorkDays))
        )
        {
            return (ImportAction.Same, "is here already");
        }

        var supplier = await shop.PutSupplier(
            there?.Id ?? Guid.CreateVersion7(),
            name,
            what.Length > 0 ? what : there?.What ?? "",
            freight.Count > 0 ? freight : there?.FreightDays ?? [],
            work.Count > 0 ? work : there?.WorkDays ?? [],
            there?.Terms ?? new(),
            null,
            cancel
        );
        return (there is null ? ImportAction.New : ImportAction.Changed, supplier.What);
    }

    private async Task<(ImportAction, string)> TakeClient(ImportedRow row, CancellationToken cancel)
    {
        var (name, email, phone) = (
            Refusal.Text(row.Text("name"), "name", 100),
            EmailAddress.Checked(row.Text("email"), "email"),
            row.Text("phone")
        );
        Refusal.When(phone.Length > 200, "phone", "At most 200 characters.");
        var named = await Db.Clients.Where(c => c.Name == name).ToListAsync(cancel);
        var there = named.Count == 1 ? named[0] : named.Find(c => c.Email == email);
        Refusal.When(
            there is null && named.Count > 1,
            "name",
            "Several clients have this name: tell them apart by their e-mail address."
        );
        if (
            there is not null
            && (email.Length == 0 || email == there.Email)
            && (phone.Length == 0 || phone == there.Phone)
        )
        {
            return (ImportAction.Same, "is here already");
        }

        var client = there ?? new Client { Id = Guid.CreateVersion7(), Name = name };
        if (there is null)
        {
            Db.Add(client);
        }

        (client.Email, client.Phone) = (
            email.Length > 0 ? email : client.Email,
            phone.Length > 0 ? phone : client.Phone
        );
        await Save(cancel);
        return (
            there is null ? ImportAction.New : ImportAction.Changed,
            string.Join(", ", new[] { client.Email, client.Phone }.Where(t => t.Length > 0))
        );
    }

    private async Task<(ImportAction, string)> TakePart(ImportedRow row, Guid build, CancellationToken cancel)
    {
        var name = Refusal.Text(row.Text("name"), "name");
        var there = await Db.Parts.FirstOrDefaultAsync(p => p.BuildId == build && p.Name == name, cancel);
        Refusal.When(
            there is { State: > PartState.Needed },
            "name",
            "This part has been ordered already: change it on its page."
        );
        var supplier = row.Text("supplier") is { Length: > 0 } from
            ? await Db.Suppliers.FirstOrDefaultAsync(s => s.Name == from, cancel)
                ?? throw new Refusal("supplier", $"There is no supplier called “{from}”.")
            : null;
        var (quantity, cost, price, own) = (
            row.Number("quantity") ?? there?.Quantity ?? 1,
            row.Number("unit cost") ?? there?.UnitCost ?? 0,
            row.Number("unit price") ?? there?.UnitPrice,
            row.Flag("client supplied") || there is { ClientSupplied: true }
        );
        var by = supplier?.Id ?? there?.SupplierId;
        if (
            there is not null
            && (there.Quantity, there.UnitCost, there.UnitPrice, there.ClientSupplied, there.SupplierId)
                == (quantity, cost, price, own, by)
        )
        {
            return (ImportAction.Same, "is on the list already");
        }

        await parts.Put(
            build,
            there?.Id ?? Guid.CreateVersion7(),
            new(name, quantity, cost, price, by, own, there?.OperationId, there?.MeasuredBy),
            null,
            cancel
        );
        return (
            there is null ? ImportAction.New : ImportAction.Changed,
            string.Create(
                CultureInfo.InvariantCulture,
                $"{quantity:0.##} at {price ?? cost:0.00}{(supplier is null ? "" : $", {supplier.Name}")}"
            )
        );
    }
}
