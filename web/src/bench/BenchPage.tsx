import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { buildsQuery, sumQuery, useUser, wiresQuery, workQuery } from "../api/queries";
import { Dab } from "../ui/Dab";
import { PlaceLink } from "../ui/PlaceLink";
import { useSend } from "../ui/useSend";
import { SUMS } from "./catalogue";
import { DRAWINGS } from "./drawings";
import { FigureBox, FigureTable, type Refused, STAGE } from "./FigureBox";
import { type Figures, inUnit, type Out, rowsOf, type SumSpec, startOf, unitOf } from "./figures";
import { Rack } from "./Rack";
import { Stock, useStock } from "./Stock";
import { Tries } from "./Tries";

/** What was typed last for each sum, until the page is loaded again. */
const typed = new Map<string, Figures>();

/** Waits until typing rests, so that an answer is asked for once. */
function useRested<T>(value: T, ms = 120): T {
  const [rested, setRested] = useState(value);
  const text = JSON.stringify(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same figures are one value, whatever object holds them.
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), ms);
    return () => clearTimeout(timer);
  }, [text, ms]);
  return rested;
}

/** Rounded as the core rounds: a half goes away from nothing. */
const rounded = (value: number, places: number) => {
  const text = (Math.round(Math.abs(value) * 10 ** places + 1e-6) / 10 ** places).toFixed(places);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
};

type Search = { build?: number; from?: string };

/** The bench: one sum as a drawing to scale, its figures typed into it, what it comes to beside it. */
export function BenchPage() {
  const { sum } = useParams({ strict: false }) as { sum?: string };
  const search = useLocation().search as Search;
  const spec = SUMS.find((s) => s.key === sum) ?? SUMS[0];
  if (!spec) return null;
  return (
    <div className="bench" data-at={sum ? "sum" : "rack"}>
      <Rack sum={spec.key} search={search.build ? `?build=${search.build}` : ""} />
      <Board key={`${spec.key} ${search.build ?? ""} ${search.from ?? ""}`} spec={spec} search={search} />
    </div>
  );
}

function Board({ spec, search }: { spec: SumSpec; search: Search }) {
  const navigate = useNavigate();
  const builds = useQuery(buildsQuery).data ?? [];
  const build = builds.find((b) => b.number === search.build);
  const work = (useQuery({ ...workQuery(build?.id ?? ""), enabled: build !== undefined }).data ?? []).filter((w) => w.sum === spec.key);
  const memory = `${spec.key} ${search.build ?? ""}`;
  const [figures, setFigures] = useState<Figures>(() => (search.from ? undefined : typed.get(memory)) ?? startOf(spec));
  const put = (next: Figures) => {
    typed.set(memory, next);
    setFigures(next);
  };
  const begin = (from: { figures: unknown }) => put({ ...inUnit(spec, startOf(spec), "mm"), ...(from.figures as Figures) });
  const given = work.find((w) => w.key === search.from);
  const begun = useRef("");
  useEffect(() => {
    if (given && begun.current !== given.key) {
      begun.current = given.key;
      begin(given);
    }
  });
  const wires = useQuery({ ...wiresQuery, enabled: spec.key === "wire" }).data;
  useEffect(() => {
    if (wires && rowsOf(figures, "wires").length === 0) put({ ...figures, ...wireRows(wires) });
  });
  const stock = useStock(spec.key === "take-off", figures);
  const rested = useRested({ ...figures, ...stock.rows });
  const asked = useQuery({ ...sumQuery(spec.key, rested), placeholderData: keepPreviousData });
  const last = useRef<Schemas["BenchAnswer"] | null>(null);
  if (asked.data?.answer) last.current = asked.data.answer;
  const refused: Refused = asked.data && !asked.data.answer ? { field: asked.data.field, why: asked.data.why } : null;
  const answer = last.current;
  const out = (answer?.out ?? {}) as Out;
  const inch = unitOf(figures) === "inch";
  const show = (mm: number) => (inch ? rounded(mm / 25.4, 3) : rounded(mm, 1));
  const Drawing = DRAWINGS[spec.key];
  const high = spec.high ?? STAGE.h;
  const figure = (s: SumSpec["figures"][number]) => (
    <FigureBox key={s.key} spec={s} high={high} figures={figures} refused={refused} onChange={(v) => put({ ...figures, [s.key]: v })} />
  );
  const known = new Set([...spec.figures.map((s) => s.key), ...(spec.tables ?? []).map((t) => t.key)]);
  const elsewhere = refused && !known.has(refused.field.split(".")[0] ?? "");
  return (
    <>
      <section className="bench-board on-guide" aria-label={spec.name}>
        <header>
          <PlaceLink className="bench-back" to={search.build ? `/bench?build=${search.build}` : "/bench"}>
            All sums
          </PlaceLink>
          {build && <Dab number={build.number} colour={build.colourHex} w={44} h={24} />}
          <h2 className="flare">{spec.name}</h2>
          <p>{spec.hint}</p>
          <div className="bench-from">
            <label>
              <span className="sr-only">Build</span>
              <select
                value={search.build ?? ""}
                onChange={(e) =>
                  void navigate({ to: `/bench/${spec.key}`, search: e.target.value ? { build: Number(e.target.value) } : {} })
                }
              >
                <option value="">for no build</option>
                {builds.map((b) => (
                  <option key={b.id} value={b.number}>
                    {b.number} {b.title}
                  </option>
                ))}
              </select>
            </label>
            {work.length > 0 && (
              <label>
                <span className="sr-only">Start from</span>
                <select
                  value=""
                  onChange={(e) => {
                    const chosen = work.find((w) => w.key === e.target.value);
                    if (chosen) begin(chosen);
                  }}
                >
                  <option value="">start from what was measured…</option>
                  {work.map((w) => (
                    <option key={w.key} value={w.key}>
                      {w.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <button type="button" className="btn btn-guide" onClick={() => put(inUnit(spec, figures, inch ? "mm" : "inch"))}>
              Lengths in {inch ? "inches" : "mm"}
            </button>
            <button type="button" className="btn btn-guide" onClick={() => put(startOf(spec))}>
              Start again
            </button>
          </div>
        </header>
        {answer && (
          <p className={`bench-brief flare ${answer.isWrong ? "text-oxide-lt" : ""}`} aria-hidden="true">
            {answer.says}
          </p>
        )}
        <div className="bench-stage">
          <svg
            viewBox={`0 0 ${STAGE.w} ${high}`}
            role="img"
            aria-label={`${spec.name}: ${answer?.says ?? "no answer yet"}`}
            opacity={refused ? 0.45 : 1}
          >
            {answer && Drawing && (
              <Drawing out={out} figures={figures} show={show} put={(key, value) => put({ ...figures, [key]: value })} />
            )}
          </svg>
          {spec.figures.filter((s) => s.at).map(figure)}
        </div>
        <div className="bench-ledger">
          {spec.figures.filter((s) => !s.at).map(figure)}
          {(spec.flags ?? []).map((flag) => (
            <label key={flag.key} className="bench-flag">
              <input
                type="checkbox"
                checked={figures[flag.key] === true}
                onChange={(e) => put({ ...figures, [flag.key]: e.target.checked })}
              />
              {flag.label}
            </label>
          ))}
          {(spec.tables ?? []).map((t) => (
            <FigureTable key={t.key} spec={t} figures={figures} refused={refused} onChange={(rows) => put({ ...figures, [t.key]: rows })} />
          ))}
          {elsewhere && (
            <p role="alert" className="text-oxide-lt">
              {refused.why}
            </p>
          )}
        </div>
      </section>
      <aside className="side bench-side">
        {JSON.stringify(figures) === JSON.stringify(startOf(spec)) && (
          <p className="font-[620]">An example: none of these figures is {build ? `${build.number}’s` : "yours"} yet.</p>
        )}
        <AnswerOf answer={answer} refused={refused} />
        {spec.key === "taper" && !refused && (
          <PlaceLink className="btn mt-2" to={`/bench/print?figures=${encodeURIComponent(JSON.stringify(rested))}`}>
            Print at full size
          </PlaceLink>
        )}
        {spec.key === "wire" && wires && <ShopWires wires={wires} figures={figures} />}
        {spec.key === "take-off" && !refused && <Stock stock={stock} out={out} build={build} figures={figures} />}
        <Tries spec={spec} build={build} figures={{ ...figures, ...stock.rows }} onTake={(f) => put({ ...startOf(spec), ...f })} />
      </aside>
    </>
  );
}

/** What it comes to, what to do about it, and how it was worked out. */
function AnswerOf({ answer, refused }: { answer: Schemas["BenchAnswer"] | null; refused: Refused }) {
  if (!answer) return <p className="text-ink2">{refused ? "It is answered once each figure can be." : "Working it out…"}</p>;
  return (
    <div className={refused ? "bench-stale" : undefined}>
      <p className={`bench-says flare ${answer.isWrong ? "text-oxide" : ""}`} aria-live="polite">
        {refused ? "Before that figure: " : ""}
        {answer.says}
      </p>
      {answer.notes.map((n) => (
        <p key={n} className="text-ink2">
          {n}
        </p>
      ))}
      <table className="bench-rows" aria-label="Answer">
        <tbody>
          {answer.rows.map((r) => (
            <tr key={r.label}>
              <th scope="row">{r.label}</th>
              <td className={r.isWrong ? "text-oxide" : undefined}>
                {r.value} {r.was && <small>{/\d/.test(r.was.charAt(0)) ? `was ${r.was}` : r.was}</small>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2>
        How <small>{answer.source.isRuleOfThumb ? "a rule of thumb" : ""}</small>
      </h2>
      {answer.worked.map((w) => (
        <p key={w} className="bench-worked">
          {w}
        </p>
      ))}
      <p className="text-ink2">{answer.source.text}</p>
    </div>
  );
}

const wireRows = (w: Schemas["WiresView"]) => ({
  wires: w.wires.map((x) => ({ mm2: String(x.mm2), amps: String(x.mostAmps) })),
  fuses: w.fuses.map((a) => ({ amps: String(a) })),
});

/** The table that every wire of the shop is taken from; a manager puts it in. */
function ShopWires({ wires, figures }: { wires: Schemas["WiresView"]; figures: Figures }) {
  const manager = useUser()?.role === "manager";
  const number = (v: unknown) => Number(v);
  const table = {
    wires: rowsOf(figures, "wires")
      .filter((r) => r.mm2 && r.amps)
      .map((r) => ({ mm2: number(r.mm2), mostAmps: number(r.amps) })),
    fuses: rowsOf(figures, "fuses")
      .filter((r) => r.amps)
      .map((r) => number(r.amps)),
  };
  const save = useSend(() => ask(api.PUT("/api/wires", { body: { ...table, version: wires.isOwn ? wires.version : null } })), {
    says: "Kept as the shop’s table",
  });
  const same = JSON.stringify(table) === JSON.stringify({ wires: wires.wires, fuses: wires.fuses });
  return (
    <p className="mt-2 text-ink2">
      {wires.isOwn ? "The table is the shop’s own." : "The table holds low starting figures: put in those of your wire’s maker."}{" "}
      {manager && !same && (
        <button type="button" className="btn" disabled={save.isPending} onClick={() => save.mutate(undefined)}>
          Keep as the shop’s table
        </button>
      )}
    </p>
  );
}
