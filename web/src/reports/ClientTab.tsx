import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { api, ask, newId, type Schemas } from "../api/client";
import { buildQuery, linksQuery, pageQuery, photosQuery, reportsQuery, useMay } from "../api/queries";
import { ClientSheet } from "../builds/ClientSheet";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, linesOf } from "../format";
import { AreaField, ProblemNote, TextField } from "../ui/Field";
import { Clashes } from "../ui/FormSheet";
import { Empty, Shown } from "../ui/States";
import { useForm } from "../ui/useForm";
import { useLeavingGuard } from "../ui/useLeavingGuard";
import { useSend } from "../ui/useSend";
import { ReportView } from "./ReportView";

type Row = Schemas["ReportRow"];

/** Reports to the client: drafted, edited, previewed as the client sees it, published; and the private links. */
export function ClientTab() {
  const card = useThisBuild();
  const reports = useQuery(reportsQuery(card.id));
  const [shown, setShown] = useState<string | null>(null);
  const unsaved = useRef(false);
  const guard = useLeavingGuard(() => unsaved.current);
  const draft = useSend(() => ask(api.POST("/api/builds/{id}/reports", { params: { path: { id: card.id } }, body: { id: newId() } })), {
    onDone: (r) => setShown(r.id),
  });
  return (
    <div className="grid grid-cols-1 min-[900px]:grid-cols-[420px_minmax(0,1fr)]">
      {guard.question}
      <section className="px-5 pt-3 pb-10" aria-label="Reports">
        <Shown of={reports}>
          {(list) => {
            const current = list.find((r) => r.id === shown) ?? list[0];
            return (
              <>
                <div className="flex items-baseline gap-3 mb-1">
                  <h1 className="flex-1">Reports</h1>
                  {!list.some((r) => r.draft) && (
                    <button type="button" className="btn" disabled={draft.isPending} onClick={() => draft.mutate(undefined)}>
                      Draft a report
                    </button>
                  )}
                </div>
                {list.length === 0 && <Empty>No report yet. A draft is written from what was recorded.</Empty>}
                <ul>
                  {list.map((r) => (
                    <li key={r.id} className="border-t border-p2">
                      <button
                        type="button"
                        aria-pressed={r.id === current?.id}
                        className={`block w-full text-left py-1 ${r.id === current?.id ? "font-[680]" : ""}`}
                        onClick={() => r.id !== current?.id && guard.before(() => setShown(r.id))}
                      >
                        {r.number}. {r.title || "untitled"}
                        <span className="block text-ink2 font-[450]">
                          {r.draft
                            ? "draft"
                            : `published ${day(dateOf(r.publishedAt ?? ""))} by ${r.publishedBy}; ${r.sentTo ? `letter to ${r.sentTo}` : "no letter: no address is known"}`}
                        </span>
                      </button>
                    </li>
                  ))}
                </ul>
                {current?.draft && <Editor unsaved={unsaved} key={`${current.id}`} report={current} />}
                {current && !current.draft && (
                  <p className="mt-3 flex gap-2">
                    <a className="btn" href={`/api/reports/${current.id}/pdf?paper=a4`} download>
                      PDF, A4
                    </a>
                    <a className="btn" href={`/api/reports/${current.id}/pdf?paper=letter`} download>
                      PDF, Letter
                    </a>
                  </p>
                )}
                <Links />
                {current && <Preview id={current.id} />}
              </>
            );
          }}
        </Shown>
      </section>
      <div id="preview" className="border-l border-p3" />
    </div>
  );
}

/** A draft's words; `unsaved` says whether any of them would be lost. */
function Editor({ report, unsaved }: { report: Row; unsaved: RefObject<boolean> }) {
  const card = useThisBuild();
  const may = useMay();
  const email = useQuery(buildQuery(card.id)).data?.clientEmail ?? "";
  const [asking, setAsking] = useState(false);
  const photos = useQuery(photosQuery(card.id)).data?.filter((p) => p.clientMaySee) ?? [];
  const kept = { ...report.text, done: report.text.done.join("\n"), next: report.text.next.join("\n") };
  const [form, set, , clashes] = useForm(kept);
  useEffect(() => {
    unsaved.current = JSON.stringify(form) !== JSON.stringify(kept);
    return () => {
      unsaved.current = false;
    };
  });
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/reports/{id}", {
          params: { path: { id: report.id } },
          body: { ...form, done: linesOf(form.done), next: linesOf(form.next), version: report.version },
        }),
      ),
    { says: "Saved", quiet: true },
  );
  const publish = useSend(
    (version: number) => ask(api.POST("/api/reports/{id}/publish", { params: { path: { id: report.id } }, body: { version } })),
    { says: "Published", quiet: true },
  );
  const choose = (id: string) => set("photos")(form.photos.includes(id) ? form.photos.filter((p) => p !== id) : [...form.photos, id]);
  const error = save.error ?? publish.error;
  return (
    <>
      <form
        className="flex flex-col gap-2 mt-3 border-t-2 border-ink pt-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate(undefined);
        }}
      >
        <TextField label="Title" name="title" value={form.title} onChange={set("title")} problem={error} />
        <AreaField label="Opening" name="lede" rows={4} value={form.lede} onChange={set("lede")} problem={error} />
        <AreaField label="Done, one per line" name="done" rows={5} value={form.done} onChange={set("done")} problem={error} />
        <AreaField label="Next, one per line" rows={4} value={form.next} onChange={set("next")} />
        <fieldset>
          <legend className="text-[12px] text-ink2">Photos the client may see</legend>
          <div className="grid grid-cols-4 gap-2 max-h-[220px] overflow-y-auto">
            {photos.map((p) => (
              <label key={p.id} className={`block border-2 ${form.photos.includes(p.id) ? "border-ink" : "border-transparent"}`}>
                <input type="checkbox" className="sr-only" checked={form.photos.includes(p.id)} onChange={() => choose(p.id)} />
                <img src={`/api/photos/file/${p.thumbHash}`} alt={p.caption || "photo"} className="w-full" loading="lazy" />
              </label>
            ))}
          </div>
        </fieldset>
        <ProblemNote problem={error} except={["title", "lede", "done"]} />
        <Clashes clashes={clashes} />
        {email === "" && (
          <p className="text-ink2">
            No e-mail address of {card.client} is known, so no letter leaves.{" "}
            <button type="button" className="btn" onClick={() => setAsking(true)}>
              Enter the address
            </button>
          </p>
        )}
        <div className="flex gap-2">
          <button type="submit" className="btn" disabled={save.isPending}>
            Save and preview
          </button>
          {may.manager && (
            <button
              type="button"
              className="btn btn-ink"
              disabled={publish.isPending || save.isPending}
              onClick={() => save.mutate(undefined, { onSuccess: (saved) => publish.mutate(saved.version) })}
            >
              {email ? "Publish and send" : "Publish without a letter"}
            </button>
          )}
        </div>
      </form>
      {/* Beside the form, not in it: a form within a form would send both. */}
      {asking && <ClientSheet onClose={() => setAsking(false)} />}
    </>
  );
}

function Preview({ id }: { id: string }) {
  const page = useQuery(pageQuery(id));
  const [place, setPlace] = useState<HTMLElement | null>(null);
  useEffect(() => setPlace(document.getElementById("preview")), []);
  return place ? <PreviewIn place={place} page={page.data} /> : null;
}

function PreviewIn({ place, page }: { place: HTMLElement; page: Schemas["PageView"] | undefined }) {
  return createPortal(
    <section className="paper-page" aria-label="As the client sees it">
      {page ? (
        <ReportView page={page.page} body={page.body} photo={(hash) => `/api/photos/file/${hash}`} />
      ) : (
        <p className="p-5">Loading…</p>
      )}
    </section>,
    place,
  );
}

function Links() {
  const card = useThisBuild();
  const may = useMay();
  const links = useQuery(linksQuery(card.id)).data ?? [];
  const [made, setMade] = useState<string | null>(null);
  const make = useSend(
    () => ask(api.POST("/api/builds/{id}/links", { params: { path: { id: card.id } }, body: { id: newId(), days: 60 } })),
    { onDone: (r) => setMade(location.origin + r.path) },
  );
  const revoke = useSend((id: string) => ask(api.POST("/api/links/{id}/revoke", { params: { path: { id } } })), {
    says: "Revoked: it opens nothing now",
  });
  return (
    <section className="mt-5" aria-label="Private links">
      <div className="flex items-baseline gap-3">
        <h2 className="flex-1">Private links</h2>
        {may.manager && (
          <button type="button" className="btn" disabled={make.isPending} onClick={() => make.mutate(undefined)}>
            Make a link, 60 days
          </button>
        )}
      </div>
      {made && (
        <p className="mt-2 break-all" aria-live="polite">
          Shown this once:{" "}
          <a href={made} className="font-[660]">
            {made}
          </a>
        </p>
      )}
      <ul className="mt-1">
        {links.map((l) => (
          <li key={l.id} className="border-t border-p2 py-1 flex gap-2 items-baseline">
            <span className="flex-1">
              made {day(dateOf(l.madeAt))},{" "}
              {l.revokedAt ? `revoked ${day(dateOf(l.revokedAt))}` : l.live ? `until ${day(dateOf(l.expiresAt))}` : "expired"}
            </span>
            {l.live && may.settle && (
              <button type="button" className="btn" onClick={() => revoke.mutate(l.id)}>
                Revoke
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
