import { useState } from "react";
import { api, ask } from "../api/client";
import type { Pressed } from "../api/live";
import { lengthUnit } from "../format";
import { ChoiceField, NumberField } from "../ui/Field";
import { useSend } from "../ui/useSend";

/** Stands in for a wireless gauge: what is pressed here goes to the windows of whoever is signed in that listen to it. */
export function GaugePage() {
  const [value, setValue] = useState<number | null>(null);
  const [unit, setUnit] = useState<Pressed["unit"]>(lengthUnit() === "in" ? "inch" : "mm");
  const send = useSend((pressed: Pressed) => ask(api.POST("/api/gauge", { body: pressed })), { says: "Pressed", quiet: true });
  return (
    <form
      className="p-5 max-w-[420px] grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== null) send.mutate({ value, unit }, { onSuccess: () => setValue(null) });
      }}
    >
      <h1 className="text-[22px] font-[740] flare">A gauge that is not there</h1>
      <p className="text-ink2">
        Open a line under Gaps in another window, press “Gauge” there, then press figures here: they go where a wireless gauge’s would.
      </p>
      <NumberField label="It reads" name="value" value={value} onChange={setValue} problem={send.error} />
      <ChoiceField
        label="in"
        value={unit}
        onChange={setUnit}
        options={[
          ["mm", "mm"],
          ["inch", "inches"],
          ["thou", "thousandths of an inch"],
        ]}
      />
      <button type="submit" className="btn btn-ink justify-self-start" disabled={value === null || send.isPending}>
        Press
      </button>
    </form>
  );
}
