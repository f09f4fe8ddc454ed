import { type ReactNode, useContext } from "react";
import { Ended } from "../api/queries";
import { words } from "../format";
import { ProblemNote } from "./Field";
import { Sheet } from "./Sheet";
import type { Clash } from "./useForm";

type Props = {
  title: string;
  note?: string;
  action?: string;
  onClose: () => void;
  onSubmit: () => void;
  problem: unknown;
  /** Fields that show their own problem. */
  except: string[];
  busy: boolean;
  /** What somebody else changed meanwhile. */
  clashes?: Clash[];
  more?: ReactNode;
  /** It settles what was under way, also of a build that has ended. */
  afterEnd?: boolean;
  children: ReactNode;
};

/** A sheet that is one form: fields in two columns, what the server refused, one button. */
export function FormSheet({
  title,
  note,
  action = "Save",
  onClose,
  onSubmit,
  problem,
  except,
  busy,
  clashes = [],
  more,
  afterEnd,
  children,
}: Props) {
  const ended = useContext(Ended) && !afterEnd;
  return (
    <Sheet title={title} note={note} onClose={onClose}>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          onSubmit();
        }}
      >
        {children}
        <div className="col-span-2">
          <ProblemNote problem={problem} except={except} />
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
