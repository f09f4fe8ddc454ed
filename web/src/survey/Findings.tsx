import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { surveyQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import {
  dateOf,
  day,
  hours,
  lengthShown,
  lengthUnit,
  money,
  probeName,
  TRADES,
  timeOf,
  today,
  tradeName,
  VERDICTS,
  words,
} from "../format";
import { BenchLink } from "../ui/BenchLink";
import { CheckField, ChoiceField, NumberField, ProblemNote, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PlaceLink } from "../ui/PlaceLink";
import { Sheet } from "../ui/Sheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { FindingSheet } from "./FindingSheet";
import { FindingDisc } from "./Marks";
import { axisEnd, breakEvenWords, ThinBars, VerdictBars, verdictName } from "./VerdictBars";

type Finding = Schemas["FindingView"];
type Open = "edit" | "judge" | "work" | "withdraw" | null;

const Disc = ({ number }: { number: number }) => (
  <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true" className="flex-none">
    <FindingDisc number={number} />
  </svg>
);

/** A finding in words: what, how bad, how large. */
export const findingWords = (f: Finding) =>
  [
    words(f.kind),
    f.probe && probeName(f.probe),
    f.sizeMm && `${lengthShown(f.sizeMm)} ${lengthUnit()}`,
    f.areaM2 > 0 && `${Math.round(f.areaM2 * 100) / 100} m²`,
    f.structural && "structural",
  ]
    .filter(Boolean)
    .join(", ");

const when = (at: string) => (dateOf(at) === today() ? timeOf(at) : day(dateOf(at)));

/** The finding that is opened: its four ways on one scale, the choice, who agreed, and what it becomes. */
export function OpenFinding({ finding: f, all }: { finding: Finding; all: Finding[] }) {
  const may = useMay();
  const card = useThisBuild();
  const [open, setOpen] = useState<Open>(null);
  const close = () => setOpen(null);
  const judged = f.ways.some((w) => w.verdict !== "leave");
  const behind = all.find((x) => x.id === f.behind);
  return (
    <article aria-label={`Finding ${f.number}`}>
      <div className="flex gap-3 items-start mb-1">
        <Disc number={f.number} />
        <div className="flex-1">
          <h3 className="!text-[18px] font-[720] flare">{f.placeName}</h3>
          <p className="text-ink2">
            {findingWords(f)}. {f.foundBy}, {when(f.foundAt)}.{behind && ` Found behind ${behind.number}, ${behind.placeName}.`}
          </p>
          {f.note && <p>{f.note}</p>}
          {(f.kind === "twisted" || f.kind === "collision") && (
            <PlaceLink to={`/builds/${card.number}/datum`} className="font-[620]">
              By how much: to the datum
            </PlaceLink>
          )}
          {f.area.length >= 3 && (
            <p className="flex flex-wrap gap-x-4">
              <BenchLink sum="take-off" build={card.number} from={`finding-${f.number}`}>
                Sheet for it, on the bench
              </BenchLink>
              <BenchLink sum="tacks" build={card.number} from={`finding-${f.number}`}>
                Tacks round it
              </BenchLink>
            </p>
          )}
        </div>
        <button type="button" className="btn" onClick={() => setOpen("edit")}>
          Edit
        </button>
      </div>
      {may.desk && judged && <VerdictBars ways={f.ways} cheapest={f.cheapest} />}
      {may.desk && breakEvenWords(f.ways, f.cheapest) && <p className="py-1 font-[560]">{breakEvenWords(f.ways, f.cheapest)}</p>}
      {!may.desk && judged && (
        <ul>
          {f.ways.map((w) => (
            <li key={w.verdict} className="flex gap-2 border-t border-p2 py-1">
              <b className="w-[90px]">{verdictName(w.verdict)}</b>
              <span>
                {w.barred ??
                  (w.verdict === "leave" ? "" : `${w.hours} h ${tradeName(w.trade)}${w.leadDays > 0 ? `, ${w.leadDays} days lead` : ""}`)}
              </span>
            </li>
          ))}
        </ul>
      )}
      {!judged && <p className="text-ink2 py-1">Nobody has said yet what each way would take.</p>}
      <Decision finding={f} judged={judged} onOpen={setOpen} />
      {open === "edit" && <EditFinding finding={f} onClose={close} />}
      {open === "judge" && <JudgeSheet finding={f} onClose={close} />}
      {open === "work" && <WorkSheet finding={f} onClose={close} />}
      {open === "withdraw" && <WithdrawSheet finding={f} onClose={close} />}
    </article>
  );
}

function EditFinding({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const survey = useQuery(surveyQuery(useThisBuild().id)).data;
  return survey ? <FindingSheet at={{ place: finding.place, at: finding.at }} survey={survey} finding={finding} onClose={onClose} /> : null;
}

function Decision({ finding: f, judged, onOpen }: { finding: Finding; judged: boolean; onOpen: (o: Open) => void }) {
  const may = useMay();
  const [reason, setReason] = useState(f.choiceReason);
  const path = { params: { path: { id: f.id } } };
  const choose = useSend(
    (verdict: Schemas["Verdict"]) => ask(api.POST("/api/findings/{id}/choose", { ...path, body: { verdict, reason } })),
    { quiet: true },
  );
  const agree = useSend(() => ask(api.POST("/api/findings/{id}/agree", path)), { says: "Agreed", quiet: true });
  const chosen = f.ways.find((w) => w.verdict === f.choice);
  const waits = f.choice !== null && f.agreedBy === null;
  return (
    <div className={`mt-2 pt-2 ${waits ? "border-t-[5px] border-oxide" : "border-t border-ink"}`}>
      {f.choice ? (
        <div className="flex items-start gap-3">
          <div className="flex-1">
            <b className="text-[15px]">
              {verdictName(f.choice)}
              {may.desk && chosen ? `, ${money(chosen.total)}` : ""}
            </b>
            {f.choiceReason && <p className="text-ink2">{f.choiceReason}</p>}
            {f.notDoneWhy && <p className="font-[660] text-oxide">Not done: {f.notDoneWhy}</p>}
          </div>
          <div className="text-right">
            <p className="text-ink2">
              {f.chosenBy} chose it {f.chosenAt && when(f.chosenAt)}.
            </p>
            <p className={waits ? "font-[660] text-oxide" : ""}>
              {f.agreedBy ? `${f.agreedBy} agreed ${f.agreedAt && when(f.agreedAt)}` : "Waits for the manager"}
            </p>
          </div>
          {may.manager && waits && (
            <button type="button" className="btn btn-ink" disabled={agree.isPending} onClick={() => agree.mutate(undefined)}>
              Agree
            </button>
          )}
          {may.desk && f.agreedBy && (
            <button type="button" className="btn btn-ink" onClick={() => onOpen("work")}>
              {f.planned ? "Change the work" : "Make the work"}
            </button>
          )}
        </div>
      ) : (
        <b>{judged ? "Which way?" : "No verdict yet"}</b>
      )}
      {judged && (
        <div className="mt-2 flex flex-wrap gap-2 items-end">
          <TextField className="flex-1 min-w-[180px]" label="Because" value={reason} onChange={setReason} />
          {f.ways
            .filter((w) => !w.barred && w.verdict !== f.choice)
            .map((w) => (
              <button key={w.verdict} type="button" className="btn" disabled={choose.isPending} onClick={() => choose.mutate(w.verdict)}>
                {verdictName(w.verdict)}
              </button>
            ))}
        </div>
      )}
      <ProblemNote problem={choose.error ?? agree.error} />
      {may.desk && (
        <p className="mt-2 flex gap-2">
          <button type="button" className="btn" onClick={() => onOpen("judge")}>
            What each way takes
          </button>
          {!f.planned && (
            <button type="button" className="btn" onClick={() => onOpen("withdraw")}>
              No finding
            </button>
          )}
        </p>
      )}
    </div>
  );
}

type Judged = Omit<Schemas["FindingOption"], "verdict"> & { on: boolean };
type Judging = Record<Exclude<Schemas["Verdict"], "leave">, Judged>;

const judgedOf = (w?: Schemas["WayView"]): Judged => ({
  on: w !== undefined,
  hours: w?.hours ?? 0,
  trade: w?.trade ?? "metal",
  material: w?.material ?? 0,
  sheetM2Price: w?.sheetM2Price ?? 0,
  part: w?.partPrice ?? 0,
  freight: w?.freightPrice ?? 0,
  leadDays: w?.leadDays ?? 0,
  riskPercent: w?.riskPercent ?? 0,
  notSold: w?.notSold ?? false,
});

/** Hours, material, part and wait of each way; the server reckons the sums. */
function JudgeSheet({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const way = (v: Schemas["Verdict"]) => finding.ways.find((w) => w.verdict === v);
  const [f, set, , clashes] = useForm<Judging>({
    repair: judgedOf(way("repair")),
    replace: judgedOf(way("replace")),
    fabricate: judgedOf(way("fabricate")),
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/findings/{id}/options", {
          params: { path: { id: finding.id } },
          body: {
            options: VERDICTS.filter((v) => v !== "leave" && f[v].on).map((v) => {
              const { on: _, ...rest } = f[v as keyof Judging];
              return { verdict: v, ...rest };
            }),
            version: finding.version,
          },
        }),
      ),
    { says: "Compared", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`What each way takes: ${finding.placeName}`}
      note="Leaving it is always among the ways, and barred where it is load-bearing or would show."
      action="Compare"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      {(["repair", "replace", "fabricate"] as const).map((v) => {
        const o = f[v];
        const number = (label: string, key: "hours" | "material" | "sheetM2Price" | "part" | "freight" | "leadDays" | "riskPercent") => (
          <NumberField label={label} value={o[key]} onChange={(n) => set(v)({ ...o, [key]: n ?? 0 })} />
        );
        return (
          <fieldset key={v} className="col-span-2 border-t border-ink pt-2">
            <legend className="font-[680] pr-2">{verdictName(v)}</legend>
            <CheckField label="Can be done" value={o.on} onChange={(on) => set(v)({ ...o, on })} />
            {o.on && (
              <div className="grid grid-cols-3 gap-2 items-end">
                {number("Hours", "hours")}
                <ChoiceField
                  label="Trade"
                  value={o.trade}
                  onChange={(trade) => set(v)({ ...o, trade })}
                  options={TRADES.map((t) => [t, tradeName(t)] as const)}
                />
                {number("Allowance for hidden damage, %", "riskPercent")}
                {number("Sheet, a square metre (0: the shop's price for its thickness)", "sheetM2Price")}
                {number("Other material", "material")}
                {v === "replace" && (
                  <>
                    <span />
                    {number("Part", "part")}
                    {number("Freight", "freight")}
                    {number("Lead time, days", "leadDays")}
                    <CheckField label="Not sold new" value={o.notSold} onChange={(notSold) => set(v)({ ...o, notSold })} />
                  </>
                )}
              </div>
            )}
          </fieldset>
        );
      })}
    </FormSheet>
  );
}

/** What applying the verdict does, shown before it is done. */
function WorkSheet({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const may = useMay();
  const path = { params: { path: { id: finding.id } } };
  const work = useQuery({
    queryKey: ["verdict-work", finding.id, finding.version],
    queryFn: () => ask(api.GET("/api/findings/{id}/work", path)),
  });
  const apply = useSend(() => ask(api.POST("/api/findings/{id}/apply", path)), { says: "In the sequence", onDone: onClose, quiet: true });
  const w = work.data;
  return (
    <Sheet title={`What “${verdictName(finding.choice ?? "leave").toLowerCase()}” makes`} note="Nothing is changed yet." onClose={onClose}>
      {w && (
        <>
          <table className="rows">
            <tbody>
              <tr>
                <td className="text-ink2 w-[110px]">Operation</td>
                <td>
                  {w.operation ? `${w.operation.name}: ${hours(w.operation.budgetMinutes)} h ${tradeName(w.operation.trade)}` : "none"}
                </td>
              </tr>
              {w.replaces && (
                <tr>
                  <td className="text-ink2">In place of</td>
                  <td>
                    {hours(w.replaces.minutes)} h that were allowed for it in {w.replaces.name}
                    {w.replaces.left > 0 ? `, which keeps ${hours(w.replaces.left)} h` : ": nothing is left of that"}
                  </td>
                </tr>
              )}
              {w.putsBack && (
                <tr>
                  <td className="text-ink2">Comes back</td>
                  <td>
                    {hours(w.putsBack.minutes)} h that were allowed for it in {w.putsBack.name}
                  </td>
                </tr>
              )}
              {w.parts.map((p) => (
                <tr key={p.id}>
                  <td className="text-ink2">Part needed</td>
                  <td>
                    {p.name}, {money(p.unitCost)}
                  </td>
                </tr>
              ))}
              <tr>
                <td className="text-ink2">Estimate, net</td>
                <td>
                  {[
                    ["labour", w.adds.labour],
                    ["parts", w.adds.parts],
                    ["materials", w.adds.materials],
                  ]
                    .filter(([, v]) => v !== 0)
                    .map(([k, v]) => `${k} ${Number(v) > 0 ? "+" : ""}${money(Number(v))}`)
                    .join(", ") || "stays"}
                </td>
              </tr>
              {w.removeOperations.length + w.removeParts.length > 0 && (
                <tr>
                  <td className="text-ink2">Taken out</td>
                  <td>
                    {w.removeOperations.length} operations and {w.removeParts.length} parts of the earlier verdict, not begun
                  </td>
                </tr>
              )}
            </tbody>
          </table>
          {w.cannotUndo.map((t) => (
            <p key={t} className="font-[620] mt-2">
              {t}
            </p>
          ))}
        </>
      )}
      <ProblemNote problem={work.error ?? apply.error} />
      {may.manager && (
        <button type="button" className="btn btn-ink mt-3" disabled={!w || apply.isPending} onClick={() => apply.mutate(undefined)}>
          Create the work
        </button>
      )}
    </Sheet>
  );
}

function WithdrawSheet({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const [f, set] = useForm({ reason: "" });
  const send = useSend(() => ask(api.POST("/api/findings/{id}/withdraw", { params: { path: { id: finding.id } }, body: f })), {
    says: "Taken back",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title={`Finding ${finding.number} is none`}
      note="It stays on record, and its number is not used again."
      action="Take it back"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField className="col-span-2" label="Why" name="reason" value={f.reason} onChange={set("reason")} autoFocus />
    </FormSheet>
  );
}

/** The other findings, a line each. */
export function AlsoFound({ findings, onOpen }: { findings: Finding[]; onOpen: (id: string) => void }) {
  const may = useMay();
  if (findings.length === 0) return null;
  const end = Math.max(...findings.map((f) => axisEnd(f.ways)));
  return (
    <section className="mt-4">
      <h2>Also found {may.desk && <small>leave, repair, replace, fabricate: ink is the choice, a stop is barred</small>}</h2>
      <ul>
        {findings.map((f) => {
          const chosen = f.ways.find((w) => w.verdict === f.choice);
          return (
            <li key={f.id} className="border-t border-p2">
              <button type="button" className="w-full text-left flex gap-3 items-center py-1" onClick={() => onOpen(f.id)}>
                <Disc number={f.number} />
                <span className="flex-1 leading-[1.2]">
                  <b className="font-[660]">{f.placeName}</b>
                  <span className="block text-ink2">{findingWords(f)}</span>
                </span>
                {may.desk && f.ways.length > 1 && <ThinBars ways={f.ways} choice={f.choice} end={end} />}
                <span className="w-[74px]">{f.choice ? verdictName(f.choice) : <span className="text-oxide">no verdict</span>}</span>
                {may.desk && <span className="w-[66px] text-right">{chosen ? money(chosen.total) : ""}</span>}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
