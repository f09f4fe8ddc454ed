import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, INK, OXIDE_LT, P3, P4 } from "../tokens";
import { Dim, Say, ScaleBar } from "./chalk";
import type { DrawingProps } from "./drawVehicles";
import { list, num, nums } from "./figures";

export type SheetBox = { name: string; xMm: number; yMm: number; widthMm: number; heightMm: number };
export type CutSheet = { offcut: string; widthMm: number; heightMm: number; pieces: SheetBox[]; rests: SheetBox[] };

/** Sheets with their pieces, to one scale. */
export function TakeOffDrawing({ out, show }: DrawingProps) {
  const sheets = list<CutSheet>(out, "sheets").slice(0, 6);
  const all = list<CutSheet>(out, "sheets").length;
  const across = sheets.length > 1 ? (sheets.length > 4 ? 3 : 2) : 1;
  const down = Math.ceil(sheets.length / across);
  const [wide, high] = [Math.max(...sheets.map((s) => s.widthMm), 1), Math.max(...sheets.map((s) => s.heightMm), 1)];
  const s = Math.min((720 / across - 20) / wide, (370 / down - 34) / high);
  return (
    <g>
      {sheets.map((sheet, i) => {
        const x0 = 24 + (i % across) * (720 / across);
        const y0 = 34 + Math.floor(i / across) * (370 / down);
        return (
          <g key={i}>
            <Say x={x0} y={y0 - 8} anchor="start" size={13} colour={CHALK2}>
              {sheet.offcut || (all - i > 0 ? `new sheet, ${show(sheet.widthMm)} × ${show(sheet.heightMm)}` : "")}
            </Say>
            <rect
              x={f(x0)}
              y={f(y0)}
              width={f(sheet.widthMm * s)}
              height={f(sheet.heightMm * s)}
              fill={GUIDE3}
              stroke={CHALK}
              strokeWidth="2"
            />
            {sheet.rests.map((r) => (
              <rect
                key={`${r.xMm} ${r.yMm}`}
                x={f(x0 + r.xMm * s)}
                y={f(y0 + r.yMm * s)}
                width={f(r.widthMm * s)}
                height={f(r.heightMm * s)}
                fill="none"
                stroke={CHALK2}
                strokeDasharray="4 4"
              />
            ))}
            {sheet.pieces.map((p) => {
              const [w, h] = [p.widthMm * s, p.heightMm * s];
              return (
                <g key={`${p.name} ${p.xMm} ${p.yMm}`}>
                  <rect x={f(x0 + p.xMm * s)} y={f(y0 + p.yMm * s)} width={f(w)} height={f(h)} fill={P3} stroke={GUIDE} />
                  {w > 60 && h > 16 && (
                    <text
                      className="fine"
                      x={f(x0 + p.xMm * s + w / 2)}
                      y={f(y0 + p.yMm * s + h / 2 + 4)}
                      textAnchor="middle"
                      fontSize="12.5"
                      fill={INK}
                    >
                      {p.name.slice(0, Math.floor(w / 6.5))}
                    </text>
                  )}
                </g>
              );
            })}
          </g>
        );
      })}
      {all > sheets.length && (
        <Say x={736} y={402} anchor="end" size={13} colour={CHALK2}>
          and {all - sheets.length} more
        </Say>
      )}
      <ScaleBar perMm={s} y={402} />
    </g>
  );
}

/** The part as it is folded, and its blank with the middle of each fold. */
export function FoldDrawing({ out, show }: DrawingProps) {
  const flanges = nums(out, "flangesMm");
  const folds = nums(out, "foldsMm");
  const [flat, angle] = [num(out, "flatMm"), (num(out, "angleDeg") * Math.PI) / 180];
  const pts: [number, number][] = [[0, 0]];
  let heading = 0;
  for (const [i, size] of flanges.entries()) {
    const [x, y] = pts[pts.length - 1] ?? [0, 0];
    pts.push([x + size * Math.cos(heading), y - size * Math.sin(heading)]);
    heading += i < flanges.length - 1 ? angle : 0;
  }
  const [xs, ys] = [pts.map((p) => p[0]), pts.map((p) => p[1])];
  const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
  const s = Math.min(420 / Math.max(w, 1), 200 / Math.max(h, 1), 640 / Math.max(flat, 1));
  const [ox, oy] = [380 - (Math.min(...xs) + w / 2) * s, 220 - (Math.min(...ys) + h / 2) * s];
  const b = 640 / Math.max(flat, 1);
  return (
    <g>
      <path
        d={`M${pts.map(([x, y]) => `${f(ox + x * s)},${f(oy + y * s)}`).join("L")}`}
        fill="none"
        stroke={P3}
        strokeWidth={f(Math.max(4, num(out, "thicknessMm") * s))}
        strokeLinejoin="round"
      />
      {flanges.map((size, i) => {
        const a: [number, number] = pts[i] ?? [0, 0];
        const c: [number, number] = pts[i + 1] ?? [0, 0];
        return (
          <Say key={i} x={ox + ((a[0] + c[0]) / 2) * s} y={oy + ((a[1] + c[1]) / 2) * s - 9} size={13}>
            {show(size)}
          </Say>
        );
      })}
      <rect x="60" y="400" width="640" height="60" fill={P3} fillOpacity=".4" stroke={CHALK} strokeWidth="2" />
      {folds.map((at) => (
        <g key={at}>
          <path d={`M${f(60 + at * b)},392V468`} stroke={OXIDE_LT} strokeWidth="2" strokeDasharray="8 4" />
          <Say x={60 + at * b} y={386} size={13}>
            {show(at)}
          </Say>
        </g>
      ))}
      <Dim from={[60, 484]} to={[700, 484]} />
      <Say x={380} y={504} size={18} bold>
        {show(flat)} flat
      </Say>
    </g>
  );
}

/** Values at equal stations over a base line. */
export function TaperDrawing({ out, show }: DrawingProps) {
  const values = nums(out, "valuesMm");
  const step = num(out, "stepMm");
  const long = step * (values.length - 1);
  const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)];
  const s = Math.min(600 / Math.max(long, 1), 300 / Math.max(most - least, 1));
  const base = 410 + Math.min(0, least) * s;
  const at = (i: number): [number, number] => [380 - (long * s) / 2 + i * step * s, base - (values[i] ?? 0) * s];
  const every = Math.max(1, Math.ceil(values.length / 13));
  return (
    <g>
      <path d={`M${values.map((_, i) => at(i).map(f).join(",")).join("L")}`} fill="none" stroke={CHALK} strokeWidth="3" />
      <path d={`M${f(at(0)[0])},${f(base)}H${f(at(values.length - 1)[0])}`} stroke={P4} strokeWidth="2" />
      {values.map((v, i) => {
        const [x, y] = at(i);
        return (
          <g key={i}>
            <path d={`M${f(x)},${f(base)}V${f(y)}`} stroke={CHALK2} />
            {i % every === 0 && (
              <>
                <Say x={x} y={Math.min(y, base) - 9} size={13}>
                  {show(v)}
                </Say>
                <Say x={x} y={base + 18} size={12} colour={CHALK2}>
                  {i + 1}
                </Say>
              </>
            )}
          </g>
        );
      })}
      <ScaleBar perMm={s} />
    </g>
  );
}

/** Bars with what is cut from each. */
export function CutsDrawing({ out, show }: DrawingProps) {
  const all = list<number[]>(out, "bars");
  const bars = all.slice(0, 8);
  const [bar, kerf] = [num(out, "barMm"), num(out, "kerfMm")];
  const s = 680 / Math.max(bar, 1);
  return (
    <g>
      {bars.map((pieces, i) => {
        let x = 40;
        const y = 100 + i * 37;
        return (
          <g key={i}>
            <rect x="40" y={y} width="680" height="22" fill="none" stroke={CHALK2} strokeDasharray="4 4" />
            {pieces.map((p, n) => {
              const at = x;
              x += (p + kerf) * s;
              return (
                <g key={n}>
                  <rect x={f(at)} y={y} width={f(p * s)} height="22" fill={P3} stroke={GUIDE} />
                  {p * s > 40 && (
                    <text className="fine" x={f(at + (p * s) / 2)} y={y + 16} textAnchor="middle" fontSize="12.5" fill={INK}>
                      {show(p)}
                    </text>
                  )}
                </g>
              );
            })}
          </g>
        );
      })}
      {all.length > bars.length && (
        <Say x={720} y={424} anchor="end" size={13} colour={CHALK2}>
          and {all.length - bars.length} more
        </Say>
      )}
      <ScaleBar perMm={s} y={422} />
    </g>
  );
}

/** A timber in the box, and the hand of a clock. */
export function SteamDrawing({ out }: DrawingProps) {
  const minutes = num(out, "minutes");
  const thick = Math.max(6, Math.min(90, num(out, "thicknessMm") * 1.6));
  // Once round is so many whole hours that it is enough.
  const hours = Math.max(1, Math.ceil(minutes / 60));
  const turn = Math.min(0.9999, minutes / (60 * hours)) * 2 * Math.PI;
  const [cx, cy, r] = [636, 180, 86];
  return (
    <g>
      <rect x="60" y="110" width="400" height="150" fill={GUIDE3} stroke={CHALK} strokeWidth="3" />
      <rect x="90" y={f(185 - thick / 2)} width="400" height={f(thick)} fill={P3} stroke={GUIDE} />
      {[140, 230, 320, 410].map((x) => (
        <path key={x} d={`M${x},100c-10,-16 10,-22 0,-38s10,-20 0,-34`} fill="none" stroke={CHALK2} strokeWidth="2.5" />
      ))}
      <Dim from={[520, 185 - thick / 2]} to={[520, 185 + thick / 2]} />
      <path d="M150,300V265" stroke={CHALK2} strokeDasharray="3 3" />
      <circle cx={cx} cy={cy} r={r} fill="none" stroke={CHALK} strokeWidth="3" />
      <path
        d={`M${cx},${cy}V${cy - r}A${r} ${r} 0 ${turn > Math.PI ? 1 : 0} 1 ${f(cx + r * Math.sin(turn))},${f(cy - r * Math.cos(turn))}Z`}
        fill={CHALK2}
        fillOpacity=".45"
      />
      <Say x={cx} y={cy + r + 30} size={22} bold>
        {minutes.toFixed(0)} min
      </Say>
      <Say x={cx} y={cy + r + 48} size={12.5} colour={CHALK2}>
        once round is {hours} h
      </Say>
      <path d="M80,470C250,470 330,440 420,360" fill="none" stroke={P3} strokeWidth={f(thick / 2)} />
    </g>
  );
}

/** A box to scale. */
export function TankDrawing({ out }: DrawingProps) {
  const [l, w, h] = [num(out, "lengthMm"), num(out, "widthMm"), num(out, "heightMm")];
  const s = Math.min(420 / Math.max(l + w * 0.45, 1), 320 / Math.max(h + w * 0.35, 1));
  const [dx, dy] = [w * 0.45 * s, -w * 0.35 * s];
  const [x0, y0] = [150, 410];
  const [x1, y1] = [x0 + l * s, y0 - h * s];
  return (
    <g>
      <path
        d={`M${x0},${f(y1)}l${f(dx)},${f(dy)}H${f(x1 + dx)}L${f(x1)},${f(y1)}Z`}
        fill={P3}
        fillOpacity=".3"
        stroke={CHALK}
        strokeWidth="2"
      />
      <path
        d={`M${f(x1)},${y0}l${f(dx)},${f(dy)}V${f(y1 + dy)}L${f(x1)},${f(y1)}Z`}
        fill={P4}
        fillOpacity=".4"
        stroke={CHALK}
        strokeWidth="2"
      />
      <rect x={x0} y={f(y1)} width={f(l * s)} height={f(h * s)} fill={P3} fillOpacity=".5" stroke={CHALK} strokeWidth="2" />
      <Dim from={[x0, y0 + 14]} to={[x1, y0 + 14]} />
      <Dim from={[x0 - 14, y0]} to={[x0 - 14, y1]} />
      <Dim from={[x1 + 12, y0 + 4]} to={[x1 + dx + 12, y0 + dy + 4]} />
      <Say x={x0 + (l * s) / 2} y={y1 + (h * s) / 2 + 8} size={24} bold>
        {num(out, "litres").toFixed(1)} L
      </Say>
      <ScaleBar perMm={s} />
    </g>
  );
}

/** The circuit, and the sizes of the table as they lie against what is needed. */
export function WireDrawing({ out }: DrawingProps) {
  const wires = list<{ mm2: number; amps: number }>(out, "wires");
  const needed = num(out, "needed");
  const size = out.size;
  const r = (mm2: number) => Math.sqrt(mm2 / Math.PI) * 6;
  let x = 60;
  return (
    <g>
      <path d="M100,140H660V220" fill="none" stroke={CHALK} strokeWidth="4" />
      <path d="M100,140V300H660V220" fill="none" stroke={P4} strokeWidth="4" />
      <rect x="180" y="129" width="70" height="22" rx="4" fill={GUIDE} stroke={CHALK} strokeWidth="2" />
      <path d="M186,140H244" stroke={CHALK} />
      <Say x={215} y={118} size={14} bold colour={out.fuse == null ? OXIDE_LT : CHALK}>
        {typeof out.fuse === "number" ? `fuse ${out.fuse} A` : "no fuse"}
      </Say>
      <Say x={520} y={128} size={14} bold>
        {typeof size === "number" ? `${size} mm²` : ""}
      </Say>
      <Say x={520} y={320} size={13} colour={CHALK2}>
        {typeof out.dropV === "number" ? `${out.dropV.toFixed(2)} V lost, there and back` : ""}
      </Say>
      <Say x={60} y={366} anchor="start" size={13} colour={CHALK2}>
        the table, as thick as they are; needed {needed.toFixed(2)} mm²
      </Say>
      {wires.slice(0, 14).map((w) => {
        const at = x + r(w.mm2);
        x += 2 * r(w.mm2) + 26;
        return (
          <g key={`${w.mm2} ${w.amps}`}>
            <circle
              cx={f(at)}
              cy="420"
              r={f(r(w.mm2))}
              fill={w.mm2 === size ? CHALK : GUIDE3}
              stroke={w.mm2 + 1e-9 < needed ? OXIDE_LT : CHALK}
              strokeWidth="2"
            />
            <Say x={at} y={476} size={12.5} bold={w.mm2 === size}>
              {w.mm2}
            </Say>
          </g>
        );
      })}
    </g>
  );
}

/** What tooling costs, and what each set gives back of it. */
export function ToolingDrawing({ out }: DrawingProps) {
  const [tooling, margin] = [num(out, "tooling"), num(out, "margin")];
  const sets = typeof out.sets === "number" ? out.sets : null;
  const last = Math.max(4, Math.ceil((sets ?? 20) * 1.3));
  const top = Math.max(tooling, margin * last, 1);
  const x = (n: number) => 80 + (600 * n) / last;
  const y = (v: number) => 420 - (330 * Math.max(0, v)) / top;
  return (
    <g>
      <path d="M80,70V420H700" fill="none" stroke={CHALK2} strokeWidth="2" />
      <path d={`M80,${f(y(tooling))}H690`} stroke={CHALK2} strokeDasharray="6 4" />
      <path d={`M80,420L${f(x(last))},${f(y(margin * last))}`} stroke={margin > 0 ? CHALK : OXIDE_LT} strokeWidth="3" />
      {sets !== null && sets > 0 && (
        <g>
          <path d={`M${f(x(sets))},420V${f(y(margin * sets))}`} stroke={CHALK} strokeDasharray="3 3" />
          <circle cx={f(x(sets))} cy={f(y(margin * sets))} r="6" fill={CHALK} />
          <Say x={x(sets)} y={442} size={18} bold>
            {sets} sets
          </Say>
        </g>
      )}
      <Say x={690} y={y(tooling) - 8} anchor="end" size={13} colour={CHALK2}>
        earned back
      </Say>
    </g>
  );
}
