import type { Schemas } from "../api/client";
import { f } from "../geometry";
import { CHALK, GUIDE, mix, seeded } from "../tokens";

type Coat = Schemas["Coat"];

const TINTS: Partial<Record<Coat, string>> = {
  bareSteel: "#8C969B",
  blasted: "#B4B8B6",
  etch: "#A3A963",
  epoxy: "#565D60",
  filler: "#C29C78",
  highBuild: "#D0C9AE",
  blocked: "#BCB5A0",
  sealer: "#DDE0DE",
  weatheredAsh: "#9C9588",
  newAsh: "#DCC89C",
  varnished: "#A36B37",
};

/** The flat colour of a coat on a build of this paint; "as found" is the paint, dulled. */
export const tint = (coat: Coat, paint: string) => TINTS[coat] ?? (coat === "asFound" ? mix(paint, "#8E8F88", 0.42) : paint);

const WOOD: Coat[] = ["weatheredAsh", "newAsh", "varnished"];
export const isWood = (coat: Coat) => WOOD.includes(coat);

function Dots({
  n,
  w,
  colour,
  opacity,
  min,
  max,
  seed,
}: {
  n: number;
  w: number;
  colour: string;
  opacity: number;
  min: number;
  max: number;
  seed: number;
}) {
  const r = seeded(seed);
  return (
    <g fill={colour} fillOpacity={opacity}>
      {Array.from({ length: n }, (_, i) => (
        <circle key={i} cx={f(r() * w)} cy={f(r() * w)} r={(min + (max - min) * r()).toFixed(2)} />
      ))}
    </g>
  );
}

function Tile({ id, w, h = w, children, turn }: { id: string; w: number; h?: number; children: React.ReactNode; turn?: number }) {
  return (
    <pattern id={id} width={w} height={h} patternUnits="userSpaceOnUse" patternTransform={turn ? `rotate(${turn})` : undefined}>
      {children}
    </pattern>
  );
}

/** Texture of every coat: no two neighbours in the order differ by hue alone. Ids carry the prefix. */
export function FinishDefs({ prefix, paint, scale = 1 }: { prefix: string; paint: string; scale?: number }) {
  const id = (c: Coat) => `${prefix}-${c}`;
  const brush = seeded(3);
  const old = seeded(17);
  const wood = seeded(5);
  const soft = mix(paint, "#FFFFFF", 0.46);
  return (
    <defs>
      <Tile id={id("bareSteel")} w={80} h={90}>
        <rect width="80" height="90" fill={TINTS.bareSteel} />
        {Array.from({ length: 200 }, (_, j) => (
          <path
            key={j}
            d={`M${f(brush() * 90 - 20)},${f(j * 0.45)}h${f(20 + brush() * 50)}`}
            stroke={brush() < 0.5 ? "#FFFFFF" : "#5F696E"}
            strokeWidth=".5"
            strokeOpacity={0.1 + brush() * 0.2}
          />
        ))}
      </Tile>
      <Tile id={id("blasted")} w={40}>
        <rect width="40" height="40" fill={TINTS.blasted} />
        <Dots n={90} w={40} colour="#7C8280" opacity={0.5} min={0.25} max={0.5} seed={1} />
        <Dots n={60} w={40} colour="#FFFFFF" opacity={0.5} min={0.2} max={0.45} seed={2} />
      </Tile>
      <Tile id={id("etch")} w={60}>
        <rect width="60" height="60" fill={TINTS.etch} />
        <path d="M-10,20L70,-10M-10,48L70,18M-10,76L70,46" stroke="#B7BC80" strokeWidth="7" strokeOpacity=".32" />
      </Tile>
      <Tile id={id("epoxy")} w={20}>
        <rect width="20" height="20" fill={TINTS.epoxy} />
      </Tile>
      <Tile id={id("filler")} w={46}>
        <rect width="46" height="46" fill={TINTS.filler} />
        <path d="M2,8l9,2M20,20l10,1M34,6l8,2M8,34l11,2M30,38l9,1" stroke="#A9835E" strokeOpacity=".45" />
      </Tile>
      <Tile id={id("highBuild")} w={20}>
        <rect width="20" height="20" fill={TINTS.highBuild} />
      </Tile>
      <Tile id={id("blocked")} w={48}>
        <rect width="48" height="48" fill={TINTS.blocked} />
        <Dots n={46} w={48} colour={GUIDE} opacity={0.62} min={0.3} max={0.75} seed={7} />
        <Dots n={90} w={48} colour={GUIDE} opacity={0.34} min={0.2} max={0.45} seed={8} />
      </Tile>
      <Tile id={id("sealer")} w={20}>
        <rect width="20" height="20" fill={TINTS.sealer} />
      </Tile>
      <Tile id={id("base")} w={20}>
        <rect width="20" height="20" fill={paint} />
      </Tile>
      <linearGradient id={id("clear")} x1="0" y1="0" x2="0" y2="1">
        <stop offset="0" stopColor={mix(paint, "#FFFFFF", 0.14)} />
        <stop offset=".42" stopColor={paint} />
        <stop offset=".5" stopColor={mix(paint, "#FFFFFF", 0.26)} />
        <stop offset=".8" stopColor={paint} />
        <stop offset="1" stopColor={mix(paint, "#000000", 0.2)} />
      </linearGradient>
      <linearGradient id={id("polished")} x1="0" y1="0" x2=".35" y2="1">
        <stop offset="0" stopColor={mix(paint, "#FFFFFF", 0.3)} />
        <stop offset=".34" stopColor={paint} />
        <stop offset=".36" stopColor={soft} />
        <stop offset=".43" stopColor={soft} />
        <stop offset=".45" stopColor={paint} />
        <stop offset=".62" stopColor={paint} />
        <stop offset=".63" stopColor={mix(paint, "#FFFFFF", 0.34)} />
        <stop offset=".65" stopColor={paint} />
        <stop offset="1" stopColor={mix(paint, "#000000", 0.3)} />
      </linearGradient>
      <Tile id={id("asFound")} w={60}>
        <rect width="60" height="60" fill={tint("asFound", paint)} />
        {Array.from({ length: 9 }, (_, i) => (
          <ellipse
            key={i}
            cx={f(10 + old() * 40)}
            cy={f(10 + old() * 40)}
            rx={f(4 + old() * 6)}
            ry={f(3 + old() * 5)}
            fill={old() < 0.5 ? "#FFFFFF" : "#1B2023"}
            fillOpacity=".055"
          />
        ))}
        {Array.from({ length: 22 }, (_, i) => (
          <circle
            key={`c${i}`}
            cx={f(3 + old() * 54)}
            cy={f(3 + old() * 54)}
            r={(0.4 + old() ** 3 * 1.9).toFixed(2)}
            fill={["#5E4130", "#6B4C3A", "#4E382B", "#8B9092"][Math.floor(old() * 4)]}
            fillOpacity=".8"
          />
        ))}
      </Tile>
      {WOOD.map((c) => (
        <Tile key={c} id={id(c)} w={40} turn={90}>
          <rect width="40" height="40" fill={TINTS[c]} />
          {Array.from({ length: 22 }, (_, i) => {
            const y = wood() * 40;
            const d = (wood() - 0.5) * 3.2;
            return (
              <path
                key={i}
                d={`M0,${f(y)}C14,${f(y + d)} 26,${f(y - d)} 40,${f(y)}`}
                stroke={mix(TINTS[c] ?? CHALK, i % 3 ? "#3A2411" : "#FFFFFF", 0.55)}
                strokeOpacity={0.25 + wood() * 0.25}
                strokeWidth={0.3 + wood() * 0.5}
                fill="none"
              />
            );
          })}
        </Tile>
      ))}
      <pattern id={`${prefix}-replace`} width={10 / scale} height={10 / scale} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d={`M0,${5 / scale}H${10 / scale}`} stroke="#14181A" strokeOpacity=".7" strokeWidth={4.2 / scale} />
        <path d={`M0,${5 / scale}H${10 / scale}`} stroke={CHALK} strokeWidth={1.7 / scale} />
      </pattern>
      <pattern id={`${prefix}-newMetal`} width={5 / scale} height={5 / scale} patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <path d={`M0,${2.5 / scale}H${5 / scale}`} stroke={GUIDE} strokeWidth={1.1 / scale} />
      </pattern>
      <linearGradient id={`${prefix}-crown`} x1="0" x2="1" y1="0" y2="0">
        <stop offset="0" stopColor="#14181A" stopOpacity=".26" />
        <stop offset=".3" stopColor="#FFFFFF" stopOpacity=".06" />
        <stop offset=".5" stopColor="#FFFFFF" stopOpacity=".16" />
        <stop offset=".7" stopColor="#FFFFFF" stopOpacity=".04" />
        <stop offset="1" stopColor="#14181A" stopOpacity=".26" />
      </linearGradient>
      <linearGradient id={`${prefix}-side`} x1="0" x2="1" y1="0" y2="0">
        <stop offset="0" stopColor="#14181A" stopOpacity=".12" />
        <stop offset=".25" stopColor="#FFFFFF" stopOpacity=".14" />
        <stop offset="1" stopColor="#14181A" stopOpacity=".24" />
      </linearGradient>
    </defs>
  );
}

/** A swatch of a coat for a legend. */
export function Swatch({
  prefix,
  coat,
  x,
  y,
  w = 30,
  h = 15,
}: {
  prefix: string;
  coat: Coat;
  x: number;
  y: number;
  w?: number;
  h?: number;
}) {
  return <rect x={x} y={y} width={w} height={h} fill={`url(#${prefix}-${coat})`} />;
}
