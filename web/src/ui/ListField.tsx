import type { ReactNode } from "react";

type Props<T> = {
  legend?: string;
  rows: readonly T[];
  onChange: (rows: T[]) => void;
  /** Makes the next row; its button's words. */
  add: string;
  next: () => T;
  disabled?: boolean;
  className?: string;
  children: (row: T, change: (to: Partial<T>) => void, index: number) => ReactNode;
};

/** Rows of a form: each can be changed and taken away, more can be added. */
export function ListField<T>({ legend, rows, onChange, add, next, disabled, className = "col-span-2", children }: Props<T>) {
  return (
    <fieldset className={className} disabled={disabled}>
      {legend && <legend className="font-[660]">{legend}</legend>}
      {rows.map((row, i) => (
        <div key={i} className="flex gap-2 items-end mb-1">
          {children(row, (to) => onChange(rows.map((x, j) => (i === j ? { ...x, ...to } : x))), i)}
          <button type="button" className="btn" onClick={() => onChange(rows.filter((_, j) => j !== i))}>
            Remove
          </button>
        </div>
      ))}
      <button type="button" className="btn" onClick={() => onChange([...rows, next()])}>
        {add}
      </button>
    </fieldset>
  );
}
