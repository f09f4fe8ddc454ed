import type { Schemas } from "../api/client";
import { f } from "../geometry";
import { CarAbove } from "../pictures/CarAbove";
import { CHALK, CHALK2, GUIDE, GUIDE3 } from "../tokens";

type Station = Schemas["StationOfRound"];

/** A picture shows the side that it was taken from, not the one behind: it reaches as far as the middle of what it is aimed at, in centimetres. */
const BEYOND = 12;

/** The wedge that a picture takes in, from where it is taken. */
export function wedge(s: Pick<Station, "at" | "aim" | "halfAngle">): string {
  const turn = Math.atan2(s.aim.y - s.at.y, s.aim.x - s.at.x);
  const half = (s.halfAngle * Math.PI) / 180;
  const reach = (Math.hypot(s.aim.x - s.at.x, s.aim.y - s.at.y) + BEYOND) / Math.cos(half);
  const end = (a: number) => `${f(s.at.x + reach * Math.cos(a))},${f(s.at.y + reach * Math.sin(a))}`;
  return `M${f(s.at.x)},${f(s.at.y)}L${end(turn - half)}L${end(turn + half)}Z`;
}

/** The vehicle from above, nose to the right: bright is what a picture shows, dark what none does. */
export function RoundPicture({
  stations,
  body,
  paint,
  chosen,
  onChoose,
}: {
  stations: Station[];
  body: Schemas["BodyView"];
  paint: string;
  chosen: string | null;
  onChoose: (key: string) => void;
}) {
  const length = body.dimensions.lengthMm / 10;
  // The plan has the nose at the top; the picture lies on its side.
  const place = (p: { x: number; y: number }) => ({ x: length - p.y, y: p.x });
  const turned = stations.map((s) => ({ ...s, at: place(s.at), aim: place(s.aim) }));
  const taken = turned.filter((s) => s.photoId);
  const middle = { x: length / 2, y: 0 };
  const next = turned.find((s) => !s.photoId);
  return (
    <svg viewBox={`${-235} ${-330} ${length + 470} 660`} className="block w-full" role="group" aria-label="The round of pictures">
      <defs>
        <clipPath id="shown">
          {taken.map((s) => (
            <path key={s.key} d={s.halfAngle > 0 ? wedge(s) : `M${s.at.x - 30},${s.at.y - 30}h60v60h-60Z`} />
          ))}
        </clipPath>
      </defs>
      {taken
        .filter((s) => s.halfAngle > 0)
        .map((s) => (
          <path key={s.key} d={wedge(s)} fill={CHALK} fillOpacity=".06" />
        ))}
      <g opacity=".16" transform={`translate(${middle.x},${middle.y})`}>
        <CarAbove body={body} coats={{}} paint={paint} />
      </g>
      <g clipPath="url(#shown)">
        <g transform={`translate(${middle.x},${middle.y})`}>
          <CarAbove body={body} coats={{}} paint={paint} />
        </g>
      </g>
      {turned.map((s, i) => {
        const close = s.halfAngle === 0;
        const done = s.photoId !== null;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list beside the picture does the same by keyboard
          <g key={s.key} className="cursor-pointer" onClick={() => onChoose(s.key)}>
            {close ? (
              <rect
                x={s.at.x - 17}
                y={s.at.y - 17}
                width="34"
                height="34"
                fill={done ? CHALK : GUIDE}
                stroke={CHALK}
                strokeWidth={chosen === s.key ? 5 : 2}
                strokeDasharray={done ? undefined : "6 4"}
              />
            ) : (
              <circle
                cx={s.at.x}
                cy={s.at.y}
                r="19"
                fill={done ? CHALK : GUIDE}
                stroke={next?.key === s.key || chosen === s.key ? CHALK : CHALK2}
                strokeWidth={chosen === s.key ? 5 : 2}
                strokeDasharray={done ? undefined : "6 4"}
              />
            )}
            <text x={s.at.x} y={s.at.y + 7} textAnchor="middle" fontSize="20" fontWeight="700" fill={done ? GUIDE : CHALK}>
              {i + 1}
            </text>
            {!close && (
              <text x={s.at.x} y={s.at.y + (s.at.y < 0 ? -28 : 42)} textAnchor="middle" fontSize="17" fill={done ? CHALK2 : CHALK}>
                {s.name}
              </text>
            )}
          </g>
        );
      })}
      <path d="M-215,312h200M-215,305v14M-15,305v14" stroke={GUIDE3} strokeWidth="3" />
      <text x="-6" y="318" fontSize="17" fill={CHALK2}>
        2 m
      </text>
    </svg>
  );
}
