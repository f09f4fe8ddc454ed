using FirstCoat.Core.Builds;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store;

/// <summary>What the rooms' mappings share.</summary>
internal static class Mapping
{
    /// <summary>A record of one build, which is looked for by its build and keeps it from being removed.</summary>
    public static void BelongsToBuild<T>(this EntityTypeBuilder<T> entity)
        where T : class
    {
        entity.HasOne<Build>().WithMany().HasForeignKey("BuildId").OnDelete(DeleteBehavior.Restrict);
        entity.HasIndex("BuildId");
    }
}

/// <summary>A mapping that says its table first: what refers to it is named after it, whichever is mapped
/// first.</summary>
internal interface INamesTable
{
    void Name(ModelBuilder builder);
}

/// <summary>How one kind of record is kept.</summary>
/// <param name="table">Begins with the room's word.</param>
internal abstract class TableOf<T>(string table) : IEntityTypeConfiguration<T>, INamesTable
    where T : class
{
    public void Name(ModelBuilder builder) => builder.Entity<T>().ToTable(table);

    public virtual void Configure(EntityTypeBuilder<T> e) { }
}
