using CsCheck;
using FirstCoat.Core.Plan;
using FirstCoat.PlanCheck;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Vehicles in places, by a check that knows nothing of how plans are made.</summary>
public sealed class PlacesTests
{
    [Fact]
    public void Tmp_survey()
    {
        var faults = new List<string>();
        for (var seed = 0; seed < 5000; seed++)
        {
            try { faults.AddRange(ShopPlanCheck.Faults(ShopWithPlaces.Of(seed), new Planner().Plan(ShopWithPlaces.Of(seed))).Select(f => $"{seed}: {f}")); }
            catch (Exception e) { faults.Add($"{seed}: !! {e.GetType().Name} {e.Message} {e.StackTrace!.Split('\n')[0]}"); }
        }
        System.IO.File.WriteAllLines("/tmp/faults.txt", faults);
        if (Environment.GetEnvironmentVariable("SEED") is { } one)
        {
            var p = ShopWithPlaces.Of(int.Parse(one, null)); var plan = new Planner().Plan(p); string T(long? m) => m is { } x ? p.Calendar.Local(x).ToString("d MMM HH:mm", null) : "-";
            using var w = new System.IO.StreamWriter("/tmp/dump.txt");
            w.WriteLine("now " + T(p.Now));
            foreach (var b in p.Builds) { w.WriteLine($"{b.Id} at {b.StandsAt} {b.Support} h {b.HeightMm}");
              foreach (var st in plan.Stays.Where(x => x.Build == b.Id)) w.WriteLine($"   stay {st.Place}{(st.Gone ? "GONE" : "")} {T(st.From)}..{T(st.To)} for {st.For} move {T(st.Move?.Start)} by {string.Join(",", st.MovedBy)}");
              foreach (var o in b.Operations) { var pl = plan.Operations.GetValueOrDefault(o.Id); w.WriteLine($"   {o.Id} {o.Minutes} {o.Trade} {o.Station} {o.Body} hold {o.Hold} sets {o.Sets} low {o.LowersMm} after {string.Join(",", o.After.Select(a => a.Operation))} -> {T(pl?.Start)}..{T(pl?.Finish)} @{pl?.Place} {pl?.Reason.Text ?? plan.Unplanned.First(u => u.Operation == o.Id).Reason.Text}"); } }
        }
    }

    [Fact]
    public void Every_plan_of_every_shop_could_be_kept() =>
        ShopWithPlaces.Problems.Sample(problem => ShopPlanCheck.Faults(problem, new Planner().Plan(problem)).ShouldBeEmpty(), iter: 300);
}
