import type { Schemas } from "../api/client";
import { CHALK, CHALK2, INK, mix } from "../tokens";

type Step = Schemas["StepView"];

/** A part as it is drawn: its outline in millimetres, its fill, and where its number stands. */
type Part = { path: string; fill: string; at: [number, number]; line?: boolean };

const STEEL = "#8A8377";
const GLASS = "#5C6F72";
const METAL = "#9AA6AB";
const CARD = "#6B4A33";

/** One door from inside, hinges on the left; the other side is its mirror. Own drawing, 980 by 1180 mm. */
const DOOR: Record<string, Part> = {
  glass: { path: "M330,96L742,120L792,600L330,600Z", fill: GLASS, at: [560, 330] },
  quarter: { path: "M302,110L318,600L96,600L176,190Q206,124 302,110Z", fill: GLASS, at: [226, 470] },
  rail: {
    path: "M60,640L150,168Q186,76 318,70L748,86Q796,92 806,150L860,640L800,640L752,150L330,118Q236,120 204,196L118,640Z",
    fill: mix(STEEL, "#FFFFFF", 0.22),
    at: [610, 84],
  },
  channel: { path: "M800,150L832,150L880,860L846,860Z", fill: METAL, at: [872, 250], line: true },
  card: { path: "M64,660H872L884,1090Q884,1120 852,1120H96Q64,1120 64,1090Z", fill: CARD, at: [150, 1060] },
  regulator: {
    path: "M300,650H700V690H560L640,900L604,916L520,730L420,840L460,880V960H330V840L390,790L490,690H300Z",
    fill: METAL,
    at: [420, 910],
  },
  rod: { path: "M470,860Q640,826 800,846L798,862Q640,846 474,878Z", fill: METAL, at: [640, 808], line: true },
  winder: { path: "M430,990a34,34 0 1 1 60,20l70,46l-14,22l-78,-50a34,34 0 0 1 -38,-38Z", fill: "#C9CDCB", at: [566, 1010] },
  latch: { path: "M806,770H900V930H840L806,880ZM900,820H930V850H900Z", fill: METAL, at: [800, 980] },
};

const DOOR_SHELL =
  "M30,640L128,140Q166,36 320,30L760,44Q840,52 848,140L912,640V1100Q912,1150 864,1150H84Q30,1150 30,1100ZM150,640L214,206Q240,130 322,126L748,142L800,640Z";

/** A front end seen from before, 1640 by 900 mm; own drawing. */
const FRONT: Record<string, Part> = {
  panel: { path: "M330,430H1310V640H330Z", fill: mix(STEEL, "#000000", 0.2), at: [420, 560] },
  radiator: { path: "M520,330H1120V600H520Z", fill: "#5E6A66", at: [640, 360] },
  battery: { path: "M1130,300H1270V400H1130Z", fill: "#4A5053", at: [1200, 350] },
  bonnet: { path: "M380,300Q420,120 820,112Q1220,120 1260,300Q820,250 380,300Z", fill: STEEL, at: [820, 190] },
  wingL: { path: "M60,760Q40,420 210,330Q300,290 372,306Q330,430 330,640Q250,650 196,760Z", fill: STEEL, at: [120, 560] },
  wingR: { path: "M1580,760Q1600,420 1430,330Q1340,290 1268,306Q1310,430 1310,640Q1390,650 1444,760Z", fill: STEEL, at: [1520, 560] },
  lamps: {
    path: "M212,480a84,84 0 1 1 168,0a84,84 0 1 1 -168,0ZM1260,480a84,84 0 1 1 168,0a84,84 0 1 1 -168,0Z",
    fill: "#C9CDCB",
    at: [296, 480],
  },
  grille: { path: "M450,420Q820,392 1190,420L1150,600Q820,620 490,600Z", fill: "#B9BDB8", at: [1040, 500] },
  valance: { path: "M240,690H1400L1330,800H310Z", fill: mix(STEEL, "#FFFFFF", 0.12), at: [820, 770] },
  bumper: { path: "M120,650H1520Q1560,650 1560,686Q1560,720 1520,720H120Q80,720 80,686Q80,650 120,650Z", fill: "#D5D8D6", at: [1400, 686] },
};

/** Parts in the order in which they are painted: what lies deeper first. */
const DOOR_ORDER = ["quarter", "glass", "channel", "regulator", "rod", "latch", "card", "rail", "winder"];
const FRONT_ORDER = ["radiator", "battery", "panel", "wingL", "wingR", "valance", "grille", "bonnet", "lamps", "bumper"];

type Props = {
  kind: Schemas["AssemblyKind"];
  side: Schemas["PanelSide"];
  steps: Step[];
  chosen: string | null;
  onChoose: (key: string) => void;
  /** Putting back: what is still off is dashed, what is back is painted. */
  paint?: string;
  /** A small picture: larger numbers, no bags. */
  small?: boolean;
};

/** A sub-assembly as it stands: what is off is a dashed outline with its bag, what can come off next has a chalk edge. */
export function AssemblyPicture({ kind, side, steps, chosen, onChoose, paint, small = false }: Props) {
  if (kind === "list") return null;
  const door = kind === "door";
  const parts = door ? DOOR : FRONT;
  const [w, h] = door ? [980, 1180] : [1640, 900];
  const mirror = door && side === "left";
  const x = (v: number) => (mirror ? w - v : v);
  const byKey = new Map(steps.map((s) => [s.key, s]));
  return (
    <svg viewBox={`-20 0 ${w + 40} ${h}`} className="block w-full max-h-[560px]" role="group" aria-label="Drawn parts">
      <g transform={mirror ? `translate(${w},0) scale(-1,1)` : undefined}>
        {door && (
          <>
            <path d={DOOR_SHELL} fill={paint ?? mix(STEEL, "#000000", 0.16)} fillRule="evenodd" stroke={INK} strokeWidth="4" />
            <path d="M-8,700h40v84h-40ZM-8,980h40v84h-40Z" fill="#5A5F60" stroke={INK} strokeWidth="3" />
            <path d="M300,700H720V1010H300Z" fill="#2B2A28" />
          </>
        )}
        {(door ? DOOR_ORDER : FRONT_ORDER).map((key) => {
          const part = parts[key];
          const step = byKey.get(key);
          if (!part || !step) return null;
          const away = step.off && !step.back;
          const next = !step.off && step.first.length === 0;
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: the list beside the picture does the same by keyboard
            <path
              key={key}
              d={part.path}
              fill={away ? "none" : part.fill}
              fillOpacity={part.fill === GLASS ? 0.85 : 1}
              stroke={away || next || chosen === key ? CHALK : INK}
              strokeWidth={chosen === key ? 9 : away ? 4 : next ? 6 : 3}
              strokeDasharray={away ? "16 11" : undefined}
              className="cursor-pointer"
              onClick={() => onChoose(key)}
            />
          );
        })}
      </g>
      {steps.map((s, i) => {
        const part = parts[s.key];
        if (!part) return null;
        const [px, py] = part.at;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list beside the picture does the same by keyboard
          <g key={s.key} className="cursor-pointer" onClick={() => onChoose(s.key)}>
            <circle
              cx={x(px)}
              cy={py}
              r={(door ? 21 : 24) * (small ? 1.9 : 1)}
              fill="#262B2E"
              stroke={chosen === s.key ? CHALK : CHALK2}
              strokeWidth="3"
            />
            <text x={x(px)} y={py + (small ? 17 : 9)} textAnchor="middle" fontSize={small ? 50 : 26} fontWeight="700" fill={CHALK}>
              {i + 1}
            </text>
            {!small && s.off && !s.back && s.bag && (
              <text x={x(px)} y={py + (door ? 48 : 54)} textAnchor="middle" fontSize="25" fontWeight="660" fill={CHALK}>
                {s.bag}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
