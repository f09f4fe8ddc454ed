import { OpenBuildPage, type Running } from "../builds/OpenBuildPage";
import { Ways } from "./Ways";

/** Opening a build, with what each way to run it would make of the plan. */
export const OpenBuild = () => <OpenBuildPage Ways={WaysOfNew} />;

function WaysOfNew({ running, onChoose }: { running: Running; onChoose: (way: Pick<Running, "template" | "choices">) => void }) {
  const { vehicle, grade, promised, priority, template, scale, choices } = running;
  // Its plan does not hang on what it is called.
  const named = { ...vehicle, make: vehicle.make || "Vehicle", model: vehicle.model || "to come" };
  return (
    <Ways
      asked={{ buildId: null, new: { vehicle: named, grade, promised, arrives: null, priority }, template, scale, choices, anew: false }}
      onChoose={(way) => onChoose({ template: way.template, choices: { ...choices, ...way.choices } })}
      paint={vehicle.colourHex}
    />
  );
}
