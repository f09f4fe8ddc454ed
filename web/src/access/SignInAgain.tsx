import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { api, ask } from "../api/client";
import { askAgain, queries, sessionQuery, useUser } from "../api/queries";
import { setSignedOut, useSignedOut } from "../api/signedOut";
import { sendUnsent } from "../api/unsent";
import { ProblemNote, TextField } from "../ui/Field";

/** Over the page whose sign-in has ended: what was entered below it is still there, and goes on under the same account only. */
export function SignInAgain() {
  const out = useSignedOut();
  const user = useUser();
  return out && user ? <Again name={user.name} accountId={user.accountId} /> : null;
}

function Again({ name, accountId }: { name: string; accountId: string }) {
  const [user, setUser] = useState("");
  const [password, setPassword] = useState("");
  const fresh = () => queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
  const send = useMutation({
    mutationFn: async () => {
      // Tokens belong to the account: the session is asked for before and after.
      await fresh();
      await ask(api.POST("/api/session", { body: { user, password, chosen: null } }));
      return fresh();
    },
    onSuccess: async (session) => {
      if (session.user?.accountId !== accountId) return location.assign("/");
      setSignedOut(false);
      await askAgain();
      await sendUnsent();
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    send.mutate();
  };
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="sheet-back !z-30" />
        <Dialog.Content className="guard-question" aria-describedby={undefined} onEscapeKeyDown={(e) => e.preventDefault()}>
          <Dialog.Title className="font-[650] mb-1">Sign in again</Dialog.Title>
          <p className="mb-3">You have been signed out, {name}. What you entered is still here and can be saved after that.</p>
          <form onSubmit={submit} className="flex flex-col gap-3">
            <TextField
              label="Name to sign in with"
              name="user"
              value={user}
              onChange={setUser}
              autoFocus
              autoComplete="username"
              problem={send.error}
            />
            <TextField
              label="Password"
              name="password"
              type="password"
              value={password}
              onChange={setPassword}
              autoComplete="current-password"
              problem={send.error}
            />
            <ProblemNote problem={send.error} except={["user", "password"]} />
            <div className="flex gap-2">
              <button type="submit" className="btn btn-ink" disabled={send.isPending}>
                {send.isPending ? "One moment…" : "Sign in"}
              </button>
              <a className="btn" href="/sign-in">
                Somebody else
              </a>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
