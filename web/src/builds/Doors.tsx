import type { Schemas } from "../api/client";
import { lengthShown, lengthUnit } from "../format";
import { INK, mix, OXIDE, P2 } from "../tokens";
import { BenchLink } from "../ui/BenchLink";

const HIGH = 170;

const mm = (v: number) => `${lengthShown(Math.round(Math.abs(v)))} ${lengthUnit()}`;

/** Every door on one scale with the vehicle in it: what is to spare, or by how much it is too high. */
export function Doors({ arrival: a, paint, build }: { arrival: Schemas["ArrivalView"]; paint: string; build: number }) {
  const h = a.heights;
  if (!h) return <p className="px-5 py-3 text-ink2">Measure the height and the dolly, and every door on its way is answered here.</p>;
  if (a.doors.length === 0)
    return <p className="px-5 py-3 text-ink2">No station of the shop has a door with a height. Set them under Shop.</p>;
  const most = Math.max(h.bodyMm + h.dollyMm, ...a.doors.map((d) => d.doorMm)) * 1.04;
  const y = (v: number) => HIGH - (v / most) * HIGH;
  const top = y(h.bodyMm + h.dollyMm);
  const tight = a.doors.filter((d) => !d.fits);
  return (
    <section className="px-5 py-3" aria-label="Will it go through?">
      <h2>
        Will it go through?{" "}
        <small>
          {mm(h.bodyMm + h.dollyMm)} high on the dolly, {mm(h.keptFreeMm)} kept free
        </small>
      </h2>
      <div className="flex flex-wrap gap-4">
        {a.doors.map((d) => (
          <figure key={d.stationId} className="flex-none w-[190px]">
            <svg
              viewBox={`0 0 190 ${HIGH + 6}`}
              className="block"
              role="img"
              aria-label={`${d.name}: ${d.fits ? `${mm(d.spareMm)} to spare` : `${mm(d.spareMm)} too high`}`}
            >
              <path d={`M0,0H190V${HIGH}H0Z`} fill={P2} />
              <path d={`M18,${y(d.doorMm)}H172V${HIGH}H18Z`} fill="#EFEFEB" stroke={INK} strokeWidth="2.5" />
              <g opacity={d.fits ? 0.55 : 1}>
                <path
                  d={`M62,${HIGH - 2}V${y(h.dollyMm) + 3}H128V${HIGH - 2}M62,${y(h.dollyMm * 0.5)}H128`}
                  fill="none"
                  stroke={INK}
                  strokeWidth="2"
                />
                <path
                  d={`M42,${y(h.dollyMm)}V${y(h.dollyMm + h.bodyMm * 0.55)}Q44,${y(h.dollyMm + h.bodyMm * 0.62)} 56,${y(h.dollyMm + h.bodyMm * 0.64)}L64,${top + 6}Q66,${top} 74,${top}H116Q124,${top} 126,${top + 6}L134,${y(h.dollyMm + h.bodyMm * 0.64)}Q146,${y(h.dollyMm + h.bodyMm * 0.62)} 148,${y(h.dollyMm + h.bodyMm * 0.55)}V${y(h.dollyMm)}Z`}
                  fill={mix(paint, "#8E8F88", 0.3)}
                  stroke={INK}
                  strokeWidth="1.5"
                />
              </g>
              {!d.fits && top < y(d.doorMm) && <rect x="18" y={top} width="154" height={Math.max(2, y(d.doorMm) - top)} fill={OXIDE} />}
              <path d={`M4,${y(h.bodyMm + h.dollyMm + h.keptFreeMm)}H186`} stroke={d.fits ? INK : OXIDE} strokeDasharray="5 4" />
              <path d={`M0,${HIGH}H190`} stroke={INK} strokeWidth="3" />
            </svg>
            <figcaption>
              <b className={d.fits ? "" : "text-oxide"}>
                {d.name}, {mm(d.spareMm)} {d.fits ? "to spare" : "too high"}
              </b>
              <span className="block text-ink2">door {mm(d.doorMm)}</span>
              <BenchLink sum="door" build={build} from={`station-${d.stationId.replaceAll("-", "")}`}>
                Try it on the bench
              </BenchLink>
            </figcaption>
          </figure>
        ))}
      </div>
      {tight.map((d) => (
        <p key={d.stationId} className="mt-1">
          <b>{d.name}:</b>{" "}
          {d.ways.length === 0
            ? "nothing that is noted would be enough."
            : d.ways.map((w) => `${w.how} (${mm(w.byMm)}) leaves ${mm(w.spareMm)}`).join("; ")}
        </p>
      ))}
    </section>
  );
}
