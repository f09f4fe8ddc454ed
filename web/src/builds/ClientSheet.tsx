import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { buildQuery } from "../api/queries";
import { TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

/** Who the client is and where letters, codes and calls go; a wrong address is corrected here. */
export function ClientSheet({ onClose }: { onClose: () => void }) {
  const build = useQuery(buildQuery(useThisBuild().id)).data;
  return build ? <ClientForm build={build} onClose={onClose} /> : null;
}

function ClientForm({ build, onClose }: { build: Schemas["BuildView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({ name: build.clientName, email: build.clientEmail ?? "", phone: build.clientPhone ?? "" });
  const save = useSend(
    () => ask(api.PUT("/api/builds/{id}/client", { params: { path: { id: build.id } }, body: { ...f, version: build.clientVersion } })),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Client"
      note="Holds for all builds of this client. Letters and codes that have gone out keep the address they went to."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <TextField label="Name" name="name" value={f.name} onChange={set("name")} />
      <TextField label="E-mail" name="email" value={f.email} onChange={set("email")} />
      <TextField label="Telephone" name="phone" value={f.phone} onChange={set("phone")} />
    </FormSheet>
  );
}
