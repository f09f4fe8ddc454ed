import type { Schemas } from "../api/client";
import { layerColour } from "../pictures/Strata";
import { INK, P1, P4 } from "../tokens";
import { HeldMark } from "./riverMarks";

const W = 62;
const H = 26;

/** Stages in the order of an answer, as blocks; a wheel where it has run by then. */
function Blocks({ stages, runs, paint }: { stages: Schemas["Stage"][]; runs: number; paint: string }) {
  const w = W / stages.length;
  return (
    <>
      {stages.map((s, i) => (
        <rect key={s + String(i)} x={i * w} y={3} width={w - 1.5} height={14} fill={layerColour(s, paint)} />
      ))}
      {stages.map((s, i) =>
        i >= runs ? <circle key={s + String(i)} cx={i * w + w / 2 - 1} cy={21} r={3} fill={P1} stroke={INK} strokeWidth={1.4} /> : null,
      )}
    </>
  );
}

/** Layers from the metal up. */
function Layers({ of, paint }: { of: [Schemas["Stage"], number][]; paint: string }) {
  let y = H - 2;
  return of.map(([stage, h], i) => {
    y -= h;
    return (
      <path
        key={stage + String(i)}
        d={`M0,${y + h}V${y + 1}C15,${y - 1} 30,${y + 2} 45,${y}S58,${y} ${W},${y + 1}V${y + h}Z`}
        fill={layerColour(stage, paint)}
      />
    );
  });
}

const line = { fill: "none", stroke: INK, strokeWidth: 1.5, strokeLinecap: "round" as const };

/** A body from above with its open side, or both, hatched. */
const Halves = ({ both }: { both: boolean }) => (
  <>
    <rect x={1} y={3} width={W - 2} height={10} fill={layerColour("metal", "")} stroke={INK} strokeWidth={1.2} />
    <rect x={1} y={13} width={W - 2} height={10} fill={both ? layerColour("metal", "") : P1} stroke={INK} strokeWidth={1.2} />
    {(both ? [3, 13] : [3]).map((y) => (
      <path key={y} d={[8, 20, 32, 44, 54].map((x) => `M${x},${y + 2}v6`).join("")} {...line} stroke={P1} strokeWidth={1.2} />
    ))}
  </>
);

const cone = (x: number) => `M${x},4l7,4M${x},22l7,-4M${x + 9},8l3,-2M${x + 9},18l3,2`;

/** What an answer looks like, in the size of two lines. */
export function AnswerMark({ school, answer, paint }: { school: Schemas["School"]; answer: string; paint: string }) {
  const marks: Record<string, React.ReactNode> = {
    "order paint-then-assemble": <Blocks stages={["metal", "fill", "colour", "assembly"]} runs={3} paint={paint} />,
    "order drive-first": <Blocks stages={["metal", "assembly", "fill", "colour", "assembly"]} runs={1} paint={paint} />,
    "sides oneAtATime": <Halves both={false} />,
    "sides both": <Halves both />,
    "blast bareFirst": (
      <>
        <path d={cone(2)} {...line} />
        <rect x={20} y={4} width={42} height={18} fill={layerColour("strip", "")} />
      </>
    ),
    "blast afterFabrication": (
      <>
        <rect x={0} y={4} width={42} height={18} fill={layerColour("metal", "")} />
        <path d={cone(47)} {...line} />
      </>
    ),
    "blast whereNeeded": (
      <>
        <rect x={0} y={4} width={W} height={18} fill={layerColour("metal", "")} />
        {[12, 34, 50].map((x) => (
          <circle key={x} cx={x} cy={x === 34 ? 17 : 10} r={4} fill={layerColour("strip", "")} />
        ))}
      </>
    ),
    "filler epoxyFirst": (
      <Layers
        of={[
          ["metal", 8],
          ["epoxy", 4],
          ["fill", 8],
        ]}
        paint={paint}
      />
    ),
    "filler fillerFirst": (
      <Layers
        of={[
          ["metal", 8],
          ["fill", 8],
          ["epoxy", 4],
        ]}
        paint={paint}
      />
    ),
    "gaps both": <Gap bare coat />,
    "gaps beforeFinish": <Gap bare />,
    "gaps afterUniformCoat": <Gap coat />,
    "wiring afterPaint": <Loom ground={paint} />,
    "wiring onBareMetal": <Loom ground={layerColour("metal", "")} />,
    "trim inHouse": <Stitch away={false} />,
    "trim visiting": <Stitch away />,
  };
  return (
    <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} aria-hidden="true">
      {school === "hold" ? (
        <g transform="translate(31,24)">
          <HeldMark x={0} y={0} held={answer as Schemas["SupportState"]} colour={INK} />
        </g>
      ) : (
        marks[`${school} ${answer}`]
      )}
    </svg>
  );
}

/** Two panels and the line between them; judged in metal, in one coat, or in both. */
const Gap = ({ bare, coat }: { bare?: boolean; coat?: boolean }) => (
  <>
    {bare && <path d="M0,3H28V11H0ZM32,3H62V11H32Z" fill={layerColour("metal", "")} />}
    {coat && <path d={bare ? "M0,14H28V22H0ZM32,14H62V22H32Z" : "M0,8H28V18H0ZM32,8H62V18H32Z"} fill={layerColour("fill", "")} />}
    {bare && !coat && <path d="M0,14H28M32,14H62" stroke={P4} strokeDasharray="2,3" />}
    <path d="M30,1V25" {...line} strokeWidth={1} />
  </>
);

const Loom = ({ ground }: { ground: string }) => (
  <>
    <rect x={0} y={3} width={W} height={20} fill={ground} />
    <path d="M0,13H24M24,13C32,13 32,7 40,7H62M24,13C32,13 32,19 40,19H62" fill="none" stroke={P1} strokeWidth={1.6} />
  </>
);

const Stitch = ({ away }: { away: boolean }) => (
  <>
    <path d="M8,4H54V22H8Z" fill={layerColour("trim", "")} />
    <path d="M12,13H50" stroke={INK} strokeWidth={1.4} strokeDasharray="4,3" />
    {away && <path d="M0,13h5M2.5,10.5L5,13L2.5,15.5" {...line} />}
  </>
);
