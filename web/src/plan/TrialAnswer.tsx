import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { dateOf, timeOf, weekday } from "../format";
import { movesText, someOf } from "../plannedMoves";

type Trial = Schemas["TrialView"];

/** What the plan would say of a change, once the hand has rested on it. Nothing is kept by asking. */
export function useTrial<B>(change: B | null, send: (change: B) => Promise<Trial>, of: readonly string[]) {
  const wanted = change === null ? null : JSON.stringify(change);
  const [asked, setAsked] = useState(wanted);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(wanted), 250);
    return () => clearTimeout(timer);
  }, [wanted]);
  const answer = useQuery({
    queryKey: ["trial", ...of, asked],
    queryFn: () => send(JSON.parse(asked as string) as B),
    enabled: asked !== null && asked === wanted,
    placeholderData: wanted === null ? undefined : keepPreviousData,
    retry: false,
    gcTime: 0,
  });
  return { asked: wanted !== null, waiting: asked !== wanted || answer.isFetching, error: answer.error, data: answer.data };
}

/** The plan's answer to a change before it is saved; a change that cannot be says why. */
export function TrialAnswer({ trial }: { trial: ReturnType<typeof useTrial> }) {
  if (!trial.asked) return null;
  const then = trial.data;
  return (
    <div aria-live="polite" className="trial">
      {trial.error ? (
        <p className="wrong">{trial.error.message}</p>
      ) : !then ? (
        <p className="text-ink2">Planning…</p>
      ) : (
        <p className={trial.waiting ? "text-ink2" : ""}>
          {then.start && then.finish && (
            <>
              Planned {weekday(dateOf(then.start))} {timeOf(then.start)} to {weekday(dateOf(then.finish))} {timeOf(then.finish)}.{" "}
            </>
          )}
          {movesText(then.moves)}
          {then.withoutDate.length > 0 && <span className="text-oxide"> Without a date then: {someOf(then.withoutDate)}.</span>}
        </p>
      )}
    </div>
  );
}
