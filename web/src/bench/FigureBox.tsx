import { useId } from "react";
import { type FigureSpec, type Figures, isBlank, type Row, rowsOf, type TableSpec, textOf, unitName } from "./figures";

/** The size of every drawing, in its own units. */
export const STAGE = { w: 760, h: 540 };

export type Refused = { field: string; why: string } | null;

/** A chalked figure that is typed over; up and down change it. */
export function FigureBox({
  spec,
  figures,
  onChange,
  refused,
  high,
}: {
  spec: FigureSpec;
  figures: Figures;
  onChange: (value: string) => void;
  refused: Refused;
  /** Of the drawing that it stands on. */
  high: number;
}) {
  const id = useId();
  const value = textOf(figures, spec.key);
  const wrong = refused?.field === spec.key;
  const unit = spec.unit === "length" ? unitName(figures) : spec.unit;
  const place = spec.at ? { "--x": `${(100 * spec.at[0]) / STAGE.w}%`, "--y": `${(100 * spec.at[1]) / high}%` } : {};
  const by = (way: number) => {
    const now = Number(value || 0);
    if (spec.step && Number.isFinite(now)) onChange(String(Number((now + way * spec.step).toFixed(4))));
  };
  return (
    <div className={`figure ${spec.at ? "figure-on" : ""} ${wrong ? "figure-wrong" : ""}`} style={place as React.CSSProperties}>
      <label htmlFor={id}>{spec.label}</label>
      <span className="figure-box">
        <input
          id={id}
          value={value}
          inputMode={spec.text ? "text" : "decimal"}
          autoComplete="off"
          aria-invalid={wrong}
          aria-describedby={wrong ? `${id}why` : undefined}
          style={{ width: spec.wide ?? 62 }}
          onFocus={(e) => e.target.select()}
          onChange={(e) => onChange(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
            e.preventDefault();
            by(e.key === "ArrowUp" ? 1 : -1);
          }}
        />
        {unit && <small>{unit}</small>}
      </span>
      {wrong && (
        <em id={`${id}why`} role="alert">
          {refused.why}
        </em>
      )}
    </div>
  );
}

/** Rows that are typed; there is always one more than is filled. */
export function FigureTable({
  spec,
  figures,
  onChange,
  refused,
}: {
  spec: TableSpec;
  figures: Figures;
  onChange: (rows: Row[]) => void;
  refused: Refused;
}) {
  const filled = rowsOf(figures, spec.key);
  const rows = filled.length > 0 && isBlank(filled[filled.length - 1] ?? {}) ? filled : [...filled, {}];
  const put = (i: number, key: string, value: string | boolean) => onChange(rows.map((r, n) => (n === i ? { ...r, [key]: value } : r)));
  const cell = (i: number, key: string) => refused?.field === `${spec.key}.${i}.${key}`;
  return (
    <div className="figure-table">
      <table aria-label={spec.label}>
        <thead>
          <tr>
            {spec.columns.map((c) => (
              <th key={c.key} scope="col">
                {c.label}
              </th>
            ))}
            <th>
              <span className="sr-only">Take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              {spec.columns.map((c) => {
                const name = `${spec.one} ${i + 1}, ${c.label}`;
                const value = row[c.key];
                return (
                  <td key={c.key}>
                    {c.kind === "check" ? (
                      <input type="checkbox" aria-label={name} checked={value === true} onChange={(e) => put(i, c.key, e.target.checked)} />
                    ) : (
                      <input
                        aria-label={name}
                        className={c.kind === "text" ? "wide" : undefined}
                        inputMode={c.kind === "text" ? "text" : "decimal"}
                        autoComplete="off"
                        value={typeof value === "string" ? value : ""}
                        aria-invalid={cell(i, c.key)}
                        onChange={(e) => put(i, c.key, e.target.value)}
                      />
                    )}
                  </td>
                );
              })}
              <td>
                {i < filled.length && (
                  <button
                    type="button"
                    className="figure-out"
                    aria-label={`Take out ${spec.one} ${i + 1}`}
                    onClick={() => onChange(filled.filter((_, n) => n !== i))}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {(refused?.field === spec.key || refused?.field.startsWith(`${spec.key}.`)) && <em role="alert">{refused.why}</em>}
    </div>
  );
}
