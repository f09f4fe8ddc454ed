import type { Schemas } from "../api/client";
import { day, month, weekday } from "../format";
import { f } from "../geometry";
import { INK, INK2, OXIDE } from "../tokens";

type Page = Schemas["ReportPage"];

const WIDTH = 452;
const ROW = 54;
const at = (date: string) => new Date(`${date}T00:00:00Z`).getTime() / 86_400_000;

type Case = { words: string; on: string; faint: boolean };

/** The likely day; where an answer moves it, with the answer now and with none until it is due: what silence costs. */
export function casesOf(page: Page): Case[] {
  const asked = page.decisions.find((d) => d.likelyNow && d.likelyOpen && d.likelyNow !== d.likelyOpen);
  if (asked?.likelyNow && asked.likelyOpen)
    return [
      { words: "You answer today", on: asked.likelyNow, faint: false },
      { words: `No answer until ${weekday(asked.dueOn)}`, on: asked.likelyOpen, faint: true },
    ];
  return page.likely ? [{ words: "", on: page.likely, faint: false }] : [];
}

function monthsBetween(from: string, last: number) {
  const months: string[] = [];
  for (let d = new Date(`${from.slice(0, 7)}-01T00:00:00Z`); d.getTime() / 86_400_000 < last; d.setUTCMonth(d.getUTCMonth() + 1)) {
    const iso = d.toISOString().slice(0, 10);
    if (iso > from) months.push(iso);
  }
  const step = months.length > 14 ? 3 : months.length > 7 ? 2 : 1;
  return months.filter((_, i) => i % step === 0);
}

/** A line of days from the report to the likely day, with promise and milestones; length is days. */
export function Ready({ page }: { page: Page }) {
  const cases = casesOf(page);
  if (cases.length === 0 && !page.promised && page.milestones.length === 0)
    return <p className="text-[15px]">No day can be said yet. We tell you as soon as the work that is left can be planned.</p>;
  const height = 72 + Math.max(1, cases.length) * ROW;
  const from = at(page.on);
  const marks = [...cases.map((c) => c.on), page.inTenBy ?? null, page.promised, ...page.milestones.map((m) => m.on)].filter(
    (d): d is string => d !== null,
  );
  const to = Math.max(from + 14, ...marks.map(at)) + 7;
  const x = (date: string) => ((at(date) - from) / (to - from)) * (WIDTH - 40);
  // The futures were drawn with what is open left open.
  const asItStands = cases.at(-1);
  const whisker = 58 + (cases.length - 1) * ROW;
  const late = page.promised !== null && cases[0] !== undefined && cases[0].on > page.promised;
  const words = [
    ...(cases.length === 0
      ? ["no date yet"]
      : cases.map((c) => [c.words.toLowerCase(), `likely ready ${day(c.on)}`].filter(Boolean).join(": "))),
    page.inTenBy && `eight times in ten by ${day(page.inTenBy)}`,
    page.promised && `promised ${day(page.promised)}`,
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="block w-full" role="img" aria-label={words}>
        <text x="0" y="12" fontSize="12.5" fontWeight="680" fill={INK}>
          Today
        </text>
        <path d={`M0.8,20V${height - 8}`} stroke={INK} strokeWidth="1.6" />
        {monthsBetween(page.on, to).map((m) => (
          <g key={m}>
            <path d={`M${f(x(m))},20V${height - 8}`} stroke="#CDBF9F" />
            {x(m) > 40 && (
              <text x={f(x(m) + 3)} y="12" fontSize="12.5" fill={INK2}>
                {month(m)}
              </text>
            )}
          </g>
        ))}
        {cases.map((c, i) => (
          <Spindle key={c.words} of={c} x={x(c.on)} y={58 + i * ROW} paint={page.colourHex} />
        ))}
        {page.inTenBy && asItStands && page.inTenBy > asItStands.on && (
          <path d={`M${f(x(asItStands.on))},${whisker}H${f(x(page.inTenBy))}m0,-6v12`} stroke={INK} strokeWidth="1.6" fill="none" />
        )}
        {page.promised && (
          <g stroke={late ? OXIDE : INK} fill="none" strokeWidth="1.5">
            <path d={`M${f(x(page.promised))},${height - 30}V24l-14,5l14,5`} />
            <text
              x={f(Math.max(2, x(page.promised) - 6))}
              y={height - 33}
              textAnchor={x(page.promised) > 120 ? "end" : "start"}
              fontSize="12.5"
              fontWeight="620"
              fill={late ? OXIDE : INK}
              stroke="none"
            >
              promised {day(page.promised)}
            </text>
          </g>
        )}
        {page.milestones
          .filter((m) => at(m.on) > from)
          .map((m) => (
            <g key={m.name}>
              <circle cx={f(x(m.on))} cy={height - 18} r="3" fill={INK} />
              <text x={f(x(m.on))} y={height - 2} textAnchor="middle" fontSize="11" fill={INK2}>
                {m.name}
              </text>
            </g>
          ))}
      </svg>
      <figcaption>
        {cases.length > 0
          ? "Upright mark: the likely day; sooner and later are equally likely."
          : "A likely day cannot be said yet: the work that is left cannot be planned so far."}
        {page.inTenBy && ` Whisker: eight times in ten it is ready by ${day(page.inTenBy)}.`}
        {page.promised && " Flag: the day that was promised."}
      </figcaption>
    </figure>
  );
}

/** A case as a body of paint that ends on its likely day. */
function Spindle({ of: c, x, y, paint }: { of: Case; x: number; y: number; paint: string }) {
  const after = x < WIDTH - 70;
  return (
    <g>
      {c.words && (
        <text x="7" y={y - 15} fontSize="12.5" fill={INK}>
          {c.words}
        </text>
      )}
      <path d={`M0,${y}L${f(x * 0.88)},${y - 9}L${f(x)},${y}L${f(x * 0.88)},${y + 9}Z`} fill={paint} fillOpacity={c.faint ? 0.4 : 1} />
      <path d={`M${f(x)},${y - 15}V${y + 15}`} stroke={INK} strokeWidth="2" />
      <text
        x={f(after ? x + 6 : x - 6)}
        y={y + (after ? -6 : 26)}
        textAnchor={after ? "start" : "end"}
        fontSize="15"
        fontWeight="720"
        fill={INK}
      >
        {day(c.on)}
      </text>
    </g>
  );
}
