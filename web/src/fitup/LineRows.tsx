import { INK, OXIDE, P0 } from "../tokens";
import { isOpen, type Line, lastRound, mm, ROUNDS, roundName, signed, verdictWords } from "./fitWords";

const WIDE = 150;

/** All lines of a build on one ruler: the rounds one above the other, the worst figure last. */
export function LineRows({ lines, chosen, onPick }: { lines: readonly Line[]; chosen: string | null; onPick: (key: string) => void }) {
  const all = lines.flatMap((l) => l.rounds.flatMap((r) => r.stations.flatMap((s) => (s.gap ? [s.gap.mm] : []))));
  const [least, most] = [Math.min(2, ...all), Math.max(8, ...all)];
  const x = (v: number) => 4 + ((v - least) / (most - least)) * (WIDE - 8);
  const marks = Array.from({ length: Math.floor(most) - Math.ceil(least) + 1 }, (_, i) => Math.ceil(least) + i);
  return (
    <table className="line-rows" aria-label="Shut lines">
      <thead>
        <tr>
          <th scope="col">Line, mm</th>
          <th scope="col" aria-label="Gaps on a ruler, mm">
            <svg width={WIDE} height="22" aria-hidden="true">
              {marks.map((m) => (
                <g key={m}>
                  <path d={`M${x(m)},16v6`} stroke={INK} />
                  {(marks.length < 9 || m % 2 === 0) && (
                    <text x={x(m)} y="12" textAnchor="middle" fontSize="10.5" fill={INK}>
                      {m}
                    </text>
                  )}
                </g>
              ))}
            </svg>
          </th>
          <th scope="col" className="num">
            worst
          </th>
          <th scope="col" className="num">
            flush
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => {
          const last = lastRound(l);
          const out = l.verdict === "out";
          return (
            <tr key={l.key} aria-selected={chosen === l.key} className={chosen === l.key ? "line-chosen" : undefined}>
              <th scope="row">
                <button type="button" aria-pressed={chosen === l.key} onClick={() => onPick(l.key)}>
                  <b>{l.letter}</b>
                  <span>
                    {l.name}
                    <small className={isOpen(l) && last ? "text-oxide" : "text-ink2"}>{verdictWords(l)}</small>
                  </span>
                </button>
              </th>
              <td>
                <svg width={WIDE} height="26" aria-hidden="true">
                  <rect
                    x={x(l.limits.targetMm - l.limits.toleranceMm)}
                    width={x(l.limits.targetMm + l.limits.toleranceMm) - x(l.limits.targetMm - l.limits.toleranceMm)}
                    height="26"
                    fill={P0}
                  />
                  {l.rounds.map((r) => {
                    const read = r.stations.flatMap((s) => (s.gap ? [s.gap.mm] : []));
                    const now = r === last;
                    const at = ROUNDS.indexOf(r.round);
                    if (read.length === 0) return null;
                    return (
                      <g key={r.round} stroke={now ? INK : "none"}>
                        {now && <path d={`M${x(Math.min(...read))},13H${x(Math.max(...read))}`} />}
                        {r.stations.map((s) =>
                          s.gap ? (
                            <path
                              key={s.number}
                              d={now ? `M${x(s.gap.mm)},8v10` : `M${x(s.gap.mm)},${at === 0 ? 2 : 20}v4`}
                              stroke={now && r.off.includes(s.number) ? OXIDE : INK}
                              strokeWidth={now ? 2 : 1}
                            />
                          ) : null,
                        )}
                      </g>
                    );
                  })}
                  {l.foretold.map((v, i) => (v == null ? null : <circle key={i} cx={x(v)} cy="22" r="1.8" fill="none" stroke={INK} />))}
                </svg>
              </td>
              <td className={`num ${out && last && last.off.length > 0 ? "text-oxide font-[680]" : ""}`}>
                {last?.worstMm != null ? mm(last.worstMm) : ""}
              </td>
              <td className={`num ${last && last.flushOff.length > 0 ? "text-oxide font-[680]" : ""}`}>
                {last?.worstFlushMm != null ? signed(last.worstFlushMm) : ""}
              </td>
            </tr>
          );
        })}
      </tbody>
      <caption>
        Tall: the last round ({[...new Set(lines.flatMap((l) => lastRound(l)?.round ?? []))].map(roundName).join(", ") || "none yet"});
        short: the ones before. Rings: after paint, foretold.
      </caption>
    </table>
  );
}
