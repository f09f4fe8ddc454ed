import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { counted, dateOf, day, days, hours, month, soonDay, stageName, supportName, words } from "../format";
import { pointAt } from "../geometry";
import { layerColour } from "../pictures/Strata";
import { CHALK, CHALK2, contrast, GUIDE, GUIDE3, INK, inkOn, mix, OXIDE_LT } from "../tokens";
import { isWait, layOut, NARROW, type Reach, type River, waitingStrands } from "./riverLayout";
import { GateMark, gateState, HazardMark, HeldMark, handBox, Stipple, strandPath, Textures, water } from "./riverMarks";
import { circleOf, followersOf, inTime, type Operation } from "./strands";

const TEXTURES: Partial<Record<Schemas["Stage"], string>> = { metal: "river-metal", strip: "river-strip", fill: "river-fill" };
const IDLE = "#6E7678";
/** So far a hand moves before it carries. */
const CARRY = 6;

type Props = {
  all: readonly Operation[];
  paint: string;
  nameOf: (person: string) => string;
  at: string | null;
  onAt: (id: string | null) => void;
  /** The operations that are looked at: from this one on, so many. */
  from: number;
  count: number;
  /** What is looked for; others are drawn pale. */
  found: ReadonlySet<string> | null;
  /** Puts one operation after another; absent: whoever looks changes nothing. */
  onLink?: (work: Operation, after: Operation) => void;
  onKey?: (key: string) => void;
};

const hoursLikely = (of: readonly Operation[]) => of.reduce((sum, o) => sum + o.budgetMinutes, 0);

/** An operation in words, for those who do not see it. */
function told(o: Operation, nameOf: (person: string) => string): string {
  return [
    o.kind === "gate" ? `Gate: ${o.name}` : o.name,
    o.kind === "work" ? `${hours(o.budgetMinutes)} h` : o.kind === "gate" ? null : words(o.kind),
    o.doneAt ? `done ${day(dateOf(o.doneAt))}` : o.starts ? `starts ${day(dateOf(o.starts))}` : "no date",
    o.doneAt ? null : o.plannedPeople.map(nameOf).join(", "),
  ]
    .filter(Boolean)
    .join(", ");
}

/** The order of work of one build, from intake to handover: strands that leave the trunk and come back to it. */
export function RiverPicture(p: Props) {
  const box = useRef<HTMLDivElement>(null);
  const group = useRef<SVGGElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    setWidth(el.clientWidth);
    const watch = new ResizeObserver(() => setWidth(el.clientWidth));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  const { all, from, count } = p;
  const river = useMemo(
    () => (width < 200 ? null : layOut(all, { width, height: width < NARROW ? 420 : 600, from, count })),
    [all, from, count, width],
  );
  const byId = useMemo(() => new Map(all.map((o) => [o.id, o])), [all]);
  const carry = useCarry(p, group);
  const go = (id: string) => {
    p.onAt(id);
    requestAnimationFrame(() => box.current?.querySelector<SVGGElement>(`[data-work="${id}"]`)?.focus());
  };
  const onKeys = (e: KeyboardEvent) => {
    const here = (e.target as Element).closest("[data-work]")?.getAttribute("data-work") ?? p.at;
    const to = river && here ? beside(river, all, here, e.key) : null;
    if (to) go(to);
    else if (e.key === "Escape") p.onAt(null);
    else if (!e.ctrlKey && !e.metaKey && !e.altKey && /^[eaglsu]$/i.test(e.key) && p.at) p.onKey?.(e.key.toLowerCase());
    else return;
    e.preventDefault();
  };
  const first = p.at && river?.byId.has(p.at) ? p.at : river?.reaches[Math.min(from, river.reaches.length - 1)]?.work.id;
  return (
    <div ref={box} className="river on-guide">
      {river && (
        <svg width={width} height={river.height} onKeyDown={onKeys} {...carry.handlers}>
          <title>Order of work</title>
          <Textures />
          <rect width={width} height={river.height} fill={GUIDE} />
          <Behind river={river} />
          <g ref={group}>
            <Links river={river} byId={byId} />
            {river.reaches.map((r, i) => (
              <ReachMark
                key={r.work.id}
                r={r}
                before={river.reaches}
                paint={p.paint}
                pale={p.found !== null && !p.found.has(r.work.id)}
                chosen={p.at === r.work.id}
                focusable={first === r.work.id}
                label={told(r.work, p.nameOf)}
                seed={i}
                gate={r.work.kind === "gate" ? gateState(r.work, byId) : null}
                onChoose={() => p.onAt(r.work.id)}
              />
            ))}
          </g>
          <HeldBand river={river} width={width} />
          <Words river={river} nameOf={p.nameOf} all={all} />
          {carry.line && (
            <path d={carry.line} fill="none" stroke={carry.refused ? OXIDE_LT : CHALK} strokeWidth={1.6} strokeDasharray="5 4" />
          )}
        </svg>
      )}
      <p className={`river-carried ${carry.refused ? "text-oxide-lt" : ""}`} aria-live="polite">
        {carry.words}
      </p>
    </div>
  );
}

/** Drags one operation onto another: what is dragged comes before. What would go round in a circle is said while the hand is still down. */
function useCarry(p: Props, group: React.RefObject<SVGGElement | null>) {
  const start = useRef<{ id: string; x: number; y: number; pointer: number } | null>(null);
  const [to, setTo] = useState<{ from: string; over: string | null; x: number; y: number; x0: number; y0: number } | null>(null);
  const byId = new Map(p.all.map((o) => [o.id, o]));
  const workAt = (e: PointerEvent) =>
    document.elementFromPoint?.(e.clientX, e.clientY)?.closest("[data-work]")?.getAttribute("data-work") ?? null;
  const over = to?.over && to.over !== to.from ? (byId.get(to.over) ?? null) : null;
  const carried = to ? (byId.get(to.from) ?? null) : null;
  const circle = over && carried ? circleOf(p.all, over.id, carried.id) : null;
  // Already so: nothing to do. Done already: its order is history.
  const linked = over && carried ? over.after.some((a) => a.operation === carried.id) : false;
  const refused = circle !== null || linked || !!over?.doneAt;
  const words = !carried
    ? ""
    : !over
      ? `${carried.name}: drop it on what is to come after it.`
      : circle
        ? `These would wait for each other: ${circle.map((o) => o.name).join(" > ")}.`
        : linked
          ? `${over.name} comes after ${carried.name} already.`
          : over.doneAt
            ? `${over.name} is done: nothing comes before it any more.`
            : `${over.name} after ${carried.name}`;
  const end = () => {
    start.current = null;
    setTo(null);
  };
  const handlers = p.onLink
    ? {
        onPointerDown: (e: PointerEvent) => {
          const id = workAt(e);
          if (id && e.button === 0) start.current = { id, x: e.clientX, y: e.clientY, pointer: e.pointerId };
        },
        onPointerMove: (e: PointerEvent) => {
          const s = start.current;
          if (!s || (!to && Math.hypot(e.clientX - s.x, e.clientY - s.y) < CARRY)) return;
          const [here, there] = [pointAt(group.current, e), pointAt(group.current, { clientX: s.x, clientY: s.y })];
          if (here && there) setTo({ from: s.id, over: workAt(e), x: here.x, y: here.y, x0: there.x, y0: there.y });
        },
        onPointerUp: () => {
          if (carried && over && !refused) p.onLink?.(over, carried);
          end();
        },
        onPointerLeave: end,
        onPointerCancel: end,
      }
    : {};
  return { handlers, words, refused, line: to ? strandPath(to.x0, to.y0, to.x, to.y, false) : null };
}

/** Which operation an arrow leads to: along the water, or to the nearest in the next strand. */
export function beside(river: River, all: readonly Operation[], id: string, key: string): string | null {
  const here = river.byId.get(id);
  if (!here) return null;
  const nearest = (of: readonly Operation[]) =>
    of
      .map((o) => river.byId.get(o.id))
      .filter((r) => r !== undefined)
      .toSorted(
        (a, b) => Math.abs(a.lane - here.lane) - Math.abs(b.lane - here.lane) || Math.abs(a.x1 - here.x1) - Math.abs(b.x1 - here.x1),
      )[0]?.work.id ?? null;
  if (key === "ArrowRight") return nearest(followersOf(all).get(id) ?? []);
  if (key === "ArrowLeft") return nearest(here.work.after.map((a) => river.byId.get(a.operation)?.work).filter((o) => o !== undefined));
  if (key === "Home" || key === "End") return river.reaches.at(key === "Home" ? 0 : -1)?.work.id ?? null;
  if (key !== "ArrowUp" && key !== "ArrowDown") return null;
  const step = key === "ArrowUp" ? -1 : 1;
  const middle = (here.x1 + here.x2) / 2;
  for (let lane = here.lane + step; lane >= 0 && lane < river.lanes.length; lane += step) {
    const there = river.reaches.filter((r) => r.lane === lane);
    if (there.length > 0)
      return there.toSorted((a, b) => Math.abs((a.x1 + a.x2) / 2 - middle) - Math.abs((b.x1 + b.x2) / 2 - middle))[0]?.work.id ?? null;
  }
  return null;
}

/** What is done lies on a darker ground; the line is now. */
function Behind({ river }: { river: River }) {
  if (river.now === null) return null;
  return (
    <>
      <rect x={0} y={0} width={river.now} height={river.height} fill="#1F2426" />
      <path d={`M${river.now},62V${river.height - 10}`} stroke={CHALK} strokeWidth={1.6} />
    </>
  );
}

function Links({ river, byId }: { river: River; byId: ReadonlyMap<string, Operation> }) {
  const next = followersOf([...byId.values()]);
  return (
    <g fill="none" strokeWidth={1.3}>
      {river.reaches.flatMap((r) =>
        r.work.after.map((a) => {
          const before = river.byId.get(a.operation);
          if (!before) return null;
          // The last of a strand keeps to its own lane until it is needed; what leaves a strand leaves at once.
          const last = (next.get(a.operation) ?? []).every((o) => river.byId.get(o.id)?.lane !== before.lane || o.id === r.work.id);
          return (
            <path
              key={`${a.operation} ${r.work.id}`}
              d={strandPath(a.fromStart ? before.x1 : before.end, before.y, r.x1, r.y, last)}
              stroke={r.work.doneAt ? IDLE : CHALK2}
              strokeOpacity={r.work.doneAt ? 0.9 : 0.75}
            />
          );
        }),
      )}
      {river.reaches.map((r) => {
        const gate = r.work.terms.closedUntil ? river.byId.get(r.work.terms.closedUntil) : undefined;
        if (!gate || r.work.doneAt) return null;
        const x = (gate.x1 + gate.x2) / 2;
        return (
          <path
            key={r.work.id}
            d={`M${x},${gate.y}C${x},${(gate.y + r.y) / 2} ${r.x1},${(gate.y + r.y) / 2} ${r.x1},${r.y}`}
            stroke={CHALK}
            strokeDasharray="1 3.4"
            strokeLinecap="round"
          />
        );
      })}
    </g>
  );
}

type MarkProps = {
  r: Reach;
  before: readonly Reach[];
  paint: string;
  pale: boolean;
  chosen: boolean;
  focusable: boolean;
  label: string;
  seed: number;
  gate: ReturnType<typeof gateState> | null;
  onChoose: () => void;
};

function ReachMark({ r, before, paint, pale, chosen, focusable, label, seed, gate, onChoose }: MarkProps) {
  const o = r.work;
  const near = r.zone === "near";
  const raw = layerColour(o.stage, paint);
  const clear = contrast(raw, GUIDE) < 2.4 ? mix(raw, "#FFFFFF", 0.24) : raw;
  const colour = o.doneAt ? mix(clear, GUIDE, 0.42) : clear;
  const tall = Math.max(r.width, gate ? 34 : 16);
  const top = r.y - tall / 2 - (r.lines.length > 0 ? r.lines.length * 13 + 19 : 4);
  const bottom = r.y + tall / 2 + (near ? 18 : 4);
  return (
    <g
      data-work={o.id}
      role="button"
      tabIndex={focusable ? 0 : -1}
      aria-pressed={chosen}
      aria-label={label}
      className="river-reach"
      opacity={pale ? 0.28 : 1}
      onClick={onChoose}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onChoose();
        }
      }}
    >
      <title>{label}</title>
      <rect x={r.x1 - 1} y={top} width={Math.max(8, r.x2 - r.x1 + 2)} height={bottom - top} fill="transparent" />
      {gate ? (
        <GateMark x={(r.x1 + r.x2) / 2} y={r.y} g={near ? 14 : 10} state={gate} s={near ? 1.1 : 0.7} />
      ) : isWait(o) ? (
        <WaitMark r={r} colour={o.kind === "cure" ? mix(clear, "#FFFFFF", 0.25) : colour} seed={seed} />
      ) : (
        <Water r={r} colour={colour} seed={seed} before={before} />
      )}
      {o.hazard && near && !isWait(o) && <Hazard r={r} hazard={o.hazard} colour={colour} />}
      {chosen && (
        <path d={handBox(r.x1 - 7, top - 4, Math.max(r.x2, r.x1 + 8) + 7, bottom + 3)} fill="none" stroke={CHALK} strokeWidth={1.7} />
      )}
    </g>
  );
}

function Water({ r, colour, seed, before }: { r: Reach; colour: string; seed: number; before: readonly Reach[] }) {
  const o = r.work;
  const ended = before.find((b) => b.lane === r.lane && b.width > 0 && Math.abs(b.x2 - r.x1) < 1);
  const begun = before.find((b) => b.lane === r.lane && b.width > 0 && Math.abs(b.x1 - r.x2) < 1);
  const [hl, hr] = [ended ? Math.min(r.width, ended.width) * 0.8 : 2, begun ? Math.min(r.width, begun.width) * 0.8 : 2];
  const likely = o.budgetMinutes || 1;
  const unsure = o.terms.lowMinutes && o.terms.highMinutes ? (o.terms.highMinutes - o.terms.lowMinutes) / likely : 0.6;
  const gap = r.zone === "near" ? 0.6 : 0.35;
  const d = water(r.x1 + gap, r.x2 - gap, r.y, r.width, Math.min(hl, r.width), Math.min(hr, r.width), o.doneAt ? 0 : unsure, seed);
  const texture = TEXTURES[o.stage];
  return (
    <>
      <path d={d} fill={colour} />
      {texture && !o.doneAt && <path d={d} fill={`url(#${texture})`} />}
    </>
  );
}

function WaitMark({ r, colour, seed }: { r: Reach; colour: string; seed: number }) {
  if (r.work.kind === "cure") return <Stipple x1={r.x1} x2={r.x2} y={r.y} seed={seed} colour={colour} />;
  const likely = r.x1 + (r.x2 - r.x1) * 0.76;
  return (
    <g fill="none">
      <path d={`M${r.x1},${r.y}H${likely}`} stroke={colour} strokeWidth={4} />
      {!r.work.doneAt && (
        <path d={`M${likely},${r.y - 6}v12M${likely},${r.y}H${r.x2}M${r.x2},${r.y - 3}v6`} stroke={CHALK} strokeWidth={1.4} />
      )}
    </g>
  );
}

function Hazard({ r, hazard, colour }: { r: Reach; hazard: Schemas["Hazard"]; colour: string }) {
  const x = (r.x1 + r.x2) / 2;
  if (r.width < 17) return <HazardMark x={r.x2 + 7 > x + 30 ? x + 26 : r.x2 - 8} y={r.y + Math.max(r.width, 16) / 2 + 9} hazard={hazard} />;
  return (
    <>
      <circle cx={x} cy={r.y} r={7.5} fill={colour} />
      <HazardMark x={x} y={r.y} hazard={hazard} colour={inkOn(colour)} />
    </>
  );
}

/** How the shell is held, as long as it is held so. */
function HeldBand({ river, width }: { river: River; width: number }) {
  const sets = river.reaches.filter((r) => r.work.terms.sets);
  if (sets.length === 0) return null;
  const y = 92;
  return (
    <g>
      <rect x={10} y={y} width={Math.max(0, (sets[0]?.x2 ?? 0) - 12)} height={4} fill={GUIDE3} />
      {sets.map((r, i) => {
        const [x1, x2] = [r.x2, sets[i + 1]?.x2 ?? width - 10];
        const held = r.work.terms.sets as Schemas["SupportState"];
        const now = !!r.work.doneAt && !sets[i + 1]?.work.doneAt;
        const colour = now ? CHALK : r.work.doneAt ? IDLE : CHALK2;
        return (
          <g key={r.work.id}>
            <rect x={x1} y={y} width={Math.max(2, x2 - x1 - 2)} height={4} fill={colour} />
            {x2 - x1 > 84 && <HeldMark x={(x1 + x2) / 2} y={y - 3} held={held} colour={now ? CHALK : CHALK2} />}
            {x2 - x1 > 84 && (
              <text x={(x1 + x2) / 2} y={y + 17} className="river-small" textAnchor="middle" fill={now ? CHALK : CHALK2}>
                {supportName(held)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** The three zones with what is in them, the months, and the names of what is looked at. */
function Words({ river, all, nameOf }: { river: River; all: readonly Operation[]; nameOf: (person: string) => string }) {
  const of = (zone: Reach["zone"]) => river.reaches.filter((r) => r.zone === zone).map((r) => r.work);
  const [before, near, after] = [of("before"), of("near"), of("after")];
  const allDone = before.length > 0 && before.every((o) => o.doneAt) && near.every((o) => !o.doneAt);
  const spent = before.reduce((sum, o) => sum + o.spentMinutes, 0);
  const starts = near.filter((o) => o.starts && !o.doneAt);
  // What does not fit its zone is left out: the table below has it.
  const head = (x: number, title: string, text: string, room = 400) => (
    <g key={title}>
      <text x={x} y={24} className="river-head" fill={CHALK}>
        {title}
      </text>
      {text.length * 5.2 < room && (
        <text x={x} y={40} className="river-small" fill={CHALK2}>
          {text}
        </text>
      )}
    </g>
  );
  const narrow = river.near[1] - river.near[0] < 400;
  const afterX = river.reaches.find((r) => r.zone === "after")?.x1 ?? 0;
  return (
    <g pointerEvents="none">
      {before.length > 0 &&
        !narrow &&
        head(
          20,
          allDone ? "Done" : "Before",
          allDone
            ? `${counted(before.length, "operation")}, ${hours(spent)} h for ${hours(hoursLikely(before))}`
            : `${counted(before.length, "operation")}, ${hours(hoursLikely(before))} h`,
          river.near[0] - 24,
        )}
      {near.length > 0 &&
        head(
          river.near[0],
          allDone || before.length === 0 ? `Next ${near.length}` : `${near.length} of ${all.length}`,
          [
            `${hours(hoursLikely(near))} h`,
            starts.length > 0 &&
              `${soonDay(dateOf(starts[0]?.starts as string))} to ${day(dateOf(starts.at(-1)?.finishes ?? (starts.at(-1)?.starts as string)))}`,
          ]
            .filter(Boolean)
            .join(", "),
        )}
      {after.length > 0 && !narrow && head(afterX, "After", `${counted(after.length, "operation")}, ${hours(hoursLikely(after))} h`)}
      {!narrow && <Months river={river} />}
      {river.reaches
        .filter((r) => r.zone === "near")
        .map((r) => (
          <Name key={r.work.id} r={r} nameOf={nameOf} all={all} />
        ))}
      {!narrow &&
        waitingStrands(river, all).map((w) => (
          <text key={w.y} x={(river.now ?? 0) - 8} y={w.y - 6} textAnchor="end" className="river-small" fill={CHALK}>
            {stageName(w.stage).split(",")[0]}
          </text>
        ))}
      <InHand river={river} all={all} />
    </g>
  );
}

/** Months where their first work stands, in the zones whose work has no dates of its own. */
function Months({ river }: { river: River }) {
  let last = "";
  let lastX = -100;
  return river.reaches.map((r) => {
    const at = r.work.doneAt ?? r.work.starts;
    if (r.zone === "near" || !at || r.work.kind === "gate") return null;
    const name = month(dateOf(at));
    if (name === last || r.x1 - lastX < 26) return null;
    [last, lastX] = [name, r.x1];
    return (
      <g key={r.work.id}>
        <path d={`M${r.x1},52v5`} stroke={CHALK2} />
        <text x={r.x1 + 2} y={60} className="river-small" fill={CHALK2}>
          {name}
        </text>
      </g>
    );
  });
}

function Name({ r, nameOf, all }: { r: Reach; nameOf: (person: string) => string; all: readonly Operation[] }) {
  const o = r.work;
  const x = (r.x1 + r.x2) / 2;
  if (o.kind === "gate") {
    const state = gateState(o, new Map(all.map((a) => [a.id, a])));
    return state === "ready" ? (
      <text x={x} y={r.y + 30} className="river-small" textAnchor="middle" fill={OXIDE_LT}>
        {o.name}: waits for a name
      </text>
    ) : null;
  }
  if (o.kind === "outside")
    return (
      <text x={r.x1} y={r.y - 9} className="river-small" fill={CHALK}>
        {o.name}
        {o.doneAt ? "" : o.finishes ? `, here ${soonDay(dateOf(o.finishes))}` : ""}
      </text>
    );
  if (isWait(o) || r.lines.length === 0) return null;
  const [likely, who] = [`${hours(o.budgetMinutes)} h`, o.doneAt ? undefined : o.plannedPeople.slice(0, 1).map(nameOf)[0]];
  const half = Math.max(r.width, 16) / 2;
  const top = r.y - half - 8;
  const waits = !o.doneAt && o.reason?.kind === "decision";
  const room = (r.x2 - r.x1 + 4) / 5.6;
  const done = o.doneAt ? soonDay(dateOf(o.doneAt)) : "";
  const date = o.doneAt ? (done.length + 5 < room ? `done ${done}` : done) : o.starts ? soonDay(dateOf(o.starts)) : "no date";
  return (
    <g textAnchor="middle">
      {r.lines.map((l, i) => (
        <text key={l} x={x} y={top - 13 - (r.lines.length - 1 - i) * 13} className="river-name" fill={CHALK}>
          {l}
        </text>
      ))}
      <text x={x} y={top} className="river-small" fill={CHALK2}>
        {who && (likely.length + who.length + 2) * 5.6 < r.x2 - r.x1 + 10 ? `${likely}, ${who}` : likely}
      </text>
      <text x={x} y={r.y + half + 14} className="river-small" fill={waits ? OXIDE_LT : CHALK2}>
        {waits ? "open question" : date}
      </text>
    </g>
  );
}

/** Days in hand on a strand that waits for the others, where there is room for the words. */
function InHand({ river, all }: { river: River; all: readonly Operation[] }) {
  const next = followersOf(all);
  return river.reaches.map((r) => {
    const o = r.work;
    const following = (next.get(o.id) ?? []).map((x) => river.byId.get(x.id)).filter((x) => x !== undefined);
    if (r.zone !== "near" || o.doneAt || o.slackDays === null || following.length === 0) return null;
    const needed = Math.min(...following.map((x) => x.x1));
    if (needed - r.end < 96 || following.some((x) => x.lane === r.lane && x.x1 - r.end < 96)) return null;
    return (
      <text
        key={o.id}
        x={(r.end + Math.min(needed, r.end + 260)) / 2}
        y={o.kind === "outside" ? r.y + 15 : r.y - 6}
        className="river-small"
        textAnchor="middle"
        fill={o.slackDays > 0 ? CHALK2 : CHALK}
      >
        {o.slackDays > 0 ? `${days(o.slackDays)} days in hand` : "no day in hand"}
      </text>
    );
  });
}

/** What the marks mean. */
export function RiverKey({ all }: { all: readonly Operation[] }) {
  const hazards = [...new Set(inTime(all).map((o) => o.hazard))].filter((h) => h !== null);
  const gates = [
    ["signed", "signed"],
    ["ready", "waits for a name"],
    ["locked", "shut"],
    ["opened", "opened, reason kept"],
  ] as const;
  return (
    <details className="mt-1">
      <summary className="text-ink2">What the marks mean</summary>
      <ul className="river-key">
        <li>Width is likely hours; the longer an end thins, the less sure they are.</li>
        <li>Length is order, and longer where it takes more days; further right starts later.</li>
        <li>Dots: it cures. A straight bar: at a supplier.</li>
        {gates.map(([state, text]) => (
          <li key={state}>
            <svg width={22} height={28} aria-hidden="true">
              <rect width={22} height={28} fill={GUIDE} />
              <GateMark x={11} y={14} g={9} state={state} s={0.9} />
            </svg>
            gate {text}
          </li>
        ))}
        {hazards.map((h) => (
          <li key={h}>
            <svg width={16} height={16} aria-hidden="true">
              <HazardMark x={8} y={8} hazard={h} colour={INK} />
            </svg>
            {words(h)}
          </li>
        ))}
      </ul>
    </details>
  );
}
