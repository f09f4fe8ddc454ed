import { useMutation } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, ask, Problem, type Schemas } from "../api/client";
import { ProblemNote, TextField } from "../ui/Field";

/** A sign-in by name and password; a one-time word asks for a password of one's own next. */
export type Entering = { user: string; password: string; chosen: string | null };
export const signInAs = (who: Entering) => ask(api.POST("/api/session", { body: who }));

type Session = Schemas["SessionView"];

/** The fields of a sign-in, wherever it is asked for. */
export function SignInForm({
  nameLabel,
  enter,
  onEntered,
  children,
}: {
  nameLabel: string;
  /** Signs in and says whose session it is then. */
  enter: (who: Entering) => Promise<Session>;
  onEntered: (session: Session) => unknown;
  /** What stands beside the button. */
  children?: ReactNode;
}) {
  const [user, setUser] = useState("");
  const [password, setPassword] = useState("");
  const [chosen, setChosen] = useState<string | null>(null);
  const send = useMutation({
    mutationFn: () => enter({ user, password, chosen: chosen || null }),
    // A one-time word opened: the next thing is a password of one's own.
    onError: (e) => e instanceof Problem && e.field === "chosen" && setChosen((c) => c ?? ""),
    onSuccess: onEntered,
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    send.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <TextField label={nameLabel} name="user" value={user} onChange={setUser} autoFocus autoComplete="username" problem={send.error} />
      <TextField
        label="Password"
        name="password"
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="current-password"
        problem={send.error}
      />
      {chosen !== null && (
        <TextField
          label="A password of your own, twelve characters or more"
          name="chosen"
          type="password"
          value={chosen}
          onChange={setChosen}
          autoComplete="new-password"
          autoFocus
          problem={send.error}
        />
      )}
      <ProblemNote problem={send.error} except={["user", "password", "chosen"]} />
      <div className="flex gap-2">
        <button type="submit" className={`btn btn-ink !py-2 ${children ? "" : "flex-1"}`} disabled={send.isPending}>
          {send.isPending ? "One moment…" : "Sign in"}
        </button>
        {children}
      </div>
    </form>
  );
}
