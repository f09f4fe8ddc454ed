import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { useUser } from "../api/queries";
import { dateOf, day, timeOf } from "../format";
import { ProblemNote, TextField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

/** What a browser calls itself, in words. */
export function deviceName(agent: string) {
  const of = (known: [RegExp, string][]) => known.find(([p]) => p.test(agent))?.[1];
  const where = of([
    [/iPhone|iPad/, "Apple phone or tablet"],
    [/Android/, "Android phone or tablet"],
    [/Windows/, "Windows computer"],
    [/Macintosh/, "Apple computer"],
    [/Linux|X11/, "Linux computer"],
  ]);
  return where ?? (agent || "unknown device");
}

/** One's own account: the password, and where one is signed in. */
export function OwnAccount({ onClose }: { onClose: () => void }) {
  const user = useUser();
  const [f, set] = useForm({ old: "", chosen: "" });
  const sessions = useQuery({ queryKey: ["sessions"], queryFn: () => ask(api.GET("/api/session/all")) });
  const change = useSend(() => ask(api.PUT("/api/session/password", { body: f })), {
    says: "Your password is changed; other devices are signed out",
    onDone: onClose,
    quiet: true,
  });
  const endOthers = useSend(() => ask(api.DELETE("/api/session/others")), { says: "Other devices are signed out" });
  return (
    <Sheet title={user?.name ?? "Your account"} onClose={onClose}>
      <h2 className="mb-2">Password</h2>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate(undefined);
        }}
      >
        <TextField
          label="Present password"
          name="old"
          type="password"
          value={f.old}
          onChange={set("old")}
          autoComplete="current-password"
          problem={change.error}
          autoFocus
        />
        <TextField
          label="New password, twelve characters or more"
          name="chosen"
          type="password"
          value={f.chosen}
          onChange={set("chosen")}
          autoComplete="new-password"
          problem={change.error}
        />
        <ProblemNote problem={change.error} except={["old", "chosen"]} />
        <button type="submit" className="btn btn-ink self-start min-h-11" disabled={change.isPending}>
          Change password
        </button>
      </form>
      <h2 className="mt-6 mb-1">Where you are signed in</h2>
      <Shown of={sessions}>
        {(list) => (
          <>
            <ul>
              {list.map((s) => (
                <li key={s.id} className="border-t border-p2 py-2 flex gap-3">
                  <span className="flex-1" title={s.device}>
                    {deviceName(s.device)}
                  </span>
                  <span className="text-ink2">
                    {s.here ? "here" : "since"} {s.here ? "" : `${day(dateOf(s.startedAt))}, ${timeOf(s.startedAt)}`}
                  </span>
                </li>
              ))}
            </ul>
            {list.length > 1 && (
              <button
                type="button"
                className="btn mt-2 min-h-11"
                disabled={endOthers.isPending}
                onClick={() => endOthers.mutate(undefined)}
              >
                Sign out everywhere else
              </button>
            )}
          </>
        )}
      </Shown>
    </Sheet>
  );
}
