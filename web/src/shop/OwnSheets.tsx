import { api, ask, type Schemas } from "../api/client";
import { AreaField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { ListField } from "../ui/ListField";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

/** Racks by the shop's own names, with their shelves and trays. */
export function RacksSheet({ shop, onClose }: { shop: Schemas["ShopView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({ racks: shop.racks });
  const save = useSend(() => ask(api.PUT("/api/shop/racks", { body: { racks: f.racks, version: shop.settings.version } })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="Racks"
      note="A tray is called by rack, shelf and number, such as C3-7 or Loft 3-7. Labels and the search for bags use these names."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <ListField rows={f.racks} onChange={set("racks")} add="Add a rack" next={() => ({ name: "", shelves: 5, trays: 12 })}>
        {(r, change) => (
          <>
            <TextField className="flex-1" label="Rack" value={r.name} onChange={(name) => change({ name })} />
            <NumberField className="w-20" label="Shelves" value={r.shelves} onChange={(v) => change({ shelves: v ?? 1 })} />
            <NumberField className="w-20" label="Trays on each" value={r.trays} onChange={(v) => change({ trays: v ?? 1 })} />
          </>
        )}
      </ListField>
    </FormSheet>
  );
}

/** Work that is nobody's build: it is on the clock and on no bill. */
export function JobsSheet({ shop, onClose }: { shop: Schemas["ShopView"]; onClose: () => void }) {
  const [f, set, , clashes] = useForm({ jobs: shop.jobs.join("\n") });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/shop/jobs", {
          body: {
            jobs: f.jobs
              .split("\n")
              .map((j) => j.trim())
              .filter(Boolean),
            version: shop.settings.version,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Shop jobs, on no build"
      note="Everybody can clock on to it; it appears on no bill."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <AreaField className="col-span-2" label="A line each" name="jobs" rows={6} value={f.jobs} onChange={set("jobs")} />
    </FormSheet>
  );
}
