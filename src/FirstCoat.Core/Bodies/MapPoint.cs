namespace FirstCoat.Core.Bodies;

/// <summary>A point on a map of the survey, in centimetres of that map.</summary>
public sealed record MapPoint(double X, double Y);
