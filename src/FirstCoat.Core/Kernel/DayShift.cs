using NodaTime;

namespace FirstCoat.Core.Kernel;

/// <summary>A shift of the week with its unpaid breaks, in wall time. <c>To &lt;= From</c> means the next
/// day.</summary>
public sealed record DayShift(IsoDayOfWeek Day, LocalTime From, LocalTime To, List<ShiftBreak> Breaks);

/// <summary>An unpaid break, in wall time.</summary>
public sealed record ShiftBreak(LocalTime From, LocalTime To);
