import type { Schemas } from "../api/client";
import { day } from "../format";
import { INK, OXIDE } from "../tokens";

type Piece = Schemas["PieceView"];

/** Tallies, five to a gate: solid what came, dashed what did not. */
export function Tally({ promised, came }: { promised: number; came: number }) {
  const shown = Math.min(20, promised);
  const strokes = Array.from({ length: shown }, (_, i) => i);
  return (
    <svg width={Math.ceil(shown / 5) * 40 + 4} height="20" aria-hidden="true">
      {strokes.map((i) => {
        const [gate, n] = [Math.floor(i / 5), i % 5];
        const here = i < came;
        const d = n === 4 ? `M${gate * 40 - 1},16L${gate * 40 + 31},4` : `M${gate * 40 + 3 + n * 8},2V18`;
        return <path key={i} d={d} stroke={INK} strokeWidth={here ? 1.8 : 1.2} strokeDasharray={here ? undefined : "3 2.5"} fill="none" />;
      })}
    </svg>
  );
}

/** What the client promised, against what came; what is missing is asked for with a day. */
export function Pieces({ arrival: a, mayAsk, onAsk }: { arrival: Schemas["ArrivalView"]; mayAsk: boolean; onAsk: (p: Piece) => void }) {
  const requests = a.promised.filter((p) => p.missing > 0 && p.by).length;
  return (
    <section aria-label="Promised and came">
      <h2>
        Promised and came{" "}
        <small>
          {a.promised.length === 0
            ? "nothing was promised yet"
            : `${a.piecesCame} of ${a.piecesPromised} pieces came. Dashed did not; ${requests} ${requests === 1 ? "request is" : "requests are"} out`}
        </small>
      </h2>
      <ul>
        {a.promised.map((p) => (
          <li
            key={p.id}
            className="border-t border-p2 py-[3px] grid grid-cols-[minmax(0,1fr)_84px_44px_100px] min-[1200px]:grid-cols-[minmax(0,1fr)_88px_48px_168px] gap-2 items-center first:border-t-0"
          >
            <span className={p.missing > 0 ? "font-[660]" : ""}>{p.what}</span>
            <Tally promised={p.promised} came={p.came} />
            <span className={p.missing > 0 ? "font-[660]" : "text-ink2"}>{p.missing > 0 ? `${p.came} of ${p.promised}` : p.came}</span>
            <span className="text-right">
              {p.missing > 0 && p.by && (
                <span>
                  <b className="whitespace-nowrap">by {day(p.by)}</b>{" "}
                  <span className="text-ink2 whitespace-nowrap">asked {day(p.askedOn)}</span>
                </span>
              )}
              {p.missing > 0 &&
                mayAsk &&
                (p.by ? null : (
                  <button type="button" className="btn" style={{ color: OXIDE }} aria-label={`Ask for ${p.what}`} onClick={() => onAsk(p)}>
                    Ask now
                  </button>
                ))}
            </span>
          </li>
        ))}
      </ul>
      {a.cameUnasked.length > 0 && <p className="text-ink2">Came unasked: {a.cameUnasked.join(", ")}.</p>}
    </section>
  );
}

/** The serial number on its line; each break is torn in it, and the side the number lies on is what was fitted. */
export function SerialLine({ arrival: a, colour }: { arrival: Schemas["ArrivalView"]; colour: string }) {
  if (a.serial === null || a.breaks.length === 0) return null;
  const all = [a.serial, ...a.breaks.map((b) => b.at)];
  const span = Math.max(60, Math.max(...all) - Math.min(...all));
  const [from, to] = [Math.min(...all) - span * 0.6, Math.max(...all) + span * 0.6];
  const x = (n: number) => ((n - from) / (to - from)) * 440;
  return (
    <section aria-label="Serial number" className="mt-3">
      <h2>
        Number {a.serial} <small>the number picks the parts, not the year</small>
      </h2>
      <svg viewBox="0 0 446 56" className="block w-full max-w-[460px]" aria-hidden="true">
        <path d="M0,30H440" stroke="#7B827F" strokeWidth="9" />
        {a.breaks.map((b) => (
          <g key={b.at}>
            <path d={`M${x(b.at)},20l5,6l-8,6l5,8`} stroke="#E3E4E0" strokeWidth="5" fill="none" />
            <text x={x(b.at)} y="54" textAnchor="middle" fontSize="12" fontWeight="660" fill={INK}>
              {b.at}
            </text>
          </g>
        ))}
        <path d={`M${x(a.serial)},6V34`} stroke={INK} strokeWidth="2" />
        <circle cx={x(a.serial)} cy="6" r="5" fill={colour} stroke={INK} />
      </svg>
      <ul>
        {a.breaks.map((b) => (
          <li key={b.at}>
            <b>{b.fitted || "not known"}</b>{" "}
            <span className="text-ink2">
              {b.past >= 0
                ? `${b.past} after the change at ${b.at}; before it ${b.before}`
                : `${-b.past} before the change at ${b.at}; from it ${b.from}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
