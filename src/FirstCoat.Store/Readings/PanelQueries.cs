using FirstCoat.Core.Survey;

namespace FirstCoat.Store.Readings;

/// <summary>Which panel events answer which question.</summary>
internal static class PanelQueries
{
    /// <summary>Those that say which temporary metal is in.</summary>
    public static IQueryable<PanelEvent> OnMetal(this IQueryable<PanelEvent> events) =>
        events.Where(e =>
            e.Fact == PanelFact.TemporaryMetalIn
            || e.Fact == PanelFact.TemporaryMetalOut
            || e.Fact == PanelFact.TakenBack
        );
}
