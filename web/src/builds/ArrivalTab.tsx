import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { arrivalQuery, bodyQuery, operationsQuery, photosQuery, useMay } from "../api/queries";
import { addDays, dateOf, day, number, today, words } from "../format";
import { AreaField, ChoiceField, choices, photoChoices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PhotoTaker } from "../ui/PhotoTaker";
import { Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { ArrivalSheet } from "./ArrivalSheet";
import { Doors } from "./Doors";
import { Pieces, SerialLine } from "./Pieces";
import { RoundPicture } from "./Round";
import { useThisBuild } from "./useBuild";

type Arrival = Schemas["ArrivalView"];

/** How the vehicle came: the round of pictures, promised against came, the number, what is dangerous, which doors it passes. */
export function ArrivalTab() {
  const card = useThisBuild();
  const arrival = useQuery(arrivalQuery(card.id));
  const body = useQuery(bodyQuery(card.id)).data?.body;
  const may = useMay();
  const [editing, setEditing] = useState(false);
  const [asking, setAsking] = useState<Schemas["PieceView"] | null>(null);
  const [shooting, setShooting] = useState<string | null>(null);
  const back = useSend(
    (id: string) =>
      ask(api.POST("/api/builds/{id}/arrival/stand-ins/{standIn}/return", { params: { path: { id: card.id, standIn: id } } })),
    { says: "Noted: returned" },
  );
  return (
    <Shown of={arrival}>
      {(a) => {
        const next = a.round.find((s) => s.photoId === null);
        return (
          <>
            <div className="build">
              <section className="bg-guide text-chalk px-5 pt-3 pb-3" aria-label="The round">
                <p className="flex">
                  <span className="flex-1">
                    <b className="text-[15px]">The round</b>{" "}
                    <span className="text-chalk2 text-[12.5px]">
                      {a.taken} of {a.round.length} taken. Light is what a photo shows
                    </span>
                  </span>
                  {next && (
                    <button type="button" className="btn" onClick={() => setShooting(next.key)}>
                      Next: {a.round.indexOf(next) + 1}, {next.name}
                    </button>
                  )}
                </p>
                {body && <RoundPicture stations={a.round} body={body} paint={card.colourHex} chosen={shooting} onChoose={setShooting} />}
                <ol className="sr-only">
                  {a.round.map((s) => (
                    <li key={s.key}>
                      <button type="button" onClick={() => setShooting(s.key)}>
                        {s.name}: {s.photoId ? "taken" : "not taken"}
                      </button>
                    </li>
                  ))}
                </ol>
                <Hazards arrival={a} />
              </section>
              <section className="side px-5 pt-3 pb-4" aria-label="Arrival">
                <div className="flex items-baseline gap-3">
                  <h1 className="flex-1">How it came</h1>
                  <button type="button" className={`btn ${a.written ? "" : "btn-ink"}`} onClick={() => setEditing(true)}>
                    {a.written ? "Change" : "Write it down"}
                  </button>
                </div>
                <p className="text-ink2 mb-2">{a.written ? facts(a) : "Nobody has written it down yet."}</p>
                <Pieces arrival={a} mayAsk={may.desk} onAsk={setAsking} />
                {a.standIns.length > 0 && (
                  <>
                    <h2 className="mt-3">Stand-in</h2>
                    <ul>
                      {a.standIns.map((s) => (
                        <li key={s.id} className="flex gap-2 items-baseline py-[2px]">
                          <span className="flex-1">
                            <b>{s.what}</b> from {s.whose},{" "}
                            {s.returnedOn ? `went back ${day(s.returnedOn)}` : `goes back by ${day(s.returnBy)}`}
                            {!s.returnedOn && s.returnBy < today() && <b className="text-oxide"> overdue</b>}
                          </span>
                          {!s.returnedOn && (
                            <button type="button" className="btn" onClick={() => back.mutate(s.id)}>
                              Returned
                            </button>
                          )}
                        </li>
                      ))}
                    </ul>
                  </>
                )}
                <SerialLine arrival={a} colour={card.colourHex} />
                {a.toUndo.length > 0 && (
                  <>
                    <h2 className="mt-3">
                      To undo <small>what earlier owners changed; note each as a finding in the survey, where it gets its verdict</small>
                    </h2>
                    <ul className="list-disc pl-5">
                      {a.toUndo.map((t) => (
                        <li key={t}>{t}</li>
                      ))}
                    </ul>
                  </>
                )}
              </section>
            </div>
            <Doors arrival={a} paint={card.colourHex} build={card.number} />
            {editing && <ArrivalSheet arrival={a} onClose={() => setEditing(false)} />}
            {asking && <AskSheet piece={asking} onClose={() => setAsking(null)} />}
            {shooting && <ShotSheet key={shooting} station={shooting} arrival={a} onClose={() => setShooting(null)} />}
          </>
        );
      }}
    </Shown>
  );
}

function facts(a: Arrival): string {
  return [
    `Came ${day(a.cameOn)}, ${words(a.as)}${a.onWhose && ` (${a.onWhose})`}`,
    a.odometer !== null && `clock at ${number(a.odometer)}`,
    `${a.keys === 0 ? "no key" : a.keys === 1 ? "one key" : `${a.keys} keys`}`,
    a.battery === "none" ? "no battery" : `${a.battery} battery`,
    a.fluids.length > 0 && `in it: ${a.fluids.join(", ")}`,
    a.storage && `loose things: ${a.storage}`,
  ]
    .filter(Boolean)
    .join("; ")
    .concat(".");
}

function Hazards({ arrival: a }: { arrival: Arrival }) {
  const may = useMay();
  const [settling, setSettling] = useState<Schemas["HazardView"] | null>(null);
  if (a.hazards.length === 0) return null;
  return (
    <>
      {settling && <SettleSheet hazard={settling} onClose={() => setSettling(null)} />}
      <ul className="grid grid-cols-1 min-[700px]:grid-cols-2 gap-4 border-t border-guide3 pt-2" aria-label="Dangers noticed">
        {a.hazards.map((h, i) => (
          <li key={h.id} className="flex gap-3">
            <svg width="34" height="34" viewBox="-17 -17 34 34" aria-hidden="true" className="flex-none">
              <path d="M0,-16L16,0L0,16L-16,0Z" fill={h.settled ? "none" : "#EE9270"} stroke="#F5F2E6" strokeWidth="1.5" />
              <text y="6" textAnchor="middle" fontSize="15" fontWeight="720" fill={h.settled ? "#F5F2E6" : "#22272A"}>
                {String.fromCharCode(65 + i)}
              </text>
            </svg>
            <span>
              <b>
                {h.where || words(h.hazard)}
                {h.settled && ", settled"}
              </b>
              <span className="block text-chalk2">{h.next}</span>
              {h.settled ? (
                <span className="block text-chalk2">
                  {h.method}
                  {h.settledBy && ` (${h.settledBy}${h.settledAt ? `, ${day(dateOf(h.settledAt))}` : ""})`}
                </span>
              ) : (
                <>
                  <span className="block text-chalk2">{h.caution}</span>
                  <span className="block text-chalk2">
                    Work that it concerns is on hold until a manager settles it{h.expectedOn && `, planned by ${day(h.expectedOn)}`}.
                  </span>
                  {may.manager && (
                    <button type="button" className="btn mt-1" onClick={() => setSettling(h)}>
                      Settle
                    </button>
                  )}
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A danger is settled by a manager, with the method; there is no other way past it. */
function SettleSheet({ hazard: h, onClose }: { hazard: Schemas["HazardView"]; onClose: () => void }) {
  const card = useThisBuild();
  const [f, set] = useForm({ method: "" });
  const send = useSend(
    () => ask(api.POST("/api/builds/{id}/arrival/hazards/{hazard}/settle", { params: { path: { id: card.id, hazard: h.id } }, body: f })),
    { says: "Settled; the work it held may go on", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={h.where || words(h.hazard)}
      note={h.caution}
      action="Settle"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <AreaField
        label={h.hazard === "asbestos" ? "Who removed it, and where the paper is" : "How it is worked with, or that it is gone"}
        name="method"
        value={f.method}
        onChange={set("method")}
        className="col-span-2"
      />
    </FormSheet>
  );
}

function AskSheet({ piece: p, onClose }: { piece: Schemas["PieceView"]; onClose: () => void }) {
  const card = useThisBuild();
  const operations = (useQuery(operationsQuery(card.id)).data ?? []).filter((o) => !o.doneAt && o.kind === "work");
  const [f, set] = useForm({ by: addDays(today(), 14), operationId: "" });
  const send = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/arrival/pieces/{piece}/ask", {
          params: { path: { id: card.id, piece: p.id } },
          body: { by: f.by, operationId: f.operationId || null },
        }),
      ),
    { says: "Asked; it stands among the parts", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Ask ${card.client} for ${p.missing} ${p.what.toLowerCase()}`}
      note="It goes on the parts list as the client's; the work that needs it waits until its day."
      action="Ask"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <TextField label="By" name="by" type="date" value={f.by} onChange={set("by")} />
      <ChoiceField label="Needed for" value={f.operationId} onChange={set("operationId")} options={choices(operations, "nothing yet")} />
    </FormSheet>
  );
}

function ShotSheet({ station, arrival, onClose }: { station: string; arrival: Arrival; onClose: () => void }) {
  const card = useThisBuild();
  const photos = useQuery(photosQuery(card.id)).data ?? [];
  const here = arrival.round.find((s) => s.key === station);
  const now = photos.find((p) => p.id === here?.photoId);
  const [photoId, setPhotoId] = useState(here?.photoId ?? photos.at(-1)?.id ?? "");
  const send = useSend(
    (shown: string) =>
      ask(api.PUT("/api/builds/{id}/arrival/round/{station}", { params: { path: { id: card.id, station } }, body: { photoId: shown } })),
    { says: "Taken", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Picture: ${here?.name ?? station}`}
      note="Take it now, or say which of the build's photos shows it."
      action="It shows this"
      onClose={onClose}
      onSubmit={() => send.mutate(photoId)}
      problem={send.error}
      busy={send.isPending}
    >
      <PhotoTaker
        buildId={card.id}
        label="Take it"
        caption={`Arrival, ${here?.name ?? station}`}
        onTaken={(id) => {
          setPhotoId(id);
          send.mutate(id);
        }}
      />
      {now && <img src={`/api/photos/file/${now.hash}`} alt={now.caption || here?.name} className="col-span-2 w-full" />}
      <ChoiceField
        className="col-span-2"
        label="Photo"
        name="photoId"
        value={photoId}
        onChange={setPhotoId}
        options={photoChoices(photos)}
      />
    </FormSheet>
  );
}
