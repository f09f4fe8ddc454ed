import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, OXIDE_LT } from "../tokens";
import { type Line, mm, roundName, signed } from "./fitWords";
import type { Reader } from "./useReader";

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "⌫"];

/** The keys a gloved hand presses: no keyboard slides over the figure. */
export function ReadPad({ line, reader, onClose }: { line: Line; reader: Reader; onClose: () => void }) {
  const { at, typed } = reader;
  const press = (key: string) => {
    if (key === "⌫") reader.setTyped(typed.slice(0, -1));
    else if (key === "±") reader.setTyped(typed.startsWith("-") ? typed.slice(1) : `-${typed}`);
    else reader.setTyped(typed + key);
    reader.field.current?.focus();
  };
  const flush = at?.measure === "flush";
  const pos = at ? (line.stationsMm[at.station - 1] ?? 0) : 0;
  const taper = reader.round.taperMmPerM;
  return (
    <section className="read-pad on-guide" aria-label={`Reading ${line.name}`}>
      <header>
        <div>
          <h2>
            {line.letter} {line.name}
          </h2>
          <p>{roundName(reader.round.round)}</p>
        </div>
        <button type="button" onClick={onClose}>
          Done
        </button>
      </header>
      <div className="read-sight">
        <Sight line={line} reader={reader} />
        <div>
          {at ? (
            <>
              <p className="font-[680] text-[15px]">
                {flush ? "Flush at station" : "Station"} {at.station} of {line.stationsMm.length}
              </p>
              <p className="text-chalk2">
                {Math.round(pos)} mm from the {line.from}
              </p>
              <form
                onSubmit={(e) => {
                  e.preventDefault();
                  reader.enter();
                }}
              >
                <input
                  ref={reader.field}
                  autoFocus
                  inputMode="none"
                  aria-label={`${flush ? "Flush" : "Gap"} at station ${at.station}, ${reader.unit === "inch" ? "in" : reader.unit}`}
                  aria-invalid={reader.wrong !== ""}
                  value={typed}
                  placeholder={reader.valueAt(at) != null ? mm(reader.valueAt(at) ?? 0) : "–"}
                  onChange={(e) => reader.setTyped(e.target.value)}
                />
                <select aria-label="Read in" value={reader.unit} onChange={(e) => reader.setUnit(e.target.value as typeof reader.unit)}>
                  <option value="mm">mm</option>
                  <option value="inch">in</option>
                  <option value="thou">thou</option>
                </select>
              </form>
              {reader.wrong ? (
                <p role="alert" className="text-oxide-lt">
                  {reader.wrong}
                </p>
              ) : (
                <p className="text-chalk2">
                  {flush
                    ? `out is +, in is −, at most ${mm(line.limits.flushMm)}`
                    : `target ${mm(line.limits.targetMm)}, at most ${mm(line.limits.toleranceMm)} off`}
                </p>
              )}
            </>
          ) : (
            <p className="font-[680] text-[18px]" role="status">
              All of this line is read.
            </p>
          )}
          {taper != null && reader.round.rangeMm != null && (
            <p className="mt-3" aria-live="polite">
              <b>{Math.abs(taper) < 0.05 ? "runs even" : `${taper > 0 ? "opens" : "closes"} ${mm(Math.abs(taper))} mm in a metre`}</b>
              <br />
              <span className="text-chalk2">
                range {mm(reader.round.rangeMm)}, at most {mm(line.limits.rangeMm)}
              </span>
            </p>
          )}
        </div>
      </div>
      <div className="read-keys">
        <div>
          {KEYS.map((k) => (
            <button key={k} type="button" aria-label={k === "⌫" ? "Wipe the last figure" : k} onClick={() => press(k)}>
              {k}
            </button>
          ))}
        </div>
        <div>
          <button
            type="button"
            aria-pressed={flush}
            onClick={() => at && reader.goTo({ station: at.station, measure: flush ? "gap" : "flush" })}
          >
            <b>{flush ? "Gap" : "Flush"}</b>
            <small>{at ? other(reader, at.station, flush) : ""}</small>
          </button>
          <button type="button" disabled={!flush} onClick={() => press("±")} aria-label="In or out">
            ±
          </button>
          <button type="button" className="read-next" disabled={!at} onClick={reader.enter}>
            <b>Next</b>
            <small>one number, Enter</small>
          </button>
        </div>
      </div>
    </section>
  );
}

const other = (reader: Reader, station: number, flush: boolean) => {
  const v = reader.valueAt({ station, measure: flush ? "gap" : "flush" });
  return v == null ? "not read" : flush ? mm(v) : signed(v);
};

/** The line as one stands before it, its stations from the first up, what was read in the gap. */
function Sight({ line, reader }: { line: Line; reader: Reader }) {
  const [w, h] = [168, 330];
  const n = line.stationsMm.length;
  const y = (i: number) => 22 + (i / Math.max(1, n - 1)) * (h - 44);
  const out = (v: number) => Math.abs(v - line.limits.targetMm) > line.limits.toleranceMm + 1e-9;
  const half = (v: number | null) => (v == null ? 16 : Math.min(34, v * 3.6));
  return (
    <svg viewBox={`0 0 ${w} ${h}`} width={w} height={h} aria-hidden="true">
      <rect width={w} height={h} fill={GUIDE3} />
      <path
        fill={GUIDE}
        d={`M${line.stationsMm.map((_, i) => `${f(w / 2 - half(reader.valueAt({ station: i + 1, measure: "gap" })))},${f(y(i))}`).join("L")}L${line.stationsMm
          .map((_, i) => `${f(w / 2 + half(reader.valueAt({ station: n - i, measure: "gap" })))},${f(y(n - 1 - i))}`)
          .join("L")}Z`}
      />
      {line.stationsMm.map((pos, i) => {
        const v = reader.valueAt({ station: i + 1, measure: "gap" });
        const here = reader.at?.station === i + 1;
        return (
          <g key={pos} transform={`translate(${w / 2},${f(y(i))})`}>
            {here && <circle r="15" fill="none" stroke={CHALK} strokeWidth="1.6" />}
            <text
              y="5"
              textAnchor="middle"
              fontSize="14"
              fontWeight="640"
              fill={v != null && out(v) ? OXIDE_LT : v != null ? CHALK : CHALK2}
              className="halo"
              stroke={GUIDE}
            >
              {v != null ? mm(v) : here ? i + 1 : "·"}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
