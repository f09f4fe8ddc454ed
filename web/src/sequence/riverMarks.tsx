import type { Schemas } from "../api/client";
import { f, polyline } from "../geometry";
import { CHALK, CHALK2, GUIDE, OXIDE_LT, seeded } from "../tokens";
import type { Operation } from "./strands";

const HAZARDS: Record<Schemas["Hazard"], string> = {
  welding: "M0,-4.6V-1.4M0,1.4V4.6M-4.6,0H-1.4M1.4,0H4.6M-3.2,-3.2L-1.2,-1.2M3.2,3.2L1.2,1.2M3.2,-3.2L1.2,-1.2M-3.2,3.2L-1.2,1.2",
  twoPack: "M-4.5,0h2.4M-.6,0h.1M1.4,-2h.1M1.4,2h.1M3.4,-3.6h.1M3.4,0h.1M3.4,3.6h.1",
  blasting: "M-4.4,-3L.6,-.4M-4.4,3L.6,.4M2,-2l2.4,-1.6M2.4,0h2.6M2,2l2.4,1.6",
  lifting: "M-4.4,-3.6H4.4M0,-3.6V2.8M-3,0L0,3.6L3,0",
  support: "M-4.4,-3.6H4.4M-3,-3.6L-4.4,4M3,-3.6L4.4,4",
  lead: "M-3.6,-4V4H3.6M-3.6,0h4",
  asbestos: "M-4,3.6L0,-4L4,3.6M-2,.8h4",
  fuel: "M0,-4.4C3,-.6 3.6,1 3.4,2.2A3.5,3.2 0 0 1 -3.4,2.2C-3.6,1 -3,-.6 0,-4.4Z",
  highVoltage: "M1.4,-4.6L-2.4,.6H1.6L-1.6,4.6",
  dust: "M-3.6,-2.6h.1M-.4,-3.8h.1M3,-2h.1M-2.2,.6h.1M1.2,.2h.1M3.6,2h.1M-.6,3.4h.1M-3.8,3h.1",
  airTools: "M-3.8,-2.2C-1.6,-4.4 1.6,-4.4 3.8,-2.2M-2.2,-.2C-1,-1.4 1,-1.4 2.2,-.2M0,1.8V4",
  firstDrive: "M4,0A4,4 0 1 1 -4,0A4,4 0 1 1 4,0M0,-4V-1.6M-3.4,2L-1.4,.8M3.4,2L1.4,.8",
};

/** What is dangerous about it, as a mark of the size of a letter. */
export function HazardMark({ x, y, hazard, colour = CHALK2 }: { x: number; y: number; hazard: Schemas["Hazard"]; colour?: string }) {
  return (
    <path
      transform={`translate(${f(x)},${f(y)})`}
      d={HAZARDS[hazard]}
      fill="none"
      stroke={colour}
      strokeWidth={1.3}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}

export type GateState = "signed" | "opened" | "ready" | "locked";

/** Ready: all that it checks is done, and it waits for a name. */
export function gateState(gate: Operation, byId: ReadonlyMap<string, Operation>): GateState {
  if (gate.doneAt) return gate.signatures.some((s) => s.overrideReason) ? "opened" : "signed";
  return gate.after.every((a) => byId.get(a.operation)?.doneAt !== null) ? "ready" : "locked";
}

/** A gate across the water: leaves along the walls where it is signed, meeting upstream where it is shut, one of them shut where it was opened without a signature. */
export function GateMark({ x, y, g, state, s = 1 }: { x: number; y: number; g: number; state: GateState; s?: number }) {
  const c = { signed: CHALK, locked: CHALK2, ready: OXIDE_LT, opened: CHALK }[state];
  const w = s < 0.8 ? 1.5 : 2.2;
  const [a, b] = [x + 4 * s, x - 3.5 * s];
  const walls = `M${f(x - 6 * s)},${f(y - g - 2)}h${f(12 * s)}M${f(x - 6 * s)},${f(y + g + 2)}h${f(12 * s)}`;
  const leaves = {
    signed: `M${f(x - 5 * s)},${f(y - g + 2.5)}h${f(10 * s)}M${f(x - 5 * s)},${f(y + g - 2.5)}h${f(10 * s)}`,
    opened: `M${f(a)},${f(y - g)}L${f(b)},${f(y)}M${f(x - 5 * s)},${f(y + g - 2.5)}h${f(10 * s)}M${f(x - 6 * s)},${f(y + 1)}q${f(6 * s)},${f(g)} ${f(12 * s)},0`,
    ready: `M${f(a)},${f(y - g)}L${f(b)},${f(y)}L${f(a)},${f(y + g)}`,
    locked: `M${f(a)},${f(y - g)}L${f(b)},${f(y)}L${f(a)},${f(y + g)}`,
  }[state];
  return (
    <g fill="none">
      <rect x={x - 6 * s} y={y - g} width={12 * s} height={2 * g} fill={GUIDE} />
      {(state === "signed" || state === "opened") && <path d={`M${f(x - 6 * s)},${f(y)}h${f(12 * s)}`} stroke={CHALK2} strokeWidth={1.3} />}
      <path d={walls} stroke="#828A8B" strokeWidth={s < 0.8 ? 2.4 : 3.4} />
      <path d={leaves} stroke={c} strokeWidth={w} strokeLinejoin="round" />
    </g>
  );
}

/** One piece of work as a reach of water: as wide as its hours, easing to its neighbours; the less sure it is, the longer its end thins. */
export function water(x1: number, x2: number, y: number, h: number, hl: number, hr: number, unsure: number, seed: number): string {
  const w = x2 - x1;
  const [el, er] = [Math.min(w * 0.3, 16), w * Math.min(0.62, 0.2 + 0.34 * unsure)];
  const n = Math.max(6, Math.round(w / 3));
  const top: [number, number][] = [];
  const bottom: [number, number][] = [];
  const ease = (t: number) => {
    const q = Math.max(0, Math.min(1, t));
    return q * q * (3 - 2 * q);
  };
  for (let i = 0; i <= n; i++) {
    const x = x1 + (w * i) / n;
    const hh = Math.min(hl + (h - hl) * ease((x - x1) / el), hr + (h - hr) * ease((x2 - x) / er));
    const k = 0.5 * Math.min(1, hh / 12);
    top.push([x, y - hh / 2 + k * Math.sin(x * 0.19 + seed * 2.1)]);
    bottom.push([x, y + hh / 2 + k * Math.sin(x * 0.23 + seed * 1.3)]);
  }
  return polyline([...top, ...bottom.reverse()], true);
}

/** Drying and curing: dense where it is wet, bare where it is dry. */
export function Stipple({ x1, x2, y, seed, colour }: { x1: number; x2: number; y: number; seed: number; colour: string }) {
  const random = seeded(seed + 3);
  const count = Math.min(90, Math.round((x2 - x1) * 1.6) + 6);
  const dots = Array.from({ length: count }, () => {
    const far = -Math.log(1 - random()) / 2;
    const t = far < 1 ? far : random();
    const r = 1.15 - 0.5 * t;
    const [cx, cy] = [x1 + t * (x2 - x1), y + (random() - 0.5) * 14 * (1 - 0.5 * t)];
    return `M${f(cx - r)},${f(cy)}a${f(r)},${f(r)} 0 1 0 ${f(2 * r)},0a${f(r)},${f(r)} 0 1 0 ${f(-2 * r)},0`;
  });
  return <path d={dots.join("")} fill={colour} />;
}

/** From one reach to the next: level at both ends; on the first one's lane as long as it can (`late`), or on the second's. */
export function strandPath(xa: number, ya: number, xb: number, yb: number, late: boolean): string {
  if (Math.abs(ya - yb) < 0.5) return `M${f(xa)},${f(ya)}H${f(xb)}`;
  if (xb <= xa + 2) return `M${f(xa)},${f(ya)}C${f(xa + 14)},${f(ya)} ${f(xb - 14)},${f(yb)} ${f(xb)},${f(yb)}`;
  const d = Math.min(xb - xa, Math.abs(ya - yb) < 60 ? 18 : 40);
  const s = late ? xb - d : xa;
  return `M${f(xa)},${f(ya)}H${f(s)}C${f(s + d * 0.55)},${f(ya)} ${f(s + d * 0.45)},${f(yb)} ${f(s + d)},${f(yb)}H${f(xb)}`;
}

/** A box drawn by hand. */
export function handBox(x1: number, y1: number, x2: number, y2: number): string {
  const random = seeded(Math.round(x1 + y1));
  const j = () => (random() - 0.5) * 3;
  const side = (a: [number, number], b: [number, number]): [number, number][] =>
    [0, 0.33, 0.66].map((t) => [a[0] + (b[0] - a[0]) * t + j(), a[1] + (b[1] - a[1]) * t + j()]);
  return polyline(
    [...side([x1, y1], [x2, y1]), ...side([x2, y1], [x2, y2]), ...side([x2, y2], [x1, y2]), ...side([x1, y2], [x1, y1])],
    true,
  );
}

const TUB = "M-20,-8C-20,-12 -12,-12 -9,-12L-5,-20C-2,-21.5 10,-21.5 13,-19L17,-12C20,-12 21,-10 21,-8Z";

/** How the shell is held, from the side. */
export function HeldMark({ x, y, held, colour = CHALK2 }: { x: number; y: number; held: Schemas["SupportState"]; colour?: string }) {
  const wheels = [-18, 17].map((q) => <circle key={q} cx={q} cy={-4.4} r={4.2} fill={GUIDE} strokeWidth={1.6} />);
  const parts = {
    ownChassis: (
      <>
        <path d="M-27,-6H26" strokeWidth={2.4} />
        <path d={TUB} transform="translate(0,1)" />
        {wheels}
      </>
    ),
    wheels: (
      <>
        <path d={TUB} transform="translate(0,1)" />
        <path d="M-25,-8C-24,-12 -18,-12 -12,-12" />
        {wheels}
      </>
    ),
    jig: (
      <>
        <path d="M-29,-1H28" strokeWidth={2.4} />
        <path d="M-22,-1V-7M-10,-1V-7M8,-1V-7M20,-1V-7M-26,-8H25" strokeWidth={1.6} />
        <path d={TUB} transform="translate(0,-1.5)" />
      </>
    ),
    cart: (
      <>
        <path d={`M-24,-5H23M-24,-7.4H23${TUB}`} />
        {[-21, -7, 7, 20].map((q) => (
          <circle key={q} cx={q} cy={-2} r={2} />
        ))}
      </>
    ),
    rotisserie: (
      <>
        <path d="M-33,0L-29,-14L-25,0M25,0L29,-14L33,0M-36,0h14M22,0h14M-30,-13H30" strokeWidth={1.4} />
        <path d={TUB} transform="rotate(180 0 -13)" />
      </>
    ),
  }[held];
  return (
    <g transform={`translate(${f(x)},${f(y)}) scale(0.82)`} fill="none" stroke={colour} strokeWidth={1.2}>
      {parts}
    </g>
  );
}

/** What the metal, the blast and the filler look like, over their colours. */
export function Textures() {
  const random = seeded(8);
  const brush = Array.from({ length: 110 }, (_, i) => `M${f(random() * 80 - 20)},${f((i % 60) * 1.1)}h${f(16 + random() * 34)}`).join("");
  const grains = Array.from({ length: 90 }, () => `M${f(random() * 40)},${f(random() * 40)}h.1`).join("");
  return (
    <defs>
      <pattern id="river-metal" width={70} height={66} patternUnits="userSpaceOnUse">
        <path d={brush} stroke="#FFFFFF" strokeWidth={0.6} strokeOpacity={0.16} />
      </pattern>
      <pattern id="river-strip" width={40} height={40} patternUnits="userSpaceOnUse">
        <path d={grains} stroke="#FFFFFF" strokeWidth={1} strokeLinecap="round" strokeOpacity={0.45} />
      </pattern>
      <pattern id="river-fill" width={26} height={22} patternUnits="userSpaceOnUse">
        <path d="M2,5l7,1.6M13,13l8,1M4,18l6,1" stroke="#8A6543" strokeOpacity={0.6} />
      </pattern>
    </defs>
  );
}
