import { month } from "../format";
import { f } from "../geometry";
import { INK, OXIDE, P3 } from "../tokens";

const at = (date: string) => new Date(`${date}T00:00:00Z`).getTime() / 86_400_000;

/** A stretch of days that several rows share, so that their lengths can be compared. */
export type Scale = { from: number; to: number; width: number };

/** @param from The day at which every span begins. */
export function scaleOf(from: string, dates: (string | null | undefined)[], width: number): Scale {
  const high = Math.max(at(from) + 14, ...dates.filter((d): d is string => !!d).map(at));
  return { from: at(from), to: high + (high - at(from)) * 0.03, width };
}

const x = (s: Scale, date: string) => ((at(date) - s.from) / (s.to - s.from)) * s.width;

/** Firsts of months in a stretch, at most nine of them. */
export function monthsOf(s: Scale): { x: number; name: string }[] {
  const months: { x: number; name: string }[] = [];
  const d = new Date(s.from * 86_400_000);
  for (d.setUTCDate(1), d.setUTCMonth(d.getUTCMonth() + 1); d.getTime() / 86_400_000 < s.to; d.setUTCMonth(d.getUTCMonth() + 1)) {
    const iso = d.toISOString().slice(0, 10);
    months.push({ x: x(s, iso), name: month(iso) });
  }
  return months.filter((_, i) => i % Math.ceil(months.length / 9) === 0);
}

type Chance = { likely: string; p80: string };

/** A finish as it may come: solid to the likely day, whisker to the day of eight in ten; the flag is the promise. */
export function Span(p: { scale: Scale; of: Chance; was?: Chance | null; promised: string | null; paint: string; words: string }) {
  const { scale: s, of, was, promised } = p;
  const [mark, end] = [x(s, of.likely), x(s, of.p80)];
  const late = promised !== null && of.p80 > promised;
  const over = promised !== null && late ? Math.max(mark, x(s, promised)) : end;
  return (
    <svg width={s.width} height="26" viewBox={`0 0 ${s.width} 26`} role="img" aria-label={p.words} className="block">
      {monthsOf(s).map((m) => (
        <path key={m.name} d={`M${f(m.x)},0V26`} stroke={P3} />
      ))}
      {was && (
        <path
          d={`M${f(x(s, was.likely))},4V22M${f(x(s, was.likely))},13H${f(x(s, was.p80))}`}
          stroke={INK}
          strokeDasharray="2 2"
          fill="none"
        />
      )}
      <path d={`M0,13L${f(mark * 0.94)},8L${f(mark)},13L${f(mark * 0.94)},18Z`} fill={p.paint} />
      <path d={`M${f(mark)},5V21`} stroke={INK} strokeWidth="2" />
      <path d={`M${f(mark)},13H${f(over)}`} stroke={INK} strokeWidth="1.4" />
      {late && <path d={`M${f(over)},13H${f(end)}`} stroke={OXIDE} strokeWidth="2.4" />}
      {promised && (
        <path d={`M${f(x(s, promised))},26V2l-9,3.5l9,3.5`} stroke={of.likely > promised ? OXIDE : INK} strokeWidth="1.4" fill="none" />
      )}
    </svg>
  );
}

/** The months over a column of spans. */
export function Months({ scale }: { scale: Scale }) {
  return (
    <svg width={scale.width} height="14" viewBox={`0 0 ${scale.width} 14`} aria-hidden="true" className="block">
      {monthsOf(scale).map((m) => (
        <text key={m.name} x={f(m.x + 2)} y="11" fontSize="11" fill={INK}>
          {m.name}
        </text>
      ))}
    </svg>
  );
}
