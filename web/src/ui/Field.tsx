import { createContext, type ReactNode, useContext, useEffect, useId, useState } from "react";
import { Problem } from "../api/client";
import { dateOf, day, lengthKept, lengthShown, lengthUnit } from "../format";

type Base = { label: string; problem?: unknown; name?: string; className?: string };

/** A field as a form calls it: without where it stands, or which of several it is. */
const lastName = (field: string) => field.split(".").pop()?.replace(/\[.*$/, "").toLowerCase();

/** The sentence of a problem that concerns a field. */
export const saysOf = (problem: unknown, name?: string): string | null =>
  problem instanceof Problem && name
    ? (Object.entries(problem.fields).find(([field]) => lastName(field) === name.toLowerCase())?.[1] ?? null)
    : null;

/** The form that fields stand in: what was refused, and where fields say that they show it. */
export const FormContext = createContext<{ problem: unknown; shows: (name: string) => () => void } | null>(null);

function Frame({ label, problem, name, className, children }: Base & { children: (id: string, wrong: boolean) => ReactNode }) {
  const id = useId();
  const form = useContext(FormContext);
  const shows = form?.shows;
  useEffect(() => (name ? shows?.(name) : undefined), [name, shows]);
  const says = saysOf(problem ?? form?.problem, name);
  return (
    <label className={`field ${className ?? ""}`} htmlFor={id}>
      <span>{label}</span>
      {children(id, says !== null)}
      {says && <em role="alert">{says}</em>}
    </label>
  );
}

type TextProps = Base & {
  value: string;
  onChange: (v: string) => void;
  type?: string;
  autoFocus?: boolean;
  autoComplete?: string;
  placeholder?: string;
  inputMode?: "decimal" | "numeric" | "text";
};

export function TextField({ value, onChange, type = "text", autoFocus, autoComplete, placeholder, inputMode, ...base }: TextProps) {
  return (
    <Frame {...base}>
      {(id, wrong) => (
        <input
          id={id}
          type={type}
          value={value}
          autoFocus={autoFocus}
          autoComplete={autoComplete}
          placeholder={placeholder}
          inputMode={inputMode}
          aria-invalid={wrong}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Frame>
  );
}

export function AreaField({ value, onChange, rows = 3, ...base }: Base & { value: string; onChange: (v: string) => void; rows?: number }) {
  return (
    <Frame {...base}>
      {(id, wrong) => <textarea id={id} rows={rows} value={value} aria-invalid={wrong} onChange={(e) => onChange(e.target.value)} />}
    </Frame>
  );
}

export function NumberField({ value, onChange, ...base }: Base & { value: number | null; onChange: (v: number | null) => void }) {
  return (
    <Frame {...base}>
      {(id, wrong) => (
        <input
          id={id}
          type="number"
          step="any"
          inputMode="decimal"
          value={value ?? ""}
          aria-invalid={wrong}
          onChange={(e) => onChange(e.target.value === "" ? null : Number(e.target.value))}
        />
      )}
    </Frame>
  );
}

/** A length, kept in whole millimetres and written in the shop's unit; what is typed stays as typed while it means the same. */
export function LengthField({ label, value, onChange, ...base }: Base & { value: number | null; onChange: (mm: number | null) => void }) {
  const [typed, setTyped] = useState<number | null>(null);
  const means = (shown: number | null) => (shown === null ? null : lengthKept(shown));
  return (
    <NumberField
      {...base}
      label={`${label}, ${lengthUnit()}`}
      value={typed !== null && means(typed) === value ? typed : value === null ? null : lengthShown(value)}
      onChange={(v) => {
        setTyped(v);
        onChange(means(v));
      }}
    />
  );
}

export function ChoiceField<T extends string>({
  value,
  onChange,
  options,
  ...base
}: Base & { value: T; onChange: (v: T) => void; options: readonly (readonly [T, string])[] }) {
  return (
    <Frame {...base}>
      {(id, wrong) => (
        <select id={id} value={value} aria-invalid={wrong} onChange={(e) => onChange(e.target.value as T)}>
          {options.map(([v, text]) => (
            <option key={v} value={v}>
              {text}
            </option>
          ))}
        </select>
      )}
    </Frame>
  );
}

/** What is named, to choose from, after a first choice of nothing. */
export const choices = (named: readonly { id: string; name: string }[], nothing: string): [string, string][] => [
  ["", nothing],
  ...named.map((n): [string, string] => [n.id, n.name]),
];

/** Photos to choose from, by day and caption. */
export const photoChoices = (photos: readonly { id: string; takenAt: string; caption: string }[]) =>
  choices(
    photos.map((p) => ({ id: p.id, name: `${day(dateOf(p.takenAt))}, ${p.caption || "no caption"}` })),
    "none",
  );

export function CheckField({ label, value, onChange }: { label: string; value: boolean; onChange: (v: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 min-h-7">
      <input type="checkbox" checked={value} onChange={(e) => onChange(e.target.checked)} className="size-4" />
      <span>{label}</span>
    </label>
  );
}

/** What the server said, when it concerns no field that is shown. */
export function ProblemNote({ problem, except = [] }: { problem: unknown; except?: readonly string[] }) {
  const says = allOf(problem)
    .filter(([field]) => !except.some((n) => lastName(field) === n.toLowerCase()))
    .map(([, sentence]) => sentence);
  if (says.length === 0) return null;
  return (
    <div className="wrong" role="alert">
      {[...new Set(says)].map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </div>
  );
}

/** Every sentence of a problem with its field; one that concerns no field has none. */
function allOf(problem: unknown): [string, string][] {
  if (!problem) return [];
  if (!(problem instanceof Error)) return [["", "That did not work."]];
  const fields = problem instanceof Problem ? Object.entries(problem.fields) : [];
  return fields.length > 0 ? fields : [["", problem.message]];
}
