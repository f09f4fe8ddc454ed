import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { Ended, provisionsQuery } from "../api/queries";
import { dateOf, day } from "../format";
import { ChoiceField, TextField } from "../ui/Field";
import { useSend } from "../ui/useSend";

type Provision = Schemas["ProvisionView"];
type Kind = Schemas["ProvisionKind"];

const KINDS: readonly (readonly [Exclude<Kind, "nothing">, string])[] = [
  ["hole", "a hole"],
  ["nut", "a nut"],
  ["bracket", "a bracket"],
  ["access", "access"],
];

const begun = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** What work after paint needs in the metal: said by whoever thinks of it, ticked off when it is made. */
export function BeforePaint({ buildId, operationId }: { buildId: string; operationId: string }) {
  const ended = useContext(Ended);
  const mine = useQuery(provisionsQuery(buildId)).data?.find((p) => p.operationId === operationId);
  const made = useSend((p: Provision) =>
    ask(
      api.POST("/api/provisions/{id}/made", {
        params: { path: { id: p.id } },
        body: { made: !p.madeAt, version: p.version },
      }),
    ),
  );
  const off = useSend(
    (p: Provision) => ask(api.POST("/api/provisions/{id}/remove", { params: { path: { id: p.id } }, body: { version: p.version } })),
    { says: "Taken off the list" },
  );
  if (!mine) return null;
  return (
    <>
      <h3 className="plan-heading">Before paint it needs</h3>
      {mine.said.length === 0 && (
        <p className="text-oxide">
          Nobody has said which holes, nuts, brackets and access this needs{mine.gate ? `: “${mine.gate}” asks for it` : ""}.
        </p>
      )}
      <ul aria-label="Before paint it needs">
        {mine.said.map((p) => (
          <li key={p.id} className="flex items-baseline gap-2 py-[3px]">
            {p.kind !== "nothing" ? (
              <label className="flex-1 flex gap-2">
                <input
                  type="checkbox"
                  className="size-4 flex-none mt-[2px]"
                  // As it was ticked, until the answer is here.
                  checked={(p.madeAt !== null) !== (made.isPending && made.variables.id === p.id)}
                  disabled={ended || made.isPending}
                  onChange={() => made.mutate(p)}
                />
                <span>
                  {begun(p.words)}
                  {p.madeAt && (
                    <span className="block text-ink2">
                      made, {p.madeBy}, {day(dateOf(p.madeAt))}
                    </span>
                  )}
                </span>
              </label>
            ) : (
              <span className="flex-1">{begun(p.words)}</span>
            )}
            {!ended && (
              <button
                type="button"
                className="btn btn-quiet"
                aria-label={`Take off ${p.words}`}
                disabled={off.isPending}
                onClick={() => off.mutate(p)}
              >
                Take off
              </button>
            )}
          </li>
        ))}
      </ul>
      {!ended && <Say operationId={operationId} first={mine.said.length === 0} />}
    </>
  );
}

function Say({ operationId, first }: { operationId: string; first: boolean }) {
  const fresh = { kind: "hole" as Exclude<Kind, "nothing">, what: "", where: "" };
  const [form, setForm] = useState(fresh);
  const send = useSend(
    (body: { kind: Kind; what: string; where: string }) =>
      ask(api.POST("/api/provisions", { body: { id: newId(), operationId, ...body } })),
    { onDone: () => setForm({ ...fresh, kind: form.kind }) },
  );
  return (
    <form
      className="grid grid-cols-2 gap-2 mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate(form);
      }}
    >
      <ChoiceField label="It needs" name="kind" value={form.kind} onChange={(kind) => setForm({ ...form, kind })} options={KINDS} />
      <TextField label="for" name="what" value={form.what} onChange={(what) => setForm({ ...form, what })} problem={send.error} />
      <div className="col-span-2">
        <TextField
          label="where on the vehicle"
          name="where"
          value={form.where}
          onChange={(where) => setForm({ ...form, where })}
          problem={send.error}
        />
      </div>
      <div className="col-span-2 flex gap-2">
        <button type="submit" className="btn" disabled={send.isPending || form.what.trim() === ""}>
          Write it down
        </button>
        {first && (
          <button
            type="button"
            className="btn btn-quiet"
            disabled={send.isPending}
            onClick={() => send.mutate({ kind: "nothing", what: "all of it is there", where: "" })}
          >
            It needs nothing
          </button>
        )}
      </div>
    </form>
  );
}
