import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery, photosQuery, queries, useMay } from "../api/queries";
import { sendPhoto } from "../api/upload";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, STAGE_ORDER, stageName } from "../format";
import { CheckField, ChoiceField, choices, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { say } from "../ui/say";
import { newest, useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";

type Photo = Schemas["PhotoView"];
type Sending = { name: string; share: number; error?: string };

export function PhotosTab() {
  const card = useThisBuild();
  const photos = useQuery(photosQuery(card.id));
  const may = useMay();
  const [editing, setEditing] = useState<Photo | null>(null);
  const [sending, setSending] = useState<Sending[]>([]);
  const send = async (files: FileList) => {
    const list = [...files];
    setSending(list.map((f) => ({ name: f.name, share: 0 })));
    const update = (i: number, change: Partial<Sending>) => setSending((s) => s.map((x, j) => (i === j ? { ...x, ...change } : x)));
    for (const [i, file] of list.entries()) {
      try {
        await sendPhoto(card.id, newId(), file, {}, (share) => update(i, { share }));
        update(i, { share: 1 });
      } catch (e) {
        update(i, { error: e instanceof Error ? e.message : "not sent" });
      }
    }
    await queries.invalidateQueries({ queryKey: ["photos", card.id] });
    setSending((s) => s.filter((x) => x.error));
    say.done(`${list.length} ${list.length === 1 ? "photo" : "photos"} sent`);
  };
  return (
    <div className="px-5 pt-3 pb-10">
      <div className="flex items-baseline gap-4 mb-2">
        <h1>Photos</h1>
        <span className="flex-1" />
        <label className="btn">
          Add photos
          <input
            type="file"
            accept="image/jpeg,image/png,image/webp"
            multiple
            className="sr-only"
            onChange={(e) => e.target.files && void send(e.target.files)}
          />
        </label>
      </div>
      {sending.length > 0 && (
        <ul className="mb-3" aria-live="polite">
          {sending.map((s) => (
            <li key={s.name} className="flex items-center gap-2">
              <progress max={1} value={s.share} aria-label={s.name} /> {s.name} {s.error && <span className="wrong">{s.error}</span>}
            </li>
          ))}
        </ul>
      )}
      <Shown of={photos}>
        {(list) =>
          list.length === 0 ? (
            <Empty>No photo yet.</Empty>
          ) : (
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-4">
              {list.map((p) => (
                <li key={p.id}>
                  <button
                    type="button"
                    className="block w-full text-left"
                    onClick={() => setEditing(p)}
                    aria-label={`${p.caption || "Photo"}, ${day(dateOf(p.takenAt))}: edit`}
                  >
                    <img
                      src={`/api/photos/file/${p.thumbHash}`}
                      alt={p.caption || "workshop photo without a caption"}
                      width={p.width}
                      height={p.height}
                      loading="lazy"
                      className="w-full h-auto bg-p2"
                    />
                    <b className="font-[640] block mt-1">{p.caption || "no caption"}</b>
                    <span className="text-ink2">
                      {p.by}, {day(dateOf(p.takenAt))}
                      {p.clientMaySee ? " · the client may see it" : ""}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          )
        }
      </Shown>
      {editing && <PhotoSheet photo={newest(editing, photos.data) ?? editing} mayShow={may.desk} onClose={() => setEditing(null)} />}
    </div>
  );
}

function PhotoSheet({ photo, mayShow, onClose }: { photo: Photo; mayShow: boolean; onClose: () => void }) {
  const panels = useQuery(bodyQuery(useThisBuild().id)).data?.body.panels ?? [];
  const [form, set, , clashes] = useForm({
    caption: photo.caption,
    stage: photo.stage ?? "",
    panel: photo.panel ?? "",
    clientMaySee: photo.clientMaySee,
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/photos/{id}", {
          params: { path: { id: photo.id } },
          body: {
            caption: form.caption,
            stage: (form.stage || null) as Schemas["Stage"] | null,
            panel: form.panel || null,
            operationId: photo.operationId,
            clientMaySee: form.clientMaySee,
            version: photo.version,
          },
        }),
      ),
    { says: "Saved", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={photo.caption || "Photo"}
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      <img src={`/api/photos/file/${photo.hash}`} alt={photo.caption || "workshop photo"} className="w-full col-span-2" />
      <TextField className="col-span-2" label="Caption" name="caption" value={form.caption} onChange={set("caption")} />
      <ChoiceField
        label="Stage"
        value={form.stage}
        onChange={set("stage")}
        options={[["", "none"], ...STAGE_ORDER.map((s) => [s, stageName(s)] as [string, string])] as [Schemas["Stage"] | "", string][]}
      />
      <ChoiceField
        label="Panel"
        name="panel"
        value={form.panel}
        onChange={set("panel")}
        options={choices(
          panels.map((p) => ({ id: p.key, name: p.name })),
          "none",
        )}
      />
      {mayShow && <CheckField label="The client may see it" value={form.clientMaySee} onChange={set("clientMaySee")} />}
    </FormSheet>
  );
}
