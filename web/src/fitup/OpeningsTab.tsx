import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { Ended, openingsQuery, useUser } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, lengthUnit } from "../format";
import { f } from "../geometry";
import { CHALK, CHALK2, GUIDE, GUIDE3, OXIDE_LT } from "../tokens";
import { BenchLink } from "../ui/BenchLink";
import { NumberField, saysOf, TextField } from "../ui/Field";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { inMm, mm, type Unit } from "./fitWords";

type Opening = Schemas["OpeningView"];
type Round = Schemas["OpeningRoundView"];

/** A lean is drawn so many times as large as it is. */
const TIMES = 8;

/** Openings by their diagonals: typed into the drawing, leaning as they lean, with what each weld pulled. */
export function OpeningsTab() {
  const card = useThisBuild();
  const openings = useQuery(openingsQuery(card.id));
  const role = useUser()?.role;
  const ended = useContext(Ended);
  const [key, setKey] = useState<string | null>(null);
  return (
    <Shown of={openings}>
      {(all) => {
        const opening = all.find((o) => o.key === key) ?? all.find((o) => o.wrong) ?? all.find((o) => o.rounds.length > 0) ?? all[0];
        if (!opening) return null;
        return (
          <div className="datum">
            <div className="bg-guide text-chalk on-guide gaps-line !max-w-none !border-0">
              <Sum key={opening.key} of={opening} may={(role === "manager" || role === "technician") && !ended} />
            </div>
            <section className="side px-5 pt-[14px] pb-6">
              <h1 className="text-[16px] font-[720] flare">
                Openings{" "}
                <small className="font-[450] text-ink2 text-[12.5px]">
                  {all.filter((o) => o.rounds.length > 0).length} of {all.length} measured
                </small>
              </h1>
              <table className="line-rows datum-rows openings-rows" aria-label="Openings">
                <thead>
                  <tr>
                    <th scope="col">Opening</th>
                    <th scope="col" className="num">
                      leans
                    </th>
                    <th scope="col" className="num">
                      drift
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {all.map((o) => {
                    const last = o.rounds.at(-1);
                    return (
                      <tr key={o.key} className={o === opening ? "line-chosen" : undefined}>
                        <th scope="row">
                          <button type="button" aria-pressed={o === opening} onClick={() => setKey(o.key)}>
                            <span>
                              {o.name}
                              <small className={o.wrong ? "text-oxide" : "text-ink2"}>
                                {o.wrong || (last ? "square" : "not measured")}
                              </small>
                            </span>
                          </button>
                        </th>
                        <td className={`num ${o.wrong ? "text-oxide font-[680]" : ""}`}>{last ? mm(Math.abs(last.shearMm)) : ""}</td>
                        <td className="num">{last?.driftMm != null ? signed(last.driftMm) : ""}</td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
              <Rounds of={opening} may={(role === "manager" || role === "technician") && !ended} />
            </section>
          </div>
        );
      }}
    </Shown>
  );
}

const signed = (v: number) => `${v > 0 ? "+" : v < 0 ? "−" : ""}${Math.abs(v).toFixed(1)}`;

const EMPTY = { diagonal1: null, diagonal2: null, width: null, side: null } as Record<Figure, number | null>;
type Figure = "diagonal1" | "diagonal2" | "width" | "side";

/** What was measured last, or what is being typed, drawn; the figures stand where the tape lay. */
function Sum({ of: o, may }: { of: Opening; may: boolean }) {
  const card = useThisBuild();
  const last = o.rounds.at(-1);
  const [typed, setTyped] = useState(EMPTY);
  const [when, setWhen] = useState("");
  const [unit, setUnit] = useState<Unit>(lengthUnit() === "in" ? "inch" : "mm");
  const [id, setId] = useState(newId);
  const save = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/openings", {
          params: { path: { id: card.id } },
          body: {
            id,
            opening: o.key,
            diagonal1: typed.diagonal1 ?? 0,
            diagonal2: typed.diagonal2 ?? 0,
            width: typed.width ?? 0,
            side: typed.side ?? 0,
            unit,
            when,
          },
        }),
      ),
    {
      says: "Kept",
      quiet: true,
      onDone: () => {
        setTyped(EMPTY);
        setWhen("");
        setId(newId());
      },
    },
  );
  const field = (name: Figure, label: string) => (
    <NumberField
      label={`${label}, ${unit === "inch" ? "in" : unit}`}
      name={name}
      value={typed[name]}
      onChange={(v) => setTyped((t) => ({ ...t, [name]: v }))}
      problem={save.error}
    />
  );
  return (
    <div className="px-4 py-3">
      <div className="flex items-baseline gap-3">
        <h2 className="text-[16px] font-[700] flare flex-1">{o.name}</h2>
        {last && (
          <BenchLink sum="opening" build={card.number} from={o.key}>
            On the bench
          </BenchLink>
        )}
      </div>
      <p className={o.wrong ? "text-oxide-lt font-[680] text-[16px]" : "text-chalk2"}>
        {last ? (o.wrong ? begun(o.wrong) : `square, ${last.when}`) : "not measured yet"}
      </p>
      <OpeningPicture round={last} wrong={o.wrong !== ""} />
      {last && (
        <div className="max-w-[64ch]">
          <p className="text-chalk2">
            ({num(last.diagonal1)}² − {num(last.diagonal2)}²) / (4 × {num(last.width)}) = {signed(inUnit(last.shearMm, last.unit))}
          </p>
          <p className="text-chalk2">
            side √(({num(last.diagonal1)}² + {num(last.diagonal2)}²) / 2 − {num(last.width)}²) ={" "}
            {inUnit(last.impliedSideMm, last.unit).toFixed(2)}; measured {num(last.side)}:{" "}
            {last.isConsistent ? "the four figures agree" : "one of the four is wrong"}
          </p>
          {o.advice && <p className="mt-2 font-[640]">{o.advice}</p>}
        </div>
      )}
      {may && (
        <form
          className="mt-4 grid grid-cols-2 gap-3 max-w-[520px]"
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate(undefined);
          }}
        >
          {field("diagonal1", "Bottom left to top right")}
          {field("diagonal2", "Bottom right to top left")}
          {field("width", "Width")}
          {field("side", "A slanted side")}
          <TextField label="When: before or after what" name="when" value={when} onChange={setWhen} problem={save.error} />
          <label className="field">
            <span>Lengths in</span>
            <select value={unit} onChange={(e) => setUnit(e.target.value as Unit)}>
              <option value="mm">mm</option>
              <option value="inch">inches</option>
            </select>
          </label>
          {save.error && saysOf(save.error, "when") === null && !Object.keys(EMPTY).some((k) => saysOf(save.error, k)) && (
            <p role="alert" className="col-span-2 text-oxide-lt">
              {save.error.message}
            </p>
          )}
          <p className="col-span-2">
            <button type="submit" className="btn btn-chalk" disabled={save.isPending || Object.values(typed).some((v) => v === null)}>
              Keep the four figures
            </button>
          </p>
        </form>
      )}
    </div>
  );
}

const begun = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
const num = (v: number) => String(v);
const inUnit = (v: number, unit: Unit) => v / inMm({ value: 1, unit });

/** The opening as it leans, and square behind it. */
function OpeningPicture({ round: r, wrong }: { round: Round | undefined; wrong: boolean }) {
  const [w, h] = [480, 330];
  const wide = r ? inMm({ value: r.width, unit: r.unit }) : 1200;
  const high = r ? Math.sqrt(Math.max(1, r.impliedSideMm ** 2 - r.shearMm ** 2)) : 900;
  const px = Math.min((w - 190) / wide, (h - 90) / high);
  const lean = r ? Math.max(-70, Math.min(70, r.shearMm * px * TIMES)) : 0;
  const [x0, y0] = [(w - wide * px) / 2, h - 40];
  const [x1, y1] = [x0 + wide * px, y0 - high * px];
  const corners: [number, number][] = [
    [x0, y0],
    [x1, y0],
    [x1 + lean, y1],
    [x0 + lean, y1],
  ];
  const at = (i: number) => (corners[i] ?? [0, 0]).map(f).join(",");
  const say = (x: number, y: number, text: string, turn = 0) => (
    <text
      x={f(x)}
      y={f(y)}
      transform={`rotate(${f(turn)} ${f(x)} ${f(y)})`}
      textAnchor="middle"
      fontSize="14"
      fill={CHALK}
      className="halo"
      stroke={GUIDE}
    >
      {text}
    </text>
  );
  const slope = (Math.atan2(-high * px, wide * px + lean) * 180) / Math.PI;
  const other = (Math.atan2(-high * px, -wide * px + lean) * 180) / Math.PI + 180;
  return (
    <svg
      className="block w-full max-w-[560px]"
      viewBox={`0 0 ${w} ${h}`}
      role="img"
      aria-label={r ? `Leans ${mm(Math.abs(r.shearMm))} mm, drawn ${TIMES} times` : "Not measured"}
    >
      <rect x={x0} y={y1} width={x1 - x0} height={y0 - y1} fill={GUIDE3} fillOpacity=".6" stroke={CHALK2} strokeDasharray="4 4" />
      <path d={`M${at(0)}L${at(1)}L${at(2)}L${at(3)}Z`} fill="none" stroke={wrong ? OXIDE_LT : CHALK} strokeWidth="3" />
      <path d={`M${at(0)}L${at(2)}M${at(1)}L${at(3)}`} stroke={CHALK} strokeWidth="1.4" />
      {corners.map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={f(x)} cy={f(y)} r="4.5" fill={GUIDE} stroke={CHALK} strokeWidth="1.6" />
      ))}
      {r && (
        <>
          {say(x0 + (wide * px + lean) * 0.74, y0 - high * px * 0.74 - 4, num(r.diagonal1), slope)}
          {say(x1 + (-wide * px + lean) * 0.74, y0 - high * px * 0.74 - 4, num(r.diagonal2), other)}
          {say((x0 + x1) / 2, y0 + 22, num(r.width))}
          {say(x0 + lean / 2 - 26, (y0 + y1) / 2, num(r.side))}
        </>
      )}
      <text x="8" y="18" fontSize="12.5" fill={CHALK2}>
        lean drawn {TIMES} times
      </text>
    </svg>
  );
}

/** What was measured before, one weld after the other. */
function Rounds({ of: o, may }: { of: Opening; may: boolean }) {
  const back = useSend((id: string) => ask(api.POST("/api/opening-readings/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  if (o.rounds.length === 0) return null;
  return (
    <section aria-label={`${o.name}, measured`}>
      <h2>
        {o.name} <small>weld by weld</small>
      </h2>
      <ol>
        {o.rounds.map((r) => (
          <li key={r.id} className="border-t border-p2 py-1">
            <b className="font-[640]">{begun(r.when)}</b>: leans {mm(Math.abs(r.shearMm))} to the {r.shearMm >= 0 ? "right" : "left"}
            {r.driftMm != null && `, ${signed(r.driftMm)} since the one before`}
            {!r.isConsistent && <span className="text-oxide">, figures off by {mm(Math.abs(r.mismatchMm))}</span>}.{" "}
            <span className="text-ink2">
              {r.by}, {day(dateOf(r.at))}
            </span>{" "}
            {may && (
              <button type="button" className="btn btn-quiet !px-0" onClick={() => back.mutate(r.id)}>
                Take it back
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
