import { type ReactNode, useState } from "react";
import { ProblemNote } from "./Field";
import { Sheet } from "./Sheet";

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
  more?: ReactNode;
  children: ReactNode;
};

/** A sheet that is one form: fields in two columns, what the server refused, one button. */
export function FormSheet({ title, note, action = "Save", onClose, onSubmit, problem, except, busy, more, children }: Props) {
  return (
    <Sheet open title={title} note={note} onClose={onClose}>
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
          <div className="flex gap-2 mt-1">
            <button type="submit" className="btn btn-ink" disabled={busy}>
              {action}
            </button>
            {more}
          </div>
        </div>
      </form>
    </Sheet>
  );
}

/** State of a form with one setter for each field. */
export function useForm<T extends object>(start: T) {
  const [form, setForm] = useState(start);
  const set =
    <K extends keyof T>(key: K) =>
    (value: T[K]) =>
      setForm((f) => ({ ...f, [key]: value }));
  return [form, set, setForm] as const;
}
