import type { Schemas } from "../api/client";
import { INK, P3 } from "../tokens";

type Step = Schemas["StepView"];
const ROW = 54;
const SCALE = 2.3;

const minutes = (seconds: number) => Math.round(seconds / 60);

/** Steps in order: an arc leads from what must be off first; upper bar the other side, hatched was finding out, lower bar this one. */
export function StepOrder({
  steps,
  chosen,
  onChoose,
  colour,
}: {
  steps: Step[];
  chosen: string | null;
  onChoose: (key: string) => void;
  colour: string;
}) {
  const at = (key: string) => steps.findIndex((s) => s.key === key) * ROW + ROW / 2;
  const most = Math.max(
    30,
    ...steps.map((s) =>
      Math.max(s.expected, ((s.twinDoingSeconds ?? 0) + (s.twinFindingSeconds ?? 0)) / 60, (s.doingSeconds + s.findingSeconds) / 60),
    ),
  );
  const scale = Math.min(SCALE, 130 / most);
  const chain = new Set(steps.find((s) => s.key === chosen)?.chain ?? []);
  return (
    <div className="relative">
      <svg width="40" height={steps.length * ROW} className="absolute left-0 top-0" aria-hidden="true">
        {steps.flatMap((s) =>
          s.after.map((a) => {
            const [from, to] = [at(a.step), at(s.key)];
            const bow = Math.min(30, 8 + Math.abs(to - from) / 14);
            const lit = chain.has(s.key) && chain.has(a.step);
            return (
              <path
                key={`${a.step}${s.key}`}
                d={`M38,${from}C${38 - bow},${from + 8} ${38 - bow},${to - 8} 38,${to}`}
                fill="none"
                stroke={lit ? INK : P3}
                strokeWidth={lit ? 2 : 1}
              />
            );
          }),
        )}
      </svg>
      <ol className="pl-10">
        {steps.map((s, i) => (
          <li key={s.key} className="border-t border-p2" style={{ height: ROW }}>
            <button
              type="button"
              aria-pressed={s.key === chosen}
              onClick={() => onChoose(s.key)}
              className={`grid grid-cols-[28px_minmax(0,1fr)_112px_150px] max-[700px]:grid-cols-[24px_minmax(0,1fr)_56px] gap-2 items-center w-full h-full text-left ${s.key === chosen ? "bg-p0" : ""}`}
            >
              <b className="num text-[15px]">{i + 1}</b>
              <span className={s.off ? "" : s.first.length > 0 ? "text-ink2" : ""}>
                <b className="font-[660] block leading-tight">
                  {s.name}
                  {s.off && <span className="sr-only">, off</span>}
                </b>
                <span className="text-ink2 text-[12.5px] leading-tight block truncate">
                  {s.off
                    ? `off by ${s.offBy}${s.noPhoto ? ", no photo" : ""}`
                    : s.first.length > 0
                      ? `after ${s.first.join(", ").toLowerCase()}`
                      : s.says}
                </span>
              </span>
              <span className="text-[12.5px] leading-tight">
                {s.twinBag && <span className="block text-ink2">{s.twinBag}</span>}
                <b className="block">{s.bag ?? (s.off ? "no bag" : "")}</b>
              </span>
              <Minutes step={s} scale={scale} colour={colour} />
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Minutes({ step: s, scale, colour }: { step: Step; scale: number; colour: string }) {
  const w = (v: number) => Math.round(v * scale * 10) / 10;
  const doing = s.doingSeconds / 60;
  const finding = s.findingSeconds / 60;
  const twin =
    s.twinDoingSeconds === null || s.twinDoingSeconds === undefined
      ? null
      : { doing: s.twinDoingSeconds / 60, finding: (s.twinFindingSeconds ?? 0) / 60 };
  const says = s.off
    ? `${minutes(s.doingSeconds)} min doing, ${minutes(s.findingSeconds)} finding out`
    : `${Math.round(s.expected)} min expected, ${s.restsOn}`;
  return (
    <span className="max-[700px]:hidden">
      <svg width="146" height="26" role="img" aria-label={says}>
        <title>{says}</title>
        {twin && (
          <>
            <rect y="3" width={w(twin.doing)} height="8" fill={colour} fillOpacity=".45" />
            <rect x={w(twin.doing)} y="3" width={w(twin.finding)} height="8" fill="none" stroke="#7B827F" strokeDasharray="3 2" />
          </>
        )}
        {s.off || doing + finding > 0 ? (
          <>
            <rect y="14" width={w(doing)} height="8" fill={colour} />
            <rect x={w(doing)} y="14" width={w(finding)} height="8" fill="none" stroke={INK} strokeDasharray="3 2" />
          </>
        ) : null}
        {s.off ? (
          <path d={`M${w(s.expected)},12V24`} stroke={INK} strokeWidth="2" />
        ) : (
          <rect x=".5" y="14.5" width={w(s.expected)} height="7" fill="none" stroke={colour} strokeDasharray="3 2" />
        )}
      </svg>
      <span className="block text-[11px] text-ink2 leading-none">{says}</span>
    </span>
  );
}
