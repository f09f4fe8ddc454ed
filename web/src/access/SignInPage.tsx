import { useMutation } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { api, ask } from "../api/client";
import { queries, sessionQuery } from "../api/queries";
import { CheckField, ProblemNote, TextField } from "../ui/Field";
import { SignInForm, signInAs } from "./SignInForm";

/** Tokens belong to the account: the session is asked for before and after the sign-in. */
async function enter(send: () => Promise<unknown>) {
  await queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
  await send();
  queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
  return queries.fetchQuery({ ...sessionQuery, staleTime: 0 });
}

function Frame({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <main className="min-h-screen grid place-items-center p-5">
      <div className="w-[340px] max-w-full">
        <p className="wordmark !text-[27px]">First Coat</p>
        <h1 className="mt-6 mb-4">{title}</h1>
        {children}
      </div>
    </main>
  );
}

export function SignInPage() {
  const navigate = useNavigate();
  const { to } = useSearch({ from: "/sign-in" });
  return (
    <Frame title="Sign in">
      <SignInForm
        nameLabel="Name"
        enter={(who) => enter(() => signInAs(who))}
        onEntered={(session) => navigate({ to: to ?? (session.user?.role === "technician" ? "/clock" : "/") })}
      />
    </Frame>
  );
}

export function FirstVisitPage() {
  const navigate = useNavigate();
  const [form, setForm] = useState({ shopName: "", name: "", user: "", password: "", works: true });
  const set = (key: "shopName" | "name" | "user" | "password") => (v: string) => setForm((f) => ({ ...f, [key]: v }));
  const send = useMutation({
    mutationFn: () => enter(() => ask(api.POST("/api/first-visit", { body: form }))),
    onSuccess: () => navigate({ to: "/" }),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    send.mutate();
  };
  return (
    <Frame title="Your shop">
      <p className="text-ink2 mb-4">This is the first visit. You become the manager; everybody else gets an account from you.</p>
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField
          label="Name of the shop"
          name="shopName"
          value={form.shopName}
          onChange={set("shopName")}
          autoFocus
          problem={send.error}
        />
        <TextField label="Your name" name="name" value={form.name} onChange={set("name")} autoComplete="name" problem={send.error} />
        <TextField
          label="Name to sign in with"
          name="user"
          value={form.user}
          onChange={set("user")}
          autoComplete="username"
          problem={send.error}
        />
        <TextField
          label="Password, twelve characters or more"
          name="password"
          type="password"
          value={form.password}
          onChange={set("password")}
          autoComplete="new-password"
          problem={send.error}
        />
        <CheckField
          label="I work on vehicles too: give me a clock"
          value={form.works}
          onChange={(works) => setForm((f) => ({ ...f, works }))}
        />
        <ProblemNote problem={send.error} except={["shopName", "name", "user", "password"]} />
        <button type="submit" className="btn btn-ink !py-2" disabled={send.isPending}>
          Open the shop
        </button>
      </form>
    </Frame>
  );
}
