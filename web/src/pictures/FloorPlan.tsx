import { useQueries, useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { chancesQuery, styleQuery } from "../api/queries";
import { addDays, day, hm, percent, scaleMark, shortDay, today, weekday } from "../format";
import { f } from "../geometry";
import { GUIDE, INK2, OXIDE, P0, P2, P3, seeded } from "../tokens";
import { DabMark } from "../ui/Dab";
import { CarAbove, PersonAbove, PLAN_LENGTH } from "./CarAbove";
import { DoorMark } from "./DoorMark";
import { Furniture, Gravel, Quay, RollerDoor, Room } from "./Furniture";
import { forWhat, type Move, MoveArrow, movesOf } from "./moves";
import { StrataMini } from "./Strata";

type Station = Schemas["StationView"];
type Card = Schemas["BuildCard"];
type Body = Schemas["BodyView"];

/** Pixels a metre, when the shop's plan is 25 m wide. */
const PLAN_WIDTH = 850;

type Props = {
  shop: Schemas["SettingsBody"];
  layout: Schemas["ShopLayout"];
  stations: Station[];
  builds: Card[];
  away: Schemas["AwayRow"][];
  decisions: Schemas["DecisionRow"][];
  onOpen: (build: Card) => void;
};

/** A move further off than this is words, not an arrow. */
const ARROW_DAYS = 21;

const HELD_FOR_MANAGER = new Set(["decision"]);

/** At most so many characters, with a mark where something was left out. */
const shortened = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text);

/** The shop in plan, to scale: every vehicle where it stands, who is on it, what it waits for. */
export function FloorPlan({ shop, layout, stations, builds, away, decisions, onOpen }: Props) {
  const s = PLAN_WIDTH / (shop.planWidthMm / 1000);
  const px = (mm: number) => (mm / 1000) * s;
  const [width, height] = [px(shop.planWidthMm) + 8, px(shop.planDepthMm) + 12];
  const yard = stations.filter((x) => x.kind === "yard");
  const hall = stations.filter((x) => x.kind !== "yard");
  // Where a yard is drawn the hall ends before it; else it is all of the ground.
  const slab = yard.length > 0 ? Math.max(...hall.map((x) => x.yMm + x.depthMm), 0) : shop.planDepthMm;
  const bodies = useQueries({ queries: builds.map((b) => styleQuery(b.style, b.dimensions)) });
  const bodyOf = new Map(builds.map((b, i) => [b.id, bodies[i]?.data]));
  const asked = new Map(decisions.map((d) => [d.buildId, d]));
  const scale = scaleMark();
  const bar = px(scale.bar * scale.mm);
  const moves = movesOf(builds, stations);
  const soon = addDays(today(), ARROW_DAYS);
  const arrows = moves.filter((m) => m.drawn && m.on <= soon);
  return (
    <svg
      className="plan-pic block w-full"
      viewBox={`0 0 ${f(width)} ${f(height)}`}
      role="group"
      aria-label={`Plan of the shop, ${builds.length} builds`}
    >
      <defs>
        <pattern id="yard-ground" width="46" height="46" patternUnits="userSpaceOnUse">
          <Gravel />
        </pattern>
        <pattern id="booth-grate" width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M0,3.5H7" stroke={P3} />
        </pattern>
      </defs>
      <g transform="translate(4,6)">
        {yard.map((y) => (
          <rect key={y.id} x={px(y.xMm)} y={px(y.yMm)} width={px(y.widthMm)} height={px(y.depthMm)} fill="url(#yard-ground)" />
        ))}
        <rect width={px(shop.planWidthMm)} height={px(slab)} fill={P0} />
        {hall
          .filter((x) => !x.walled)
          .map((x) => (
            <rect
              key={x.id}
              x={px(x.xMm)}
              y={px(x.yMm)}
              width={px(x.widthMm)}
              height={px(x.depthMm)}
              fill="none"
              stroke={P2}
              strokeWidth="2.5"
              strokeDasharray="16 7"
            />
          ))}
        <path d={`M0,0H${px(shop.planWidthMm)}V${px(slab)}H0Z`} fill="none" stroke={GUIDE} strokeWidth="6" />
        {hall
          .filter((x) => x.walled)
          .map((x) => (
            <Room key={x.id} x={px(x.xMm)} y={px(x.yMm)} w={px(x.widthMm)} d={px(x.depthMm)} station={x} slab={px(slab)} />
          ))}
        {hall
          .filter((x) => !x.walled && x.doorHeightMm && Math.abs(x.yMm + x.depthMm - slab) < 200)
          .map((x) => (
            <RollerDoor key={x.id} x={px(x.xMm + x.widthMm * 0.18)} y={px(slab)} w={px(x.widthMm * 0.6)} />
          ))}
        <g transform={`scale(${s / 1000})`} aria-hidden="true">
          {(layout.walls ?? []).map((w, i) => (
            <path key={i} d={`M${w.fromXMm},${w.fromYMm}L${w.toXMm},${w.toYMm}`} stroke={GUIDE} strokeWidth={4000 / s} />
          ))}
          {(layout.doors ?? []).map((d, i) => (
            <DoorMark key={i} door={d} stroke={GUIDE} width={5000 / s} />
          ))}
        </g>
        {hall.map((x) => (
          <Furniture key={x.id} station={x} px={px} />
        ))}
        {stations.map((x) => (
          <StationSpot
            key={x.id}
            station={x}
            px={px}
            builds={builds.filter((b) => b.stationId === x.id)}
            bodyOf={bodyOf}
            asked={asked}
            onOpen={onOpen}
            away={x.kind === "yard" ? away : []}
            moves={moves}
          />
        ))}
        {hall
          .filter((x) => x.kind === "office" && decisions.length > 0)
          .map((x) => (
            <g key={x.id} transform={`translate(${f(px(x.xMm + x.widthMm * 0.6))},${f(px(x.yMm) + 70)})`}>
              <PersonAbove x={0} y={0} turn={90} colour={OXIDE} />
              <text x={-14} y={26} className="wh" textAnchor="end">
                you
              </text>
            </g>
          ))}
        {arrows.map((m) => (
          <MoveArrow key={m.build.id} move={m} px={px} />
        ))}
        {yard.length > 0 && <Quay y={px(shop.planDepthMm)} w={px(shop.planWidthMm)} />}
        <g
          stroke={INK2}
          strokeWidth="1.5"
          aria-hidden="true"
          transform={`translate(${px(shop.planWidthMm) - 82},${px(slab) - px(slab) * 0.605})`}
        >
          <path d={`M0,0h${f(bar)}M0,0v-5M${f(bar / 2)},0v-5M${f(bar)},0v-5`} fill="none" />
          <text x={f(bar / 2)} y={-9} textAnchor="middle" className="wt" stroke="none">
            {scale.bar} {scale.unit}
          </text>
        </g>
      </g>
    </svg>
  );
}

type SpotProps = {
  station: Station;
  px: (mm: number) => number;
  builds: Card[];
  bodyOf: Map<string, Body | undefined>;
  asked: Map<string, Schemas["DecisionRow"]>;
  onOpen: (b: Card) => void;
  away: Schemas["AwayRow"][];
  moves: Move[];
};

const NO_STRATA = 190;

function StationSpot({ station, px, builds, bodyOf, asked, onOpen, away, moves }: SpotProps) {
  const [x, y, w, d] = [px(station.xMm), px(station.yMm), px(station.widthMm), px(station.depthMm)];
  const freeTo = moves.find((m) => m.free && m.to.id === station.id)?.on;
  const yard = station.kind === "yard";
  const room = ["booth", "mix", "blast", "stores", "office", "engine", "bench"].includes(station.kind);
  const takes = ["booth", "blast", "bay", "prep", "jig", "lift"].includes(station.kind);
  const label = (
    <text x={x + 7} y={room ? y + d - 9 : y + 16} className="stn">
      {station.name}
      {takes && builds.length === 0 && (
        <tspan className="stx" dx="6">
          free{freeTo ? ` to ${weekday(freeTo)}` : ""}
        </tspan>
      )}
    </text>
  );
  if (yard) {
    const places = inRows(builds.length, { w: w - (away.length > 0 ? 520 : 12), d: d - 28 });
    return (
      <g>
        {label}
        {builds.map((b, i) => (
          <Standing
            key={b.id}
            build={b}
            body={bodyOf.get(b.id)}
            asked={asked.get(b.id)}
            move={moves.find((m) => m.build.id === b.id)}
            x={x + 6 + (i % places.across) * places.w}
            y={y + 22 + Math.floor(i / places.across) * places.d}
            w={places.w - 8}
            d={places.d}
            px={px}
            onOpen={onOpen}
            small
          />
        ))}
        <AwayTable rows={away} x={x + w - 486} y={y + 14} />
      </g>
    );
  }
  return (
    <g>
      {builds.map((b) => (
        <Standing
          key={b.id}
          build={b}
          body={bodyOf.get(b.id)}
          asked={asked.get(b.id)}
          move={moves.find((m) => m.build.id === b.id)}
          x={x}
          y={y + (room ? 2 : 16)}
          w={w}
          d={room ? d - 24 : d - 16}
          px={px}
          onOpen={onOpen}
        />
      ))}
      {label}
    </g>
  );
}

/** A vehicle in a yard has this much room where there is room, and its words where it has this much. */
const YARD_PLACE = 190;
const ROOM_FOR_WORDS = 118;

/** Many vehicles on one ground: in one row while their words fit, else in as many rows as the ground is deep for. */
export function inRows(count: number, room: { w: number; d: number }) {
  const most = Math.max(1, Math.floor(room.d / 62));
  const rows = count * ROOM_FOR_WORDS <= room.w ? 1 : Math.min(most, Math.ceil((count * 64) / room.w));
  const across = Math.max(1, Math.ceil(count / rows));
  return { across, w: Math.min(YARD_PLACE, room.w / across), d: room.d / rows };
}

/**
 * How a vehicle is drawn in its place: to scale, across the picture or, where the place is deeper than wide, along it; smaller where it
 * would lie over its neighbour.
 * @param cm Pixels a centimetre.
 * @param room What the place has for it, in pixels.
 */
export function parked(size: { lengthMm: number; widthMm: number }, cm: number, room: { w: number; d: number }) {
  const [long, wide] = [(size.lengthMm / 10) * cm * PLAN_LENGTH, (size.widthMm / 10) * cm];
  const fits = (upright: boolean) => Math.min(1, room.w / (upright ? wide : long), room.d / (upright ? long : wide));
  const upright = fits(true) > fits(false);
  const scale = Math.max(0.2, fits(upright));
  return { cm: cm * scale, upright, long: long * scale, wide: wide * scale };
}

/** One vehicle in its place, with its words under it and its strata beside it. */
function Standing({
  build,
  body,
  asked,
  move,
  x,
  y,
  w,
  d,
  px,
  onOpen,
  small,
}: {
  build: Card;
  body?: Body;
  asked?: Schemas["DecisionRow"];
  move?: Move;
  x: number;
  y: number;
  w: number;
  d: number;
  px: (mm: number) => number;
  onOpen: (b: Card) => void;
  small?: boolean;
}) {
  const by = useQuery(chancesQuery).data?.find((c) => c.id === build.id && !c.partly)?.p80;
  // Where the words of several would lie over one another the number alone stands there; the rest is read out and on its page.
  const numberOnly = small === true && w < ROOM_FOR_WORDS;
  const textTop = y + d - (numberOnly ? 22 : 51);
  const strata = w >= NO_STRATA && !small;
  const room = { w: w - (strata ? 52 : 0) - 14, d: textTop - y - 8 };
  const { cm, upright, long, wide } = parked(build.dimensions, px(10), room);
  const cx = x + Math.max((upright ? wide : long) / 2 + 10, (w - (strata ? 52 : 0)) / 2);
  const cy = Math.max(y + (upright ? long : wide) / 2 + 2, (y + textTop - 12) / 2 + 2);
  const waits = asked
    ? `waits for ${asked.for === "client" ? "the client" : "you"}: ${asked.question.split(/[:?,]/)[0]?.toLowerCase()}`
    : null;
  const on = build.onIt.map((o) => `${o.name} ${hm(o.minutes)}`).join(", ");
  const idle = build.untouchedDays !== null && build.untouchedDays >= 7 ? `, untouched ${build.untouchedDays} days` : "";
  const cures = build.holdsKind === "cure";
  const second =
    on ||
    (build.status === "paused"
      ? "paused"
      : cures
        ? `${build.holds.toLowerCase()}`
        : build.nextOn && !waits
          ? `nobody; next ${day(build.nextOn)}`
          : "nobody");
  const goes = move && `goes to ${move.to.name} ${weekday(move.on)}`;
  const aria = [
    `Build ${build.number}, ${build.title}`,
    percent(build.share),
    second + idle,
    waits ?? build.holds,
    goes,
    by && `eight times in ten done by ${day(by)}`,
  ]
    .filter(Boolean)
    .join(". ");
  const limit = Math.max(20, Math.floor((w + 4) / 5.5));
  const clip = (t: string) => shortened(t, limit);
  return (
    <a
      href={`/builds/${build.number}`}
      aria-label={aria}
      onClick={(e) => {
        if (e.metaKey || e.ctrlKey) return;
        e.preventDefault();
        onOpen(build);
      }}
    >
      {cures && (
        <Mist cx={cx} cy={cy} rx={(upright ? wide : long) / 2 + 10} ry={(upright ? long : wide) / 2 + 10} colour={build.colourHex} />
      )}
      <g transform={`translate(${f(cx)},${f(cy)}) scale(${cm.toFixed(4)})${upright ? " rotate(90)" : ""}`}>
        {body && <CarAbove body={body} coats={build.coats} paint={build.colourHex} />}
      </g>
      {build.onIt.map((o, i) => {
        const side = o.panels.some((p) => p.endsWith("L")) ? -1 : o.panels.some((p) => p.endsWith("R")) ? 1 : i % 2 ? -1 : 1;
        const [along, across] = [long * (0.12 - 0.22 * i), side * (wide / 2 + 7)];
        return upright ? (
          <PersonAbove key={o.personId} x={cx - across} y={cy + along} turn={side > 0 ? 0 : 180} />
        ) : (
          <PersonAbove key={o.personId} x={cx + along} y={cy + across} turn={side > 0 ? -90 : 90} />
        );
      })}
      {strata && (
        <>
          <StrataMini layers={build.layers} paint={build.colourHex} x={x + w - 52} y={y + 4} w={36} h={Math.min(80, d - 62)} ground={P0} />
          <text x={x + w - 52} y={textTop + 13} className="pc">
            {percent(build.share)}
          </text>
          {by && (
            <text x={x + w - 6} y={textTop + 28} className="wt" textAnchor="end">
              {shortDay(by)}
            </text>
          )}
        </>
      )}
      <g transform={`translate(${f(x + 7)},${f(textTop)})`}>
        <DabMark number={build.number} colour={build.colourHex} />
        <title>{build.title}</title>
        {!numberOnly && (
          <>
            <text x="37" y="13" className="vn">
              {shortened(build.title, Math.max(8, Math.floor((w - 44 - (strata ? 52 : 0)) / 7.4)))}
            </text>
            <text y="30" className="wh">
              {clip(second + idle)}
            </text>
          </>
        )}
        {!numberOnly && waits && (
          <text y="45" className="wo">
            {clip(waits)}
          </text>
        )}
        {!numberOnly && !waits && move && (on || build.holdsKind === "nothing") && (
          <text y="45" className="wt">
            {clip(
              `${forWhat(move)}${move.to.kind === "yard" ? ": to the yard" : ` at ${move.to.name}`} ${move.on === today() ? "today" : weekday(move.on)}`,
            )}
          </text>
        )}
        {!numberOnly && !waits && build.holdsKind !== "nothing" && HELD_FOR_MANAGER.has(build.holdsKind) === false && !on && (
          <text y="45" className="wt">
            {clip(build.holds)}
          </text>
        )}
      </g>
    </a>
  );
}

/** Drying: dots that thin out with the distance from the coat. */
function Mist({ cx, cy, rx, ry, colour }: { cx: number; cy: number; rx: number; ry: number; colour: string }) {
  const r = seeded(77);
  return (
    <g fill={colour} aria-hidden="true">
      {Array.from({ length: 420 }, (_, i) => {
        const a = r() * 2 * Math.PI;
        const t = r() ** 1.7;
        const x = cx + Math.sign(Math.cos(a)) * Math.abs(Math.cos(a)) ** 0.6 * (rx + t * 16);
        const y = cy + Math.sign(Math.sin(a)) * Math.abs(Math.sin(a)) ** 0.75 * (ry + t * 12);
        return <circle key={i} cx={f(x)} cy={f(y)} r={(0.6 + r() * 0.6).toFixed(1)} fillOpacity={(1 - 0.75 * t).toFixed(2)} />;
      })}
    </g>
  );
}

function AwayTable({ rows, x, y }: { rows: Schemas["AwayRow"][]; x: number; y: number }) {
  if (rows.length === 0) return null;
  return (
    <g>
      <text x={x} y={y} className="stn">
        Away
      </text>
      <text x={x + 340} y={y} className="stx" fontSize="11.5" textAnchor="end">
        here
      </text>
      <text x={x + 476} y={y} className="stx" fontSize="11.5" textAnchor="end">
        away for
      </text>
      {rows.slice(0, 5).map((r, i) => {
        const yy = y + 22 + i * 20.5;
        return (
          <g key={r.jobId}>
            <path d={`M${x},${yy - 14.5}h476`} stroke={P3} />
            <g transform={`translate(${x},${yy - 12})`}>
              <DabMark number={r.buildNumber} colour={r.colourHex} w={26} h={15} size={11} />
            </g>
            <text x={x + 33} y={yy} className="wh">
              {shortened(r.title, 22)}
              <title>{r.title}</title>
            </text>
            <text x={x + 170} y={yy} className="wt">
              {r.supplier}
            </text>
            <text x={x + 340} y={yy} textAnchor="end" className={r.late ? "wo" : "wh"} fill={r.late ? OXIDE : undefined}>
              {day(r.hereOn)}
            </text>
            <text x={x + 476} y={yy} textAnchor="end" className="wt">
              {r.awayDays >= 21 ? `${Math.round(r.awayDays / 7)} weeks` : `${r.awayDays} days`}
            </text>
          </g>
        );
      })}
    </g>
  );
}
