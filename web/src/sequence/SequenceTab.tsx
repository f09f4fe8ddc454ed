import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, Problem, type Schemas } from "../api/client";
import { Ended, operationsQuery, shopQuery, useMay, useUser } from "../api/queries";
import { reasonText } from "../builds/reason";
import { useThisBuild } from "../builds/useBuild";
import { coatName, dateOf, day, heldName, hm, hours, stageName, timeOf, tradeName, wait, words } from "../format";
import { layerColour } from "../pictures/Strata";
import { AheadNotes } from "../plan/AheadNotes";
import { PlanNotes } from "../plan/PlanNotes";
import { WhySheet } from "../plan/WhySheet";
import { TextField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { say } from "../ui/say";
import { newest } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { OperationSheet } from "./OperationSheet";
import { TemplateSheet } from "./TemplateSheet";

type Operation = Schemas["OperationView"];

export function SequenceTab() {
  const card = useThisBuild();
  const operations = useQuery(operationsQuery(card.id));
  const shop = useQuery(shopQuery).data;
  const may = useMay();
  const [editing, setEditing] = useState<Operation | "new" | null>(null);
  const [renewing, setRenewing] = useState(false);
  const [withDone, setWithDone] = useState(false);
  const [asked, setAsked] = useState<Operation | null>(null);
  const crew = (ids: readonly string[]) => ids.map((id) => shop?.people.find((p) => p.id === id)?.name ?? "").join(", ");
  return (
    <div className="px-5 pt-3 pb-10">
      <div className="flex items-baseline gap-4 mb-1">
        <h1>Sequence</h1>
        <p className="text-ink2 flex-1">
          By the day it was done or is planned to start; what has no date stands last. The reason says why not earlier.
        </p>
        {may.manager && (
          <>
            <button type="button" className="btn" onClick={() => setRenewing(true)}>
              Plan again from a template
            </button>
            <button type="button" className="btn" onClick={() => setEditing("new")}>
              Add an operation
            </button>
          </>
        )}
      </div>
      <PlanNotes buildId={card.id} />
      <AheadNotes buildId={card.id} />
      {renewing && <TemplateSheet buildId={card.id} onClose={() => setRenewing(false)} />}
      <Shown of={operations}>
        {(all) => {
          const names = new Map(all.map((o) => [o.id, o.name]));
          const done = all.filter((o) => o.doneAt !== null).length;
          return (
            <>
              {done > 0 && (
                <button type="button" className="btn btn-quiet !px-0" aria-expanded={withDone} onClick={() => setWithDone(!withDone)}>
                  {withDone ? "Hide what is done" : `Show the ${done} that are done`}
                </button>
              )}
              <table className="rows">
                <thead>
                  <tr>
                    <th>Operation</th>
                    <th>Trade, station</th>
                    <th className="num">Spent / budget, h</th>
                    <th>When</th>
                    <th>Why not earlier</th>
                    <th>After</th>
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {inOrder(all)
                    .filter((o) => withDone || o.doneAt === null)
                    .map((o) => (
                      <tr key={o.id}>
                        <td>
                          <span className="flex gap-2">
                            <svg width="8" height="18" aria-hidden="true" className="flex-none mt-[1px]">
                              <rect width="8" height="18" fill={layerColour(o.stage, card.colourHex)} />
                            </svg>
                            <span className="self-baseline">
                              <b className="font-[660]">{o.kind === "gate" ? `Gate: ${o.name}` : o.name}</b>
                              <span className="block text-ink2">
                                {[
                                  stageName(o.stage),
                                  o.coat && `gives ${coatName(o.coat)}`,
                                  o.held && heldName(o.held),
                                  o.panels.length > 0 && (o.panels.length === 1 ? "one panel" : `${o.panels.length} panels`),
                                ]
                                  .filter(Boolean)
                                  .join(", ")}
                              </span>
                              {o.signatures.map((s) => (
                                <span key={s.personId} className="block">
                                  {s.overrideReason
                                    ? `opened by ${s.name}, ${day(dateOf(s.at))}: ${s.overrideReason}`
                                    : `signed by ${s.name}, ${day(dateOf(s.at))}${s.byMaker ? ", who did the work" : ""}`}
                                </span>
                              ))}
                            </span>
                          </span>
                        </td>
                        <td>
                          {o.kind === "work" ? (o.trade ? tradeName(o.trade) : "") : words(o.kind)}
                          {o.station && <span className="block text-ink2">{o.station}</span>}
                        </td>
                        <td className="num">
                          {o.kind === "work"
                            ? `${hm(o.spentMinutes)} / ${hours(o.budgetMinutes)}`
                            : o.clockMinutes > 0
                              ? wait(o.clockMinutes)
                              : ""}
                        </td>
                        <td>
                          {o.doneAt ? (
                            <span>
                              done {day(dateOf(o.doneAt))}
                              <span className="block text-ink2">{o.doneBy}</span>
                            </span>
                          ) : o.starts && o.finishes ? (
                            <span>
                              {[...new Set([day(dateOf(o.starts)), day(dateOf(o.finishes))])].join(" to ")}
                              <span className="block text-ink2">{crew(o.plannedPeople)}</span>
                              {o.startBy && (
                                <span className="block text-ink2">
                                  start by {day(dateOf(o.startBy))}, {timeOf(o.startBy)}
                                </span>
                              )}
                              {o.assumes && <span className="block text-ink2">{o.assumes}</span>}
                              {o.missesDeadline && <span className="block text-oxide">after {day(o.terms.deadline)}</span>}
                            </span>
                          ) : (
                            "not planned"
                          )}
                          {o.statedShare !== null && !o.doneAt && <span className="block">{Math.round(o.statedShare * 100)} % done</span>}
                        </td>
                        <td className={o.reason?.kind === "decision" ? "text-oxide" : "text-ink2"}>
                          {!o.doneAt && o.warning && <span className="block text-oxide">{o.warning}</span>}
                          {o.doneAt ? "" : reasonText(o.reason)}
                          {!o.doneAt && o.starts && o.reason && o.reason.kind !== "nothing" && (
                            <span className="block">
                              <button
                                type="button"
                                className="btn btn-quiet !px-0"
                                aria-label={`Show why: ${o.name}`}
                                onClick={() => setAsked(o)}
                              >
                                Show why
                              </button>
                            </span>
                          )}
                        </td>
                        <td className="text-ink2 max-w-[220px]">
                          {o.after
                            .map((a) => `${names.get(a.operation) ?? "?"}${a.lagMinutes ? ` + ${hours(a.lagMinutes)} h` : ""}`)
                            .join("; ")}
                        </td>
                        <td className="whitespace-nowrap">
                          <Actions operation={o} onEdit={() => setEditing(o)} />
                        </td>
                      </tr>
                    ))}
                </tbody>
              </table>
              {asked && <WhySheet operation={asked} onClose={() => setAsked(null)} />}
              {editing && (
                <OperationSheet
                  buildId={card.id}
                  all={all}
                  operation={newest(editing === "new" ? null : editing, all)}
                  onClose={() => setEditing(null)}
                />
              )}
            </>
          );
        }}
      </Shown>
    </div>
  );
}

function Actions({ operation: o, onEdit }: { operation: Operation; onEdit: () => void }) {
  const may = useMay();
  const user = useUser();
  const path = { params: { path: { id: o.id } } };
  const [outOfOrder, setOutOfOrder] = useState<string | null>(null);
  const [why, setWhy] = useState("");
  const done = useSend((why: string) => ask(api.POST("/api/operations/{id}/done", { params: { ...path.params, query: { why } } })), {
    says: "Done",
    quiet: true,
    onDone: () => setOutOfOrder(null),
  });
  const finish = () =>
    done.mutate(why, {
      // What comes before is not done: that is asked, and a reason stays with it.
      onError: (e) => (e instanceof Problem && e.field === "reason" ? setOutOfOrder(e.message) : say.wrong(e.message)),
    });
  const reopen = useSend(() => ask(api.POST("/api/operations/{id}/reopen", path)));
  const sign = useSend(() => ask(api.POST("/api/operations/{id}/sign", path)), { says: "Signed" });
  const override = useSend((reason: string) => ask(api.POST("/api/operations/{id}/override", { ...path, body: { reason } })));
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  if (useContext(Ended)) return null;
  return (
    <span className="flex gap-1 justify-end flex-wrap">
      {!o.doneAt && o.kind !== "gate" && (
        <button type="button" className="btn" aria-label={`Done: ${o.name}`} onClick={finish}>
          Done
        </button>
      )}
      {outOfOrder && (
        <span className="basis-full text-left">
          <span className="block text-oxide">{outOfOrder}</span>
          <span className="flex gap-1 mt-1">
            <input aria-label="Why it was done out of order" value={why} onChange={(e) => setWhy(e.target.value)} className="flex-1" />
            <button type="button" className="btn" disabled={!why.trim()} onClick={finish}>
              Mark it done anyway
            </button>
            <button type="button" className="btn" onClick={() => setOutOfOrder(null)}>
              Not yet
            </button>
          </span>
        </span>
      )}
      {!o.doneAt && o.kind === "gate" && user?.personId && (
        <button type="button" className="btn" aria-label={`Sign: ${o.name}`} onClick={() => sign.mutate(undefined)}>
          Sign
        </button>
      )}
      {!o.doneAt && o.kind === "gate" && may.manager && o.canOverride && (
        <button type="button" className="btn" aria-label={`Open without signature: ${o.name}`} onClick={() => setAsking(true)}>
          Open…
        </button>
      )}
      {o.doneAt && o.kind !== "gate" && may.manager && (
        <button type="button" className="btn btn-quiet" aria-label={`Open again: ${o.name}`} onClick={() => reopen.mutate(undefined)}>
          open again
        </button>
      )}
      {may.manager && (
        <button type="button" className="btn" aria-label={`Edit: ${o.name}`} onClick={onEdit}>
          Edit
        </button>
      )}
      {asking && (
        <Sheet title={`Open “${o.name}” without a signature`} note="The reason stays visible for good." onClose={() => setAsking(false)}>
          <TextField label="Reason" name="reason" value={reason} onChange={setReason} problem={override.error} />
          <button type="button" className="btn btn-ink mt-3" onClick={() => override.mutate(reason, { onSuccess: () => setAsking(false) })}>
            Open the gate
          </button>
        </Sheet>
      )}
    </span>
  );
} /** Done work by its day, then what is planned by its start, then what has no date; what begins together in the order of the sequence. */
function inOrder(all: readonly Operation[]): Operation[] {
  const rank = (o: Operation) => (o.doneAt ? 0 : o.starts ? 1 : 2);
  const at = (o: Operation) => o.doneAt ?? o.starts ?? "";
  return all.toSorted((a, b) => rank(a) - rank(b) || at(a).localeCompare(at(b)) || a.position - b.position);
}
