/** Several of a list, each with its own box. */
export function ChecksField({
  legend,
  named,
  chosen,
  onChange,
  none = "Nothing to choose from.",
}: {
  legend: string;
  named: readonly { id: string; name: string }[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
  none?: string;
}) {
  return (
    <fieldset className="col-span-2">
      <legend className="text-[12px] text-ink2">{legend}</legend>
      {named.length === 0 && <p className="text-ink2">{none}</p>}
      <div className="max-h-[168px] overflow-y-auto grid grid-cols-2 gap-x-3">
        {named.map((n) => (
          <label key={n.id} className="flex items-center gap-2 min-h-7">
            <input
              type="checkbox"
              className="size-4 flex-none"
              checked={chosen.includes(n.id)}
              onChange={(e) => onChange(e.target.checked ? [...chosen, n.id] : chosen.filter((c) => c !== n.id))}
            />
            <span className="leading-tight">{n.name}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
