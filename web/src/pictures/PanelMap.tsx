import { type KeyboardEvent, type ReactNode, useId, useMemo, useRef } from "react";
import type { Schemas } from "../api/client";
import { COAT_ORDER, coatName, HELD_ORDER, heldName, hm, scaleMark } from "../format";
import { boxOf, f, mapPath, middleOf, pointAt } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, inkOn, P4 } from "../tokens";
import { FinishDefs, isWood, Swatch, tint } from "./finishes";
import { useLasso } from "./useLasso";

type Body = Schemas["BodyView"];
type MapPoint = Schemas["MapPoint"];
type Panel = Body["panels"][number];
type State = Schemas["PanelState"];

/** How an edge is drawn for how the panel is held: from open dots to a closed line. */
const EDGE: Record<Schemas["Held"], { dash?: string; width: number; opacity: number }> = {
  away: { dash: "2 5", width: 1.1, opacity: 0.8 },
  loose: { dash: "1 7", width: 1.6, opacity: 0.9 },
  clamped: { dash: "10 6 2 6", width: 1.4, opacity: 0.9 },
  screwed: { dash: "0.1 9", width: 2.6, opacity: 0.95 },
  bolted: { dash: "0.1 15", width: 4, opacity: 0.95 },
  tacked: { dash: "3 4", width: 1.8, opacity: 0.95 },
  weldedOut: { width: 1.2, opacity: 0.75 },
  dressed: { width: 0.8, opacity: 0.34 },
};

/** The state of a panel in words, as its name for those who do not see it. */
export function panelWords(name: string, s: State): string {
  const zones = s.zones.map(
    (z) =>
      `${z.zone}: ${[z.coat && coatName(z.coat), z.replace && "to be replaced", z.newMetal && "new metal let in"].filter(Boolean).join(", ")}`,
  );
  return [
    name,
    s.held === "away" ? "away" : coatName(s.coat),
    s.held !== "away" && heldName(s.held),
    s.replace && "to be replaced",
    s.newMetal && "new metal let in",
    ...zones,
    ...s.temporaryMetal.map((t) => `temporary metal: ${t}`),
  ]
    .filter(Boolean)
    .join(", ");
}

/** Every "x,y" negated in x, for what belongs to a right-hand panel and is drawn on the left one. */
const mirrored = (path: string) => mapPath(path, (x, y) => [-x, y]);

type Hands = { name: string; minutes: number; panels: string[] };

type Props = {
  body: Body;
  states: State[];
  paint: string;
  width: number;
  height: number;
  hands?: Hands[];
  selected?: string | null;
  onPick?: (panel: string, at: MapPoint) => void;
  /** An area is drawn by hand instead of a tap. */
  onDraw?: (panel: string, area: MapPoint[]) => void;
  labels?: boolean;
  ruler?: boolean;
  legend?: boolean;
  /** Panels that nobody has looked at: drawn dark, and said so. */
  dark?: ReadonlySet<string>;
  /** What is marked on top, in centimetres of the body; `one` is a pixel. */
  overlay?: (one: number) => ReactNode;
  /** Where that stands, in the same centimetres: labels give way to it. */
  marked?: readonly { x: number; y: number }[];
  /** Nose to the left, for a wide place; without labels, ruler and legend. */
  lying?: boolean;
};

type Fit = { x: number; y: number; turned: boolean; lines: { text: string; bold: boolean }[] };

/** Label rooms are measured for lines of this many centimetres. */
const ROOM_LINE = 10.5;

/** Height of a label's line and sizes of its type, in pixels: as large as the rooms allow; null where it could not be read. */
export function labelType(px: number): { line: number; name: number; coat: number } | null {
  const line = Math.min(13, ROOM_LINE * px);
  return line < 10 ? null : { line, name: (line * 12) / 13, coat: (line * 11.5) / 13 };
}

type LabelType = NonNullable<ReturnType<typeof labelType>>;

/** About how wide a line of a label is, in centimetres of the body. */
const lineWidth = (text: string, bold: boolean, px: number, type: LabelType) =>
  (text.length * (bold ? type.name * 0.475 : type.coat * 0.445)) / px;

/** Pixels from the middle of a mark within which no word stands, and how far a label moves before it is left out. */
const MARK_ROOM = 13;
const MOST_MOVED = 46;

/** A label moved along its panel so that no mark lies on it; null where it would leave its place: the mark's own list names the panel. */
export function besideMarks(
  fit: Fit,
  type: LabelType,
  px: number,
  marked: readonly { x: number; y: number }[],
  box: { y0: number; y1: number },
): Fit | null {
  const widths = fit.lines.map((l) => lineWidth(l.text, l.bold, px, type));
  const long = (fit.turned ? widths.reduce((a, b) => a + b, 0) : Math.max(...widths)) / 2;
  const high = ((fit.turned ? 1 : fit.lines.length) * type.line) / px / 2;
  const [across, along] = fit.turned ? [high, long] : [long, high];
  const room = MARK_ROOM / px;
  const near = marked.filter((m) => Math.abs(m.x - fit.x) < across + room);
  const free = (y: number) => near.every((m) => Math.abs(m.y - y) >= along + room - 1e-6);
  return (
    [fit.y, ...near.flatMap((m) => [m.y - along - room, m.y + along + room])]
      .filter((y) => free(y) && (y === fit.y || (y - along >= box.y0 && y + along <= box.y1 && Math.abs(y - fit.y) <= MOST_MOVED / px)))
      .sort((a, b) => Math.abs(a - fit.y) - Math.abs(b - fit.y))
      .map((y) => ({ ...fit, y }))[0] ?? null
  );
}

/** The first arrangement of name and coat that the panel has room for. */
function fitLabel(panel: Panel, wear: string, px: number, type: LabelType): Fit | null {
  const wide = (text: string, bold: boolean) => lineWidth(text, bold, px, type);
  const box = (n: number) => panel.labels.find((l) => !l.turned && l.lines === n);
  const turned = panel.labels.find((l) => l.turned);
  const name = { text: panel.name, bold: true };
  const coat = { text: wear, bold: false };
  const words = panel.name.split(" ").map((text) => ({ text, bold: true }));
  const tries: [number, typeof words][] = [
    [2, [name, coat]],
    [
      3,
      [
        ...(words.slice(0, -1).length
          ? [
              {
                text: words
                  .slice(0, -1)
                  .map((w) => w.text)
                  .join(" "),
                bold: true,
              },
            ]
          : []),
        words[words.length - 1] ?? name,
        coat,
      ],
    ],
    [1, [name]],
    [2, words.length === 2 ? words : []],
  ];
  for (const [n, lines] of tries) {
    const room = box(n);
    if (room && lines.length === n && room.width >= Math.max(...lines.map((l) => wide(l.text, l.bold))) + 3)
      return { x: room.x, y: room.y, turned: false, lines };
  }
  if (turned) {
    const both = wide(`${panel.name} ${wear}`, true);
    if (turned.width >= both + 3) return { x: turned.x, y: turned.y, turned: true, lines: [name, coat] };
    if (turned.width >= wide(panel.name, true) + 3) return { x: turned.x, y: turned.y, turned: true, lines: [name] };
  }
  return null;
}

/**
 * A body laid flat, each zone in its real finish and each panel in how it is held. Panels are named things that can be
 * reached by Tab in shop order and picked by Enter.
 */
export function PanelMap({
  body,
  states,
  paint,
  width,
  height,
  hands = [],
  selected,
  onPick,
  onDraw,
  labels = true,
  ruler = true,
  legend = true,
  lying = false,
  dark,
  overlay,
  marked = [],
}: Props) {
  const id = useId().replace(/:/g, "");
  const group = useRef<SVGGElement>(null);
  const lasso = useLasso(group, onDraw);
  const state = useMemo(() => new Map(states.map((s) => [s.panel, s])), [states]);
  const right = legend ? 196 : 8;
  const left = ruler ? 62 : 8;
  const [long, wide] = [body.maxY - body.minY, body.maxX - body.minX];
  const scale = lying
    ? Math.min((width - 20) / long, (height - 20) / wide)
    : Math.min((width - left - right) / (wide + 6), (height - 26) / long);
  const ox = left + (width - left - right) / 2;
  const oy = 12 - body.minY * scale;
  const one = 1 / scale;
  const order = useMemo(() => {
    const rank = { centre: 0, left: 1, right: 2 };
    return [...body.panels].sort((a, b) => rank[a.side] - rank[b.side] || boxOf(a.path).y0 - boxOf(b.path).y0);
  }, [body.panels]);
  const of = (key: string): State =>
    state.get(key) ?? {
      panel: key,
      coat: "asFound",
      held: "dressed",
      coats: [],
      zones: [],
      replace: false,
      newMetal: false,
      temporaryMetal: [],
    };
  const move = (e: KeyboardEvent, i: number) => {
    const to = e.key === "ArrowRight" || e.key === "ArrowDown" ? i + 1 : e.key === "ArrowLeft" || e.key === "ArrowUp" ? i - 1 : null;
    if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      const panel = order[i];
      if (panel) onPick?.(panel.key, middleOf(panel.path));
    } else if (to !== null) {
      e.preventDefault();
      group.current?.querySelectorAll<SVGGElement>("[data-panel]")[(to + order.length) % order.length]?.focus();
    }
  };
  return (
    <svg
      className="map on-guide block w-full"
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={`${body.name}, laid flat: ${body.panels.length} panels`}
    >
      <FinishDefs prefix={id} paint={paint} scale={scale} />
      <rect width={width} height={height} fill={GUIDE} />
      {ruler && <Ruler ox={8} oy={oy} scale={scale} from={body.minY} to={body.maxY} />}
      <g
        transform={
          lying
            ? `translate(${f((width - long * scale) / 2 - body.minY * scale)},${f(height / 2)}) rotate(-90) scale(${scale.toFixed(4)})`
            : `translate(${f(ox)},${f(oy)}) scale(${scale.toFixed(4)})`
        }
        ref={group}
      >
        {order.map((p, i) => {
          const s = of(p.key);
          const edge = EDGE[s.held];
          const away = s.held === "away";
          const wood = isWood(s.coat);
          const on = hands.some((h) => h.panels.includes(p.key));
          const picked = selected === p.key;
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: it is a button wherever it can be picked
            // biome-ignore lint/a11y/useAriaPropsSupportedByRole: it is a button wherever it can be picked
            <g
              key={p.key}
              data-panel={p.key}
              role={onPick ? "button" : "img"}
              tabIndex={onPick ? 0 : undefined}
              aria-label={dark?.has(p.key) ? `${p.name}, not looked at` : panelWords(p.name, s)}
              aria-pressed={onPick ? picked : undefined}
              onClick={(e) => !onDraw && onPick?.(p.key, pointAt(group.current, e) ?? middleOf(p.path))}
              {...lasso.on(p.key)}
              onKeyDown={onPick ? (e) => move(e, i) : undefined}
            >
              <path d={p.path} fill={away ? GUIDE3 : `url(#${id}-${s.coat})`} fillOpacity={away ? 0.35 : 1} />
              {dark?.has(p.key) && <path d={p.path} fill={GUIDE} fillOpacity=".82" />}
              {!away && s.zones.length > 0 && (
                <>
                  <clipPath id={`${id}-${p.key}`}>
                    <path d={p.path} />
                  </clipPath>
                  <g clipPath={`url(#${id}-${p.key})`}>
                    {s.zones.map((z) => {
                      const d = p.side === "left" ? mirrored(p.zones[z.zone] ?? "") : p.zones[z.zone];
                      return (
                        <g key={z.zone}>
                          {z.coat && <path d={d} fill={`url(#${id}-${z.coat})`} />}
                          {z.newMetal && <path d={d} fill={`url(#${id}-newMetal)`} />}
                          {z.replace && <path d={d} fill={`url(#${id}-replace)`} />}
                        </g>
                      );
                    })}
                  </g>
                </>
              )}
              {!away && !wood && <path d={p.path} fill={`url(#${id}-${p.side === "centre" ? "crown" : "side"})`} transform={undefined} />}
              {!away && s.newMetal && <path d={p.path} fill={`url(#${id}-newMetal)`} />}
              {!away && s.replace && <path d={p.path} fill={`url(#${id}-replace)`} />}
              <path
                className="edge"
                d={p.path}
                fill="none"
                stroke={on || picked || s.held !== "dressed" ? CHALK : "#FFFFFF"}
                strokeWidth={(on ? 1.8 : picked ? 2.4 : edge.width) * one}
                strokeOpacity={on || picked ? 1 : edge.opacity}
                strokeDasharray={
                  on
                    ? undefined
                    : edge.dash
                        ?.split(" ")
                        .map((v) => Number(v) * one)
                        .join(" ")
                }
                strokeLinecap="round"
              />
            </g>
          );
        })}
        <g pointerEvents="none">
          <g fill="none" stroke={P4} strokeWidth={one} strokeDasharray={`${4 * one} ${3 * one}`}>
            {body.openings.map((d) => (
              <path key={d} d={d} />
            ))}
          </g>
          <g fill="none" stroke="#1B2023" strokeOpacity=".42" strokeWidth=".8" strokeLinecap="round">
            {body.decor.dark.map((d) => (
              <path key={d} d={d} />
            ))}
          </g>
          <g fill="none" stroke="#FFFFFF" strokeOpacity=".4" strokeWidth=".65" strokeLinecap="round">
            {body.decor.light.map((d) => (
              <path key={d} d={d} />
            ))}
          </g>
          <g fill="#1B2023" fillOpacity=".55">
            {body.decor.handles.map((d) => (
              <path key={d} d={d} />
            ))}
          </g>
          <path d={body.decor.grille} fill="#1B2023" fillOpacity=".8" stroke="#14181A" strokeOpacity=".7" strokeWidth="1.4" />
          {body.decor.lamps.map((l) => (
            <g key={`${l.x} ${l.y}`}>
              <circle cx={l.x} cy={l.y} r={l.r} fill={GUIDE} stroke={l.kind ? "#FFFFFF" : "none"} strokeOpacity=".4" strokeWidth=".8" />
              {l.kind > 0 && <circle cx={l.x} cy={l.y} r={l.r * 0.7} fill="none" stroke={l.kind === 1 ? GUIDE3 : P4} strokeWidth=".8" />}
            </g>
          ))}
          {body.decor.bolts.map((b) => (
            <circle key={`${b.x} ${b.y}`} cx={b.x} cy={b.y} r="1.3" fill="#14181A" fillOpacity=".75" />
          ))}
          {order
            .filter((p) => of(p.key).temporaryMetal.length > 0)
            .map((p) => (
              <Brace key={p.key} path={p.path} one={one} />
            ))}
          {labels &&
            order.map((p) => (
              <Label key={p.key} panel={p} state={of(p.key)} paint={paint} px={scale} dim={dark?.has(p.key) ?? false} marked={marked} />
            ))}
        </g>
        {overlay?.(one)}
        {lasso.drawn}
      </g>
      <HandsMarks hands={hands} body={body} ox={ox} oy={oy} scale={scale} />
      {legend && <Legend id={id} x={width - 176} states={body.panels.map((p) => of(p.key))} />}
    </svg>
  );
}

/** Marks along the body in the shop's unit, with a short one halfway between. */
function Ruler({ ox, oy, scale, from, to }: { ox: number; oy: number; scale: number; from: number; to: number }) {
  const { mm, unit } = scaleMark();
  const half = mm / 20;
  const marks = Array.from({ length: Math.floor(to / half) + 1 }, (_, i) => i).filter((i) => i * half >= from - 20);
  return (
    <g aria-hidden="true">
      {marks.map((i) => (
        <g key={i}>
          <path d={`M${ox},${f(oy + i * half * scale)}h${i % 2 ? 10 : 16}`} stroke={GUIDE3} />
          {i % 2 === 0 && (
            <text x={ox + 20} y={f(oy + i * half * scale + 4)} fontSize="12" fill={CHALK2}>
              {i / 2}
              {i === 0 ? ` ${unit}` : ""}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

type LabelProps = { panel: Panel; state: State; paint: string; px: number; dim: boolean; marked: readonly { x: number; y: number }[] };

function Label({ panel, state, paint, px, dim, marked }: LabelProps) {
  const away = state.held === "away" || dim;
  const ground = away ? GUIDE : tint(state.coat, paint);
  const type = labelType(px);
  const room = type && fitLabel(panel, dim ? "dark" : away ? "away" : coatName(state.coat), px, type);
  const fit = room && besideMarks(room, type, px, marked, boxOf(panel.path));
  if (!fit) return null;
  const one = 1 / px;
  // The mouth of the grille takes the upper half of the nose.
  const y = panel.key === "nose" ? fit.y + 9 : fit.y;
  const ink = away ? CHALK2 : inkOn(ground);
  if (fit.turned) {
    return (
      <text
        transform={`translate(${f(fit.x)},${f(fit.y)}) rotate(${fit.x < 0 ? -90 : 90})`}
        dy={4 * one}
        textAnchor="middle"
        fill={ink}
        stroke={ground}
        className="halo"
        style={{ strokeWidth: 3 * one }}
      >
        {fit.lines.map((l, i) => (
          <tspan
            key={l.text}
            className={l.bold ? "pn" : "ps"}
            dx={i ? 4 * one : 0}
            style={{ fontSize: (l.bold ? type.name : type.coat) * one }}
          >
            {l.text}
          </tspan>
        ))}
      </text>
    );
  }
  return (
    <text
      x={fit.x}
      y={y - (type.line * fit.lines.length * one) / 2 + type.line * 0.77 * one}
      textAnchor="middle"
      fill={ink}
      stroke={ground}
      className="halo"
      style={{ strokeWidth: 3 * one }}
    >
      {fit.lines.map((l, i) => (
        <tspan
          key={l.text + i}
          x={fit.x}
          dy={i ? type.line * one : 0}
          className={l.bold ? "pn" : "ps"}
          style={{ fontSize: (l.bold ? type.name : type.coat) * one }}
        >
          {l.text}
        </tspan>
      ))}
    </text>
  );
}

/** Temporary metal: a chalked bar across what it blocks. */
function Brace({ path, one }: { path: string; one: number }) {
  const { x0, y0, x1, y1 } = boxOf(path);
  const d = `M${f(x0 + 4)},${f(y0 + 10)}L${f(x1 - 4)},${f(y1 - 10)}`;
  return (
    <g fill="none" strokeLinecap="round">
      <path d={d} stroke="#14181A" strokeWidth={7 * one} strokeOpacity=".8" />
      <path d={d} stroke={CHALK} strokeWidth={4 * one} />
      <path d={d} stroke="#14181A" strokeWidth={1.4 * one} />
    </g>
  );
}

function HandsMarks({ hands, body, ox, oy, scale }: { hands: Hands[]; body: Body; ox: number; oy: number; scale: number }) {
  const sides = { left: 0, right: 0 };
  return (
    <g aria-hidden="true">
      {hands.map((h) => {
        const first = body.panels.find((p) => h.panels.includes(p.key));
        const box = first ? boxOf(first.path) : { x0: 0, x1: 0, y0: body.minY + 60, y1: body.minY + 60 };
        const side = (box.x0 + box.x1) / 2 < 0 ? "left" : "right";
        const y = oy + ((box.y0 + box.y1) / 2) * scale + 34 * sides[side]++;
        const x = side === "left" ? ox + body.minX * scale - 4 : ox + body.maxX * scale + 6;
        return (
          <g key={h.name} transform={`translate(${f(x)},${f(y)})`}>
            <circle cx={side === "left" ? -2 : 2} cy={-4} r="4.5" fill={GUIDE} stroke={CHALK} strokeWidth="1.6" />
            <text
              x={side === "left" ? -10 : 10}
              y="0"
              textAnchor={side === "left" ? "end" : "start"}
              fill={CHALK}
              fontSize="13"
              fontWeight="650"
            >
              {h.name}
              <tspan x={side === "left" ? -10 : 10} dy="14" fontSize="11.5" fontWeight="450">
                {hm(h.minutes)}
              </tspan>
            </text>
          </g>
        );
      })}
    </g>
  );
}

function Legend({ id, x, states }: { id: string; x: number; states: State[] }) {
  const coats = COAT_ORDER.map((c) => ({ coat: c, n: states.filter((s) => s.held !== "away" && s.coat === c).length })).filter(
    (c) => c.n > 0,
  );
  const held = HELD_ORDER.map((h) => ({ held: h, n: states.filter((s) => s.held === h).length })).filter((h) => h.n > 0);
  const replace = states.filter((s) => s.replace || s.zones.some((z) => z.replace)).length;
  const added = states.filter((s) => s.newMetal || s.zones.some((z) => z.newMetal)).length;
  const metal = states.filter((s) => s.temporaryMetal.length > 0).length;
  const y2 = 46 + coats.length * 18 + 24;
  const y3 = y2 + 16 + held.length * 18 + 22;
  return (
    <g fontSize="12" fill={CHALK} aria-hidden="true">
      <text x={x} y={24} fontSize="13" fontWeight="650">
        What the panels wear
      </text>
      {coats.map((c, i) => (
        <g key={c.coat}>
          <Swatch prefix={id} coat={c.coat} x={x} y={35 + i * 18} />
          <text x={x + 38} y={47 + i * 18}>
            {coatName(c.coat)}
          </text>
          <text x={x + 164} y={47 + i * 18} textAnchor="end" fill={CHALK2}>
            {c.n}
          </text>
        </g>
      ))}
      <text x={x} y={y2} fontSize="13" fontWeight="650">
        How they are held
      </text>
      {held.map((h, i) => (
        <g key={h.held}>
          <path
            d={`M${x + 1},${y2 + 14 + i * 18}h28`}
            stroke={CHALK}
            strokeWidth={EDGE[h.held].width}
            strokeDasharray={EDGE[h.held].dash}
            strokeLinecap="round"
          />
          <text x={x + 38} y={y2 + 18 + i * 18}>
            {heldName(h.held)}
          </text>
          <text x={x + 164} y={y2 + 18 + i * 18} textAnchor="end" fill={CHALK2}>
            {h.n}
          </text>
        </g>
      ))}
      {replace > 0 && <Mark x={x} y={y3} fill={`url(#${id}-replace)`} text="to be replaced" n={replace} ground />}
      {added > 0 && <Mark x={x} y={y3 + (replace ? 18 : 0)} fill={`url(#${id}-newMetal)`} text="new metal let in" n={added} />}
      {metal > 0 && (
        <text x={x} y={y3 + (replace ? 18 : 0) + (added ? 18 : 0) + 12}>
          temporary metal on {metal}
        </text>
      )}
    </g>
  );
}

function Mark({ x, y, fill, text, n, ground }: { x: number; y: number; fill: string; text: string; n: number; ground?: boolean }) {
  return (
    <g>
      <rect x={x} y={y} width="30" height="15" fill={ground ? "#565D60" : "#8C969B"} />
      <rect x={x} y={y} width="30" height="15" fill={fill} />
      <text x={x + 38} y={y + 12}>
        {text}
      </text>
      <text x={x + 164} y={y + 12} textAnchor="end" fill={CHALK2}>
        {n}
      </text>
    </g>
  );
}
