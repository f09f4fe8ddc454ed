namespace FirstCoat.Core.Parts;

/// <summary>What a supplier's goods have taken, in days.</summary>
public sealed record LeadTime(double Likely, double High, int Records);
