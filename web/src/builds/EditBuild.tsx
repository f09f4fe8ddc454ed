import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildQuery } from "../api/queries";
import { CheckField, NumberField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import {
  AgreementFields,
  agreementForm,
  BriefFields,
  briefForm,
  briefOf,
  contractOf,
  estimateOf,
  useStyles,
  VehicleFields,
  vehicleForm,
  vehicleOf,
} from "./BuildFields";
import { useThisBuild } from "./useBuild";

type Part = "brief" | "vehicle" | "agreement";

const TITLES: Record<Part, string> = { brief: "Brief", vehicle: "Vehicle", agreement: "Agreement" };

/** Changes one part of what was agreed or known about a build; the rest is sent as it stands. */
export function EditBuild({ part, onClose }: { part: Part; onClose: () => void }) {
  const build = useQuery(buildQuery(useThisBuild().id)).data;
  return build?.contract ? <EditForm build={build} part={part} onClose={onClose} /> : null;
}

function EditForm({ build, part, onClose }: { build: Schemas["BuildView"]; part: Part; onClose: () => void }) {
  const styles = useStyles();
  const vehicle = useForm(vehicleForm(build.vehicle));
  const brief = useForm(briefForm(build));
  const agreement = useForm(agreementForm(build.contract, build.estimate));
  const queue = useForm({ priority: build.priority, fillIn: build.fillIn });
  const [q, setQ] = queue;
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}", {
          params: { path: { id: build.id } },
          body: {
            vehicle: vehicleOf(vehicle[0], styles.find((s) => s.key === vehicle[0].style)?.dimensions),
            brief: briefOf(brief[0]),
            contract: contractOf(agreement[0]),
            estimate: estimateOf(agreement[0]),
            ...q,
            version: build.version,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={TITLES[part]}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={[vehicle, brief, agreement, queue].flatMap((form) => form[3])}
    >
      {part === "vehicle" && <VehicleFields form={vehicle} problem={save.error} number={build.number} />}
      {part === "agreement" && <AgreementFields form={agreement} problem={save.error} />}
      {part === "brief" && (
        <>
          <BriefFields form={brief} problem={save.error} />
          <NumberField label="Place in the queue" name="priority" value={q.priority} onChange={(v) => setQ("priority")(v ?? 0)} />
          <CheckField label="Fill-in job: gets the hours that others leave free" value={q.fillIn} onChange={setQ("fillIn")} />
        </>
      )}
    </FormSheet>
  );
}
