import { useEffect, useState } from "react";
import { askAgain } from "../api/queries";
import { dropUnsent, sendUnsent, useUnsent } from "../api/unsent";
import { counted, dateOf, day, timeOf } from "../format";
import { Sheet } from "./Sheet";

/** Seconds between two tries while something waits. */
const EVERY = 15;

/** What waits in this browser to be sent: its count where everybody sees it, the list behind it. Nothing waits: nothing is shown. */
export function NotSentYet({ className = "btn" }: { className?: string }) {
  const unsent = useUnsent();
  const [open, setOpen] = useState(false);
  const waiting = unsent.length > 0;
  useEffect(() => {
    if (!waiting) return;
    const go = async () => {
      if ((await sendUnsent()) > 0) await askAgain();
    };
    const timer = setInterval(() => void go(), EVERY * 1000);
    addEventListener("online", go);
    return () => {
      clearInterval(timer);
      removeEventListener("online", go);
    };
  }, [waiting]);
  if (!waiting) return null;
  const refused = unsent.filter((u) => u.refused !== null);
  return (
    <>
      <button type="button" className={`${className} text-oxide`} aria-live="polite" onClick={() => setOpen(true)}>
        Not sent yet: {unsent.length}
      </button>
      {open && (
        <Sheet title="Not sent yet" onClose={() => setOpen(false)}>
          <p className="text-ink2 mb-3">
            Kept in this browser, in the order in which it was done; it goes by itself when there is a connection.
            {refused.length > 0 &&
              ` ${counted(refused.length, "piece")} of it the shop did not take: look, and send it again or discard it.`}
          </p>
          <ol className="list-none">
            {unsent.map((u) => (
              <li key={u.seq} className="flex gap-3 items-baseline border-t border-p3 py-2">
                <span className="flex-1">
                  <b>{u.what}</b>, {day(dateOf(u.at))}, {timeOf(u.at)}
                  {u.refused && <span className="block wrong">{u.refused}</span>}
                </span>
                {u.refused && (
                  <button type="button" className="btn" onClick={() => void dropUnsent(u.seq)}>
                    Discard
                  </button>
                )}
              </li>
            ))}
          </ol>
          <button
            type="button"
            className="btn btn-ink mt-3"
            onClick={async () => {
              if ((await sendUnsent(true)) > 0) await askAgain();
            }}
          >
            Send it now
          </button>
        </Sheet>
      )}
    </>
  );
}
