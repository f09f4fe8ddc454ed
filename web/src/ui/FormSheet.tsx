import { type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { Ended } from "../api/queries";
import { words } from "../format";
import { FormContext, ProblemNote } from "./Field";
import { Sheet } from "./Sheet";
import type { Clash } from "./useForm";

type Props = {
  title: string;
  note?: string;
  action?: string;
  onClose: () => void;
  onSubmit: () => void;
  problem: unknown;
  busy: boolean;
  /** What somebody else changed meanwhile. */
  clashes?: Clash[];
  more?: ReactNode;
  /** What would come of it, as far as is known: it comes while somebody is about to press, so it never moves the button. */
  answer?: ReactNode;
  /** It settles what was under way, also of a build that has ended. */
  afterEnd?: boolean;
  children: ReactNode;
};

/** A sheet that is one form: fields in two columns, one button. What was refused stands at the field of its name, and below where no field has it. */
export function FormSheet({
  title,
  note,
  action = "Save",
  onClose,
  onSubmit,
  problem,
  busy,
  clashes = [],
  more,
  answer,
  afterEnd,
  children,
}: Props) {
  const ended = useContext(Ended) && !afterEnd;
  const [shown, setShown] = useState<readonly string[]>([]);
  const shows = useCallback((name: string) => {
    setShown((names) => [...names, name]);
    return () => setShown((names) => names.toSpliced(names.indexOf(name), 1));
  }, []);
  const form = useMemo(() => ({ problem, shows }), [problem, shows]);
  return (
    <Sheet title={title} note={note} onClose={onClose}>
      <form
        className={answer ? "answered" : undefined}
        onSubmit={(e) => {
          e.preventDefault();
          onSubmit();
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <FormContext value={form}>{children}</FormContext>
        </div>
        <div className="sheet-foot mt-3">
          {answer}
          <ProblemNote problem={problem} except={shown} />
          {ended && <p className="text-ink2">The build has ended: it can only be read.</p>}
          <Clashes clashes={clashes} />
          <div className="flex gap-2 mt-1">
            <button type="submit" className="btn btn-ink" disabled={busy || ended}>
              {action}
            </button>
            {more}
          </div>
        </div>
      </form>
    </Sheet>
  );
}

/** Both people's words side by side; saving keeps what stands in the form. */
export function Clashes({ clashes }: { clashes: Clash[] }) {
  if (clashes.length === 0) return null;
  return (
    <div role="alert" className="border-t-4 border-oxide pt-2 mb-2">
      <b>Somebody changed this meanwhile</b>
      <ul>
        {clashes.map((c) => (
          <li key={c.field} className="flex items-center gap-2 py-[2px]">
            <span className="flex-1">
              {words(c.field)} is now: {c.theirs}
            </span>
            <button type="button" className="btn" onClick={c.take}>
              Use theirs
            </button>
          </li>
        ))}
      </ul>
      <p className="text-ink2">Saving keeps what is in the form.</p>
    </div>
  );
}
