using FirstCoat.Core.Survey;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Survey;

internal sealed class PunchMarkMapping() : TableOf<PunchMark>("survey_marks")
{
    public override void Configure(EntityTypeBuilder<PunchMark> e)
    {
        e.Property(m => m.At).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class SurveyLookMapping() : TableOf<SurveyLook>("survey_looks")
{
    public override void Configure(EntityTypeBuilder<SurveyLook> e)
    {
        e.BelongsToBuild();
    }
}

internal sealed class OtherBodyMapping() : TableOf<OtherBody>("survey_bodies")
{
    public override void Configure(EntityTypeBuilder<OtherBody> e)
    {
        e.Property(b => b.Zones).IsJson();
        e.Property(b => b.Spans).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class FindingMapping() : TableOf<Finding>("survey_findings")
{
    public override void Configure(EntityTypeBuilder<Finding> e)
    {
        e.Ignore(f => f.Counts);
        e.Ignore(f => f.AreaM2);
        e.Ignore(f => f.DrawnMm);
        e.Ignore(f => f.Chosen);
        e.Property(f => f.At).IsJson();
        e.Property(f => f.Area).IsJson();
        e.Property(f => f.Options).IsJson();
        e.Property(f => f.Operations).IsJson();
        e.Property(f => f.Parts).IsJson();
        e.Property(f => f.InEstimate).IsJson();
        e.HasIndex(f => new { f.BuildId, f.Number }).IsUnique();
        e.BelongsToBuild();
    }
}

internal sealed class PanelEventMapping() : TableOf<PanelEvent>("survey_panel_events")
{
    public override void Configure(EntityTypeBuilder<PanelEvent> e)
    {
        e.Ignore(p => p.Counts);
        e.Property(p => p.Flag).IsJson();
        e.HasIndex(x => x.BuildId, "panels_against_a_rule")
            .HasFilter("flag is not null")
            .HasDatabaseName("panels_against_a_rule");
        e.BelongsToBuild();
    }
}
