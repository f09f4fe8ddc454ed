import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { useUser } from "../api/queries";
import { dateOf, day } from "../format";
import { ChoiceField, choices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Section } from "../ui/Section";
import { Sheet } from "../ui/Sheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Account = Schemas["AccountView"];
type Person = Schemas["PersonView"];
const ROLES: [string, string][] = [
  ["technician", "technician"],
  ["office", "office"],
  ["manager", "manager"],
];

/** What stands with an account: closed, waiting for its owner, or on how many browsers it is signed in. */
function standing(a: Account) {
  if (a.closedAt) return `closed ${day(dateOf(a.closedAt))}`;
  if (a.wordUntil) return "one-time word not used yet";
  if (a.sessions === 0) return "not signed in";
  return a.sessions === 1 ? "signed in on one device" : `signed in on ${a.sessions} devices`;
}

/** The accounts of the shop: made, given to a person, reset with a one-time word, closed. */
export function Accounts({ people, open = false }: { people: Person[]; open?: boolean }) {
  const accounts = useQuery({ queryKey: ["accounts"], queryFn: () => ask(api.GET("/api/accounts")) });
  const [editing, setEditing] = useState<string | "new" | null>(open ? "new" : null);
  const list = accounts.data ?? [];
  const chosen = list.find((a) => a.id === editing);
  const close = () => setEditing(null);
  return (
    <Section title="Accounts" action="Add an account" onAction={() => setEditing("new")}>
      <table className="rows">
        <tbody>
          {list.map((a) => (
            <tr key={a.id} className={a.closedAt ? "text-ink2" : ""}>
              <td className="font-[640]">{a.user}</td>
              <td>{a.name}</td>
              <td>{a.role}</td>
              <td className="text-ink2">{standing(a)}</td>
              <td className="text-right">
                <button type="button" className="btn" aria-label={`Change the account ${a.user}`} onClick={() => setEditing(a.id)}>
                  Change
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {editing === "new" && <NewAccount people={people} onClose={close} />}
      {chosen && <EditAccount account={chosen} people={people} onClose={close} />}
    </Section>
  );
}

function NewAccount({ people, onClose }: { people: Person[]; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [f, set] = useForm({ user: "", password: "", name: "", role: "technician", personId: "" });
  const save = useSend(() => ask(api.POST("/api/accounts", { body: { id, ...f, personId: f.personId || null } })), {
    says: "The account is made",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet title="New account" onClose={onClose} onSubmit={() => save.mutate(undefined)} problem={save.error} busy={save.isPending}>
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} autoFocus />
      <ChoiceField label="Role" name="role" value={f.role} onChange={set("role")} options={ROLES} />
      <TextField label="Name to sign in with" name="user" value={f.user} onChange={set("user")} autoComplete="off" />
      <TextField
        label="Password, twelve characters or more"
        name="password"
        type="password"
        value={f.password}
        onChange={set("password")}
        autoComplete="new-password"
      />
      <PersonField value={f.personId} onChange={set("personId")} people={people} problem={save.error} />
    </FormSheet>
  );
}

function PersonField({ people, ...field }: { value: string; onChange: (v: string) => void; people: Person[]; problem: unknown }) {
  return <ChoiceField label="Person of the shop" name="personId" options={choices(people, "nobody")} {...field} />;
}

function EditAccount({ account: a, people, onClose }: { account: Account; people: Person[]; onClose: () => void }) {
  const path = { params: { path: { id: a.id } } };
  const own = useUser()?.accountId === a.id;
  const [asking, setAsking] = useState<"close" | "word" | null>(null);
  const [f, set, , clashes] = useForm({ name: a.name, role: a.role, personId: a.personId ?? "" });
  const save = useSend(() => ask(api.PUT("/api/accounts/{id}", { ...path, body: { ...f, personId: f.personId || null } })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  const end = useSend(() => ask(api.POST("/api/accounts/{id}/close", path)), { says: `${a.user} is closed`, onDone: onClose });
  const word = useSend(() => ask(api.POST("/api/accounts/{id}/word", path)));
  if (word.data)
    return (
      <Sheet title={`One-time word for ${a.user}`} onClose={onClose}>
        <p className="text-[27px] font-[650] tracking-wide select-all" data-testid="word">
          {word.data.word}
        </p>
        <p className="mt-3">
          Tell it to {a.name}. It opens once, until {day(dateOf(word.data.until))}; then a password is chosen. It is shown only now.
        </p>
      </Sheet>
    );
  if (asking)
    return (
      <Sheet title={asking === "close" ? `Close ${a.user}?` : `A new word for ${a.user}?`} onClose={onClose}>
        <p className="mb-4">
          {asking === "close"
            ? `${a.name} is signed out everywhere at once and cannot sign in again. What was recorded under this account stays. A one-time word opens it again.`
            : `The present password stops working and ${a.name} is signed out everywhere. You get a word that opens the account once.`}
        </p>
        <div className="flex gap-2">
          {asking === "close" ? (
            <button type="button" className="btn btn-ink" disabled={end.isPending} onClick={() => end.mutate(undefined)}>
              Close the account
            </button>
          ) : (
            <button type="button" className="btn btn-ink" disabled={word.isPending} onClick={() => word.mutate(undefined)}>
              Give out a word
            </button>
          )}
          <button type="button" className="btn" onClick={() => setAsking(null)}>
            Go back
          </button>
        </div>
      </Sheet>
    );
  return (
    <FormSheet
      title={`Account ${a.user}`}
      note={standing(a)}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending || a.closedAt !== null}
      clashes={clashes}
      more={
        own ? (
          <span className="self-center text-ink2">Your own password is changed under your name.</span>
        ) : (
          <>
            <button type="button" className="btn" onClick={() => setAsking("word")}>
              {a.closedAt ? "Open again with a word" : "Reset with a word"}
            </button>
            {!a.closedAt && (
              <button type="button" className="btn" onClick={() => setAsking("close")}>
                Close the account
              </button>
            )}
          </>
        )
      }
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} />
      <ChoiceField label="Role" name="role" value={f.role} onChange={set("role")} options={ROLES} />
      <PersonField value={f.personId} onChange={set("personId")} people={people} problem={save.error} />
    </FormSheet>
  );
}
