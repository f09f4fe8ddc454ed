import { type KeyboardEvent, type PointerEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { dateOf, days as daysText, hours, soonDay, timeOf, weekday } from "../format";
import { OXIDE } from "../tokens";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { type Axis, atX, axisOf, panned, showing, USUAL, xOf, zoomed } from "./axis";
import { DATES, drawDates, drawLanes, drawPromises, forgetWidths, type Link, PROMISE, penOf } from "./drawPlan";
import { type Block, beside, type Carried, type Lanes, type Row, rowsOf, type Work } from "./laneRows";
import { pinOf, pinWords } from "./usePins";

type View = Schemas["LanesView"];

/** Space above and below the promises on their board. */
const BOARD_EDGE = 12;
const STEP = 1.25;

/** Whether it can be held until another day. */
const isCarried = (w: Work) => !w.worked && !w.cures && w.operationId !== null;

/** A block in words, for those who do not see it. */
export function told(block: Block, view: View): string {
  const w = block.work;
  const build = view.builds.find((b) => b.id === w.buildId);
  const place = view.places.find((p) => p.id === w.placeId)?.name;
  const people = w.people.map((id) => view.people.find((p) => p.id === id)?.name).filter(Boolean);
  return [
    `${build?.number ?? ""} ${w.name}`,
    place ?? (w.away ? "at a supplier" : null),
    ...people,
    `${weekday(dateOf(w.start))} ${timeOf(w.start)} to ${weekday(dateOf(w.finish))} ${timeOf(w.finish)}`,
    w.worked ? "worked" : null,
    pinWords(pinOf(w), view) ? `pinned: ${pinWords(pinOf(w), view)}` : null,
    ...w.broken,
    w.asks ? "an open question stops it" : null,
    w.dryUntil ? `dries until ${weekday(dateOf(w.dryUntil))} ${timeOf(w.dryUntil)}` : null,
  ]
    .filter((t) => t !== null)
    .join(", ");
}

/** The axis over a width that may change, and what moves it. Drawn at once, without asking React. */
function useAxis(view: View, box: RefObject<HTMLDivElement | null>, draw: (a: Axis) => void) {
  const axis = useRef<Axis | null>(null);
  const pending = useRef(0);
  const drawn = useRef(draw);
  drawn.current = draw;
  const set = (a: Axis) => {
    axis.current = a;
    if (pending.current) return;
    pending.current = requestAnimationFrame(() => {
      pending.current = 0;
      if (axis.current) drawn.current(axis.current);
    });
  };
  const refit = useRef(() => undefined as unknown);
  refit.current = () => {
    const width = box.current?.clientWidth ?? 0;
    if (width < 50) return;
    const a = axis.current;
    set(axisOf(view.days, width, a?.from ?? 0, a?.near ?? usual(width)));
  };
  // What is drawn is another after each render: what is chosen, what the plan says.
  useEffect(() => void refit.current());
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => refit.current());
    watch.observe(el);
    // What is drawn before the fonts have come has other letters.
    void document.fonts?.ready.then(() => {
      forgetWidths();
      refit.current();
    });
    return () => watch.disconnect();
  }, [box]);
  useEffect(
    () => () => {
      cancelAnimationFrame(pending.current);
      pending.current = 0;
    },
    [],
  );
  return { axis, set };
}

/** Seven weeks on a desk, and on a phone as many days as keep their letters. */
const usual = (width: number) => Math.max(USUAL, Math.min(USUAL * 1.2, width / 60));

/** Each of the chain holds the one before it, from what is chosen to the root; and what is chosen holds what follows. */
export function linksOf(at: string | null, chain: { holders: readonly string[]; followers: readonly string[] }): Link[] {
  const chosen = at?.split(" ").at(-1);
  if (!chosen) return [];
  return [
    ...chain.holders.map((from, i) => ({ from, to: chain.holders[i - 1] ?? chosen })),
    ...chain.followers.map((to) => ({ from: chosen, to })),
  ];
}

/** Every build's promise and all work on one axis of time. */
export function PlanPicture(p: {
  view: View;
  lanes: Lanes;
  /** The block the reader is at; by its key. */
  at: string | null;
  /** What holds it and what it holds, by the keys of their work. */
  chain: { holders: readonly string[]; followers: readonly string[] };
  onAt: (block: Block | null) => void;
  onAsk: () => void;
  /** Where work is dragged to, day by day and lane by lane; null: it is let go of. Absent: whoever looks moves nothing. */
  onDrag?: (to: Carried | null) => void;
  onDrop?: (to: Carried) => void;
  /** What letting go there would do. */
  dropWords?: string | null;
}) {
  const { view } = p;
  const box = useRef<HTMLDivElement>(null);
  const [top, board, field] = [useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null)];
  const { rows, heads, height } = useMemo(() => rowsOf(view, p.lanes), [view, p.lanes]);
  const boardHeight = view.builds.length * PROMISE + BOARD_EDGE;
  const where = useRef<ReturnType<typeof drawLanes>>([]);
  const hover = useRef<string | null>(null);
  const [said, setSaid] = useState("");
  const dropBox = useRef<HTMLParagraphElement>(null);
  const carried = useRef<{ key: string; dx: number; dy: number } | null>(null);
  const marked = { at: p.at, links: linksOf(p.at, p.chain) };
  const nowLabel = `${weekday(view.today).split(" ")[0]?.replace(",", "") ?? ""} ${Number(view.today.slice(8))}`;

  const draw = (a: Axis) => {
    const pens = [
      top.current && penOf(top.current, a.width, DATES),
      board.current && penOf(board.current, a.width, boardHeight),
      field.current && penOf(field.current, a.width, height),
    ] as const;
    if (pens[0]) drawDates(pens[0], a, view, nowLabel);
    if (pens[1]) drawPromises(pens[1], a, view, boardHeight);
    if (pens[2]) where.current = drawLanes(pens[2], a, view, rows, height, { ...marked, hover: hover.current, carried: carried.current });
  };
  const { axis, set } = useAxis(view, box, draw);
  const slide = (to: (a: Axis) => Axis) => axis.current && set(to(axis.current));
  const redraw = () => slide((a) => a);

  const blocks = useMemo(() => new Map(rows.flatMap((r) => r.blocks.map((b) => [b.key, b] as const))), [rows]);
  const current = p.at ? blocks.get(p.at) : undefined;
  const goTo = (block: Block | undefined) => {
    if (!block || !axis.current) return;
    set(showing(view.days, axis.current, block.parts[0]?.from ?? 0));
    p.onAt(block);
  };
  const found = (e: { clientX: number; clientY: number }) => {
    const r = field.current?.getBoundingClientRect();
    if (!r) return undefined;
    const [x, y] = [e.clientX - r.left, e.clientY - r.top];
    return where.current.findLast((w) => x >= w.x0 - 2 && x <= w.x1 + 2 && y >= w.y0 - 2 && y <= w.y1 + 2)?.block;
  };

  const drag = useRef<{ x: number; y: number; moved: boolean; block: Block | undefined; told: string } | null>(null);
  const down = (e: PointerEvent) => {
    if (e.button !== 0) return;
    const over = found(e);
    // Work that is done, that nobody does, or that the plan put in is not carried to another day; a finger moves the page.
    const carries = p.onDrag && over && isCarried(over.work) && e.pointerType !== "touch";
    drag.current = { x: e.clientX, y: e.clientY, moved: false, block: carries ? over : undefined, told: "" };
  };
  /** The day to which a block is carried. */
  const dayAt = (block: Block, dx: number) => {
    if (!axis.current) return null;
    const start = atX(axis.current, xOf(axis.current, block.parts[0]?.from ?? 0) + dx);
    return view.days.findLast((d) => Date.parse(d.from) <= start)?.date ?? null;
  };
  /** The lane over which it is, where that says something: a place's or a person's. */
  const laneAt = (e: PointerEvent) => {
    const y = e.clientY - (field.current?.getBoundingClientRect().top ?? 0);
    return rows.find((r) => y >= r.y && y < r.y + r.h && (r.kind === "place" || r.kind === "person")) ?? null;
  };
  const moved = (e: PointerEvent, d: { x: number; y: number }) => Math.abs(e.clientX - d.x) > 4 || Math.abs(e.clientY - d.y) > 4;
  const move = (e: PointerEvent) => {
    const d = drag.current;
    if (d && axis.current && (d.moved || moved(e, d))) {
      if (!d.moved) (e.currentTarget as Element).setPointerCapture(e.pointerId);
      d.moved = true;
      if (d.block) {
        carried.current = { key: d.block.key, dx: e.clientX - d.x, dy: e.clientY - d.y };
        const [on, lane] = [dayAt(d.block, e.clientX - d.x), laneAt(e)];
        const told = `${on} ${lane?.key}`;
        if (on && told !== d.told) p.onDrag?.({ work: d.block.work, on, lane });
        d.told = told;
        const r = box.current?.getBoundingClientRect();
        if (dropBox.current && r) {
          dropBox.current.style.left = `${Math.max(0, e.clientX - r.left - 40)}px`;
          dropBox.current.style.top = `${e.clientY - r.top + 60}px`;
        }
        redraw();
        return;
      }
      set(panned(view.days, axis.current, d.x - e.clientX));
      d.x = e.clientX;
      return;
    }
    const over = found(e);
    if ((over?.key ?? null) === hover.current) return;
    hover.current = over?.key ?? null;
    if (field.current) field.current.style.cursor = over ? "pointer" : "grab";
    setSaid(over ? told(over, view) : "");
    redraw();
  };
  const up = (e: PointerEvent) => {
    const d = drag.current;
    drag.current = null;
    if (d && !d.moved) p.onAt(found(e) ?? null);
    if (d?.moved && d.block) {
      const [on, lane] = [dayAt(d.block, e.clientX - d.x), laneAt(e)];
      leave();
      if (on) p.onDrop?.({ work: d.block.work, on, lane });
    }
  };
  const leave = () => {
    carried.current = null;
    p.onDrag?.(null);
    redraw();
  };
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const wheel = (e: WheelEvent) => {
      const a = axis.current;
      if (!a) return;
      const across = Math.abs(e.deltaX) > Math.abs(e.deltaY) ? e.deltaX : e.shiftKey ? e.deltaY : 0;
      if (!e.ctrlKey && !e.metaKey && across === 0) return;
      e.preventDefault();
      if (e.ctrlKey || e.metaKey) set(zoomed(view.days, a, e.clientX - el.getBoundingClientRect().left, e.deltaY < 0 ? STEP : 1 / STEP));
      else set(panned(view.days, a, across));
    };
    el.addEventListener("wheel", wheel, { passive: false });
    return () => el.removeEventListener("wheel", wheel);
  });

  const scale = (by: number) => slide((a) => zoomed(view.days, a, xOf(a, Date.parse(view.now)), by));
  const along = (keys: readonly string[]) => goTo(keys.map((k) => [...blocks.values()].find((b) => b.work.key === k)).find((b) => b));
  const keys = new Map<string, (shift: boolean) => void>([
    ["ArrowLeft", (shift) => (shift ? along(p.chain.holders) : goTo(beside(rows, p.at, "left")))],
    ["ArrowRight", (shift) => (shift ? along(p.chain.followers) : goTo(beside(rows, p.at, "right")))],
    ["ArrowUp", () => goTo(beside(rows, p.at, "up"))],
    ["ArrowDown", () => goTo(beside(rows, p.at, "down"))],
    ["Enter", () => p.onAsk()],
    [
      "Escape",
      () => {
        if (!carried.current) return p.onAt(null);
        drag.current = null;
        leave();
      },
    ],
    ["+", () => scale(STEP)],
    ["=", () => scale(STEP)],
    ["-", () => scale(1 / STEP)],
    ["Home", () => slide((a) => axisOf(view.days, a.width, a.first, a.near))],
    ["PageDown", () => slide((a) => panned(view.days, a, a.foldX * 0.8))],
    ["PageUp", () => slide((a) => panned(view.days, a, -a.foldX * 0.8))],
  ]);
  const key = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    const act = keys.get(e.key);
    if (!act) return;
    e.preventDefault();
    act(e.shiftKey);
  };

  return (
    <div className="plan-picture">
      <div className="plan-over">
        <Scales onScale={scale} onDay={slide} view={view} />
        <Legend freight={view.away.length > 0 && view.days.some((d) => d.freight)} />
      </div>
      <div className="plan-grid">
        <div style={{ height: DATES }} />
        <div ref={box} className="plan-dates" style={{ height: DATES }}>
          <canvas ref={top} aria-hidden="true" style={{ width: "100%", height: DATES }} />
        </div>
        <div className="plan-board-names" style={{ height: boardHeight, paddingTop: BOARD_EDGE / 2 }}>
          <Promises view={view} />
        </div>
        <canvas ref={board} className="plan-board" aria-hidden="true" style={{ width: "100%", height: boardHeight }} />
        <RowNames rows={rows} heads={heads} height={height} view={view} />
        <div
          role="listbox"
          aria-label="Work of the plan"
          aria-describedby="plan-keys"
          aria-activedescendant={current ? "plan-at" : undefined}
          tabIndex={0}
          className="plan-field"
          onKeyDown={key}
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onPointerCancel={() => {
            drag.current = null;
            leave();
          }}
          onPointerLeave={() => {
            if (hover.current === null || drag.current) return;
            hover.current = null;
            if (field.current) field.current.style.cursor = "";
            setSaid("");
            redraw();
          }}
        >
          <canvas ref={field} aria-hidden="true" style={{ width: "100%", height }} />
          {current && (
            <div id="plan-at" role="option" aria-selected="true" tabIndex={-1} className="sr-only">
              {told(current, view)}
            </div>
          )}
        </div>
      </div>
      <p ref={dropBox} className="plan-drop" role="status" hidden={!p.dropWords}>
        {p.dropWords}
      </p>
      <p className="plan-said" aria-hidden="true">
        {said || (current ? told(current, view) : " ")}
      </p>
      <p id="plan-keys" className="plan-keys">
        Drag to move along{p.onDrag ? ", a block to another day, person or place" : ""}; Ctrl and the wheel for the scale. Arrow keys walk
        the blocks, with Shift to what holds one and to what it holds; Enter says why; + and − change the scale.
      </p>
    </div>
  );
}

function Legend({ freight }: { freight: boolean }) {
  return (
    <p className="plan-legend">
      <span>
        <i className="plan-worked" />
        <i className="plan-todo" /> worked, to do
      </span>
      <span>
        <i className="plan-dots" /> drying
      </span>
      <span>
        <i className="plan-dash" /> an open question stops it
      </span>
      <span>
        <i className="plan-held" /> stands there
      </span>
      <span>
        <svg width="30" height="14" viewBox="0 0 30 14" aria-hidden="true" className="inline-block">
          <path d="M0.5,1.2h7M4,1V13" stroke="currentColor" strokeWidth="2.4" fill="none" />
          <path d="M18.5,1.2h7M22,1V8M25.6,7V13" stroke={OXIDE} strokeWidth="2.4" fill="none" />
        </svg>{" "}
        pinned, not kept
      </span>
      <span>
        <svg width="34" height="12" viewBox="0 0 34 12" aria-hidden="true" className="inline-block">
          <path d="M0,6H12M12,1V11M12,6H32M32,3V9" stroke="currentColor" strokeWidth="1.6" fill="none" />
        </svg>{" "}
        likely, 8 in 10
      </span>
      {freight && (
        <span>
          <svg width="14" height="12" viewBox="0 0 14 12" aria-hidden="true" className="inline-block">
            <path d="M2,7Q4.5,2 7,6Q9.5,10 12,5" stroke="currentColor" strokeWidth="1.4" fill="none" />
          </svg>{" "}
          freight
        </span>
      )}
    </p>
  );
}

/** How long a day is. */
function Scales({ view, onScale, onDay }: { view: View; onScale: (by: number) => void; onDay: (to: (a: Axis) => Axis) => void }) {
  const week = (a: Axis, shown: number) => {
    const now = Date.parse(view.now);
    return axisOf(view.days, a.width, now - (shown / 7) * 86_400_000, a.width / shown);
  };
  const start = Date.parse(view.days[0]?.from ?? "");
  return (
    <div className="flex gap-1 items-center" role="toolbar" aria-label="Scale">
      <button type="button" className="btn" onClick={() => onDay((a) => week(a, 3))}>
        Days
      </button>
      <button type="button" className="btn" onClick={() => onDay((a) => week(a, 14))}>
        Two weeks
      </button>
      <button type="button" className="btn" onClick={() => onDay((a) => axisOf(view.days, a.width, start, usual(a.width)))}>
        Seven weeks
      </button>
      <button type="button" className="btn" onClick={() => onDay((a) => axisOf(view.days, a.width, start, 0))}>
        All
      </button>
      <button type="button" className="btn" aria-label="Shorter days" onClick={() => onScale(1 / STEP)}>
        −
      </button>
      <button type="button" className="btn" aria-label="Longer days" onClick={() => onScale(STEP)}>
        +
      </button>
    </div>
  );
}

/** What is promised, what is likely, and by how many days that is late. */
function Promises({ view }: { view: View }) {
  return (
    <table className="plan-promises" aria-label="Promises">
      <thead>
        <tr className="sr-only">
          <th>Build</th>
          <th>promised</th>
          <th>likely</th>
          <th>late</th>
        </tr>
      </thead>
      <tbody>
        {view.builds.map((b) => (
          <tr
            key={b.id}
            style={{ height: PROMISE }}
            title={b.carrier ? `${b.title}. Most unsure: ${b.carrier.name}, ${daysText(b.carrier.days)} days` : b.title}
          >
            <td>
              <PlaceLink to={`/builds/${b.number}/forecast`} className="flex items-center gap-[6px] text-inherit no-underline">
                <Dab number={b.number} colour={b.colourHex} w={26} h={15} />
                <span className="plan-title">{b.title}</span>
              </PlaceLink>
            </td>
            <td className="num plan-promised">{b.paused ? "" : b.promised ? soonDay(b.promised) : "none yet"}</td>
            <td className={`num ${b.daysLate ? "text-oxide-lt" : ""}`}>
              {b.paused ? "paused" : b.partly ? "no date" : b.p50 ? soonDay(b.p50) : "…"}
            </td>
            <td className="num text-oxide-lt">
              {b.daysLate ? (
                <>
                  +{daysText(b.daysLate)}
                  <span className="sr-only">
                    {" days late"}
                    {b.carrier && `, hangs most on ${b.carrier.name}, ${daysText(b.carrier.days)} days`}
                  </span>
                </>
              ) : (
                ""
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A lane by its name; of somebody, how much of the next four weeks is free. */
const freeOf = (r: Row) => (r.person ? `${r.name}: ${hours(r.person.freeMinutes)} h free in the next four weeks` : r.name);

function RowNames({
  rows,
  heads,
  height,
  view,
}: {
  rows: readonly Row[];
  heads: readonly { y: number; text: string }[];
  height: number;
  view: View;
}) {
  return (
    <div className="plan-names" style={{ height }}>
      {heads.map((h) => (
        <span key={h.text} className="plan-head" style={{ top: h.y }}>
          {h.text}
        </span>
      ))}
      {rows.map((r) => {
        const b = view.builds.find((x) => x.id === r.build);
        return (
          <span key={r.key} className={`plan-name plan-name-${r.kind}`} style={{ top: r.y, height: r.h }} title={freeOf(r)}>
            {b && <Dab number={b.number} colour={b.colourHex} w={26} h={15} />}
            <span className="truncate">{r.name}</span>
            {r.person && r.person.share >= 0.995 && <span className="text-ink2"> full</span>}
          </span>
        );
      })}
    </div>
  );
}

/** How much of the plan is late, said once. */
export function promisesLate(view: View): string {
  const promised = view.builds.filter((b) => b.promised && !b.paused);
  const late = promised.filter((b) => b.daysLate);
  if (promised.length === 0) return "Nothing is promised yet.";
  if (!view.futuresAt) return "Whether the promises are likely kept is being worked out.";
  const worst = late[0];
  return late.length === 0
    ? `All ${promised.length} promises are likely kept.`
    : `${late.length} of ${promised.length} promises likely late${worst ? `, ${worst.number} by ${daysText(worst.daysLate ?? 0)} ${worst.daysLate === 1 ? "day" : "days"}` : ""}.`;
}
