import { f } from "../geometry";
import { inkOn, seeded } from "../tokens";

/** One stroke of a build's own paint: its mark everywhere, always with its number. */
export function dabPath(w: number, h: number, seed: number): string {
  const r = seeded(seed * 97 + 11);
  const between = (a: number, b: number) => a + (b - a) * r();
  let d = `M1,${f(h * 0.2)}C${f(w * 0.3)},${f(between(-0.03, 0.05) * h)} ${f(w * 0.6)},${f(between(0.02, 0.09) * h)} ${f(w * 0.9)},${f(h * 0.05)}`;
  let y = h * 0.05;
  for (let i = 0; i < 4; i++) {
    const next = h * (0.05 + (0.9 * (i + 1)) / 4);
    d += `L${f(w * (0.9 + between(0.02, 0.1)))},${f(y + (next - y) * 0.5)}L${f(w * (0.86 + between(0, 0.07)))},${f(next)}`;
    y = next;
  }
  return `${d}C${f(w * 0.6)},${f(h)} ${f(w * 0.3)},${f(h * 0.93)} 1,${f(h * 0.86)}C-1,${f(h * 0.6)} -0.6,${f(h * 0.4)} 1,${f(h * 0.2)}Z`;
}

type DabProps = { number: number; colour: string; w?: number; h?: number; size?: number };

/** A long number is written smaller, so that all of it stands on its stroke. */
const sizeFor = (number: number, w: number, size: number) => Math.min(size, (w * 0.82) / (String(number).length * 0.56));

/** The dab inside a picture. */
export function DabMark({ number, colour, w = 30, h = 17, size: most = 12 }: DabProps) {
  const size = sizeFor(number, w, most);
  return (
    <>
      <path d={dabPath(w, h, number)} fill={colour} />
      <text className="dabn" x={w * 0.44} y={h * 0.5 + size * 0.36} textAnchor="middle" fill={inkOn(colour)} fontSize={size}>
        {number}
      </text>
    </>
  );
}

/** The dab beside words. */
export function Dab(props: DabProps) {
  const { w = 30, h = 17 } = props;
  return (
    <svg width={w} height={h} viewBox={`0 0 ${w} ${h}`} role="img" aria-label={`build ${props.number}`} className="inline-block flex-none">
      <DabMark {...props} />
    </svg>
  );
}
