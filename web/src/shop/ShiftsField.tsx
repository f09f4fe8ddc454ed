import type { Schemas } from "../api/client";
import { dayName, WEEKDAYS } from "../format";
import { ChoiceField, TextField } from "../ui/Field";
import { ListField } from "../ui/ListField";

const hour = (at: string) => at.slice(0, 5);

/** The shifts of a week with their unpaid breaks. */
export function ShiftsField({ week, onChange }: { week: Schemas["DayShift"][]; onChange: (week: Schemas["DayShift"][]) => void }) {
  return (
    <ListField
      rows={week}
      onChange={onChange}
      add="Add a shift"
      next={() => ({ day: "saturday" as const, from: "08:00:00", to: "12:00:00", breaks: [] })}
    >
      {(shift, change) => (
        <div className="flex-1 border-t border-p2 pt-2 grid grid-cols-[1fr_80px_80px] gap-2 items-end">
          <ChoiceField
            label="Day"
            value={shift.day}
            onChange={(v) => change({ day: v })}
            options={WEEKDAYS.map((d) => [d, dayName(d)] as const)}
          />
          <TextField label="From" type="time" value={hour(shift.from)} onChange={(v) => change({ from: `${v}:00` })} />
          <TextField label="To" type="time" value={hour(shift.to)} onChange={(v) => change({ to: `${v}:00` })} />
          <ListField
            className="col-span-3"
            rows={shift.breaks}
            onChange={(breaks) => change({ breaks })}
            add="Add a break"
            next={() => ({ from: "12:00:00", to: "12:30:00" })}
          >
            {(pause, changeBreak) => (
              <>
                <span className="text-ink2 flex-1">unpaid break</span>
                <TextField label="From" type="time" value={hour(pause.from)} onChange={(v) => changeBreak({ from: `${v}:00` })} />
                <TextField label="To" type="time" value={hour(pause.to)} onChange={(v) => changeBreak({ to: `${v}:00` })} />
              </>
            )}
          </ListField>
        </div>
      )}
    </ListField>
  );
}
