using FirstCoat.Store.Plan;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace FirstCoat.Server.Plans;

/// <summary>What is planned for one person or in one place, as RFC 5545 has it. It names the build by its number: no
/// client, no money.</summary>
public static class PlanCalendar
{
    /// <summary>So many weeks of the plan; later days move too often to stand in a calendar.</summary>
    private const int Weeks = 8;

    /// <param name="person">Whose work; null: the work in the place.</param>
    public static string Of(LaneFacts facts, Guid? person, Guid? place)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//First Coat//Plan//EN" };
        var name = person is { } p
            ? facts.People.FirstOrDefault(x => x.Id == p)?.Name
            : facts.Stations.FirstOrDefault(s => s.Id == place)?.Name;
        calendar.AddProperty("X-WR-CALNAME", $"Plan: {name}");
        calendar.AddProperty("REFRESH-INTERVAL;VALUE=DURATION", "PT1H");
        var until = (facts.Now + NodaTime.Duration.FromDays(7 * Weeks)).ToUnixTimeSeconds() / 60;
        var numbers = facts.Builds.ToDictionary(b => b.Id.ToString(), b => b.Number);
        var stamp = Time(facts.Now);
        foreach (var block in facts.View.Lanes.Value.Blocks.Where(b => b.Start < until && numbers.ContainsKey(b.Build)))
        {
            var isMine = person is { } who ? block.People.Contains(who.ToString()) : block.Place == place.ToString();
            if (!isMine)
            {
                continue;
            }

            var times = block.Hours.Count > 0 ? block.Hours : [new Core.Kernel.Span(block.Start, block.Finish)];
            foreach (var (time, i) in times.Select((t, i) => (t, i)))
            {
                calendar.Events.Add(
                    new CalendarEvent
                    {
                        // The same piece keeps its name when it moves, so that it moves in the calendar too.
                        Uid = $"{block.Operation}.{i}.{person ?? place}@first-coat",
                        DtStamp = stamp,
                        Start = Time(Rooms.LanesEndpoints.At(time.Start)),
                        End = Time(Rooms.LanesEndpoints.At(time.End)),
                        Summary = $"{numbers[block.Build]} {block.Name}",
                        Location = facts.Stations.FirstOrDefault(s => s.Id.ToString() == block.Place)?.Name,
                    }
                );
            }
        }

        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }

    private static CalDateTime Time(Instant at) => new(at.ToDateTimeUtc(), "UTC");
}
