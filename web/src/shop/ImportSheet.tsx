import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { counted } from "../format";
import { AreaField, ProblemNote } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { useSend } from "../ui/useSend";

type Kind = Schemas["ImportKind"];

const ABOUT: Record<Kind, { title: string; one: string; many: string; heading: string; row: string }> = {
  people: {
    title: "People from a file",
    one: "person",
    many: "people",
    heading: "name,trades,cost,billing,from",
    row: "Ewa Lund,metal/body,24.50,61.00,2026-01-01",
  },
  suppliers: {
    title: "Suppliers from a file",
    one: "supplier",
    many: "suppliers",
    heading: "name,what,freight days,work days",
    row: "Corran Plating,bright work,Tue/Thu,",
  },
  clients: {
    title: "Clients from a file",
    one: "client",
    many: "clients",
    heading: "name,email,phone",
    row: "Petra Ost,petra@ost.example,0555 210 300",
  },
  parts: {
    title: "Parts from a file",
    one: "part",
    many: "parts",
    heading: "name,quantity,unit cost,unit price,supplier,client supplied",
    row: "Outer sill,2,138.00,,Harbour Steel,no",
  },
};

/** Brings many at once from a table: pasted or chosen, tried first, then all of it or nothing. */
export function ImportSheet({ kind, buildId = null, onClose }: { kind: Kind; buildId?: string | null; onClose: () => void }) {
  const about = ABOUT[kind];
  const [text, setText] = useState("");
  const [tried, setTried] = useState<{ text: string; result: Schemas["Imported"] } | null>(null);
  const bring = useSend((keep: boolean) => ask(api.POST("/api/imports", { body: { kind, text, buildId, keep } })), {
    quiet: true,
    onDone: (result) => (result.kept ? onClose() : setTried({ text, result })),
  });
  const shown = tried && tried.text === text ? tried.result : null;
  const comes = shown?.lines.filter((l) => l.action === "new" || l.action === "changed").length ?? 0;
  const refused = shown?.lines.filter((l) => l.action === "refused").length ?? 0;
  return (
    <Sheet title={about.title} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          bring.mutate(false);
        }}
      >
        <p className="text-ink2">{`A table with a heading, saved from a spreadsheet with commas, semicolons or tabs between. Columns: ${about.heading.split(",").join(", ")}; only the name is needed.`}</p>
        <label className="btn self-start cursor-pointer">
          Choose a file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            className="sr-only"
            onChange={async (e) => {
              const file = e.target.files?.[0];
              if (file) setText(await file.text());
            }}
          />
        </label>
        <AreaField
          label={`Or paste it here, for instance: ${about.row}`}
          name="text"
          rows={8}
          value={text}
          onChange={setText}
          problem={bring.error}
        />
        <ProblemNote problem={bring.error} except={["text"]} />
        {shown && (
          <div aria-live="polite">
            <table className="rows">
              <thead>
                <tr>
                  <th>Row</th>
                  <th>Name</th>
                  <th>What comes of it</th>
                </tr>
              </thead>
              <tbody>
                {shown.lines.map((l) => (
                  <tr key={l.line}>
                    <td>{l.line}</td>
                    <td className="font-[640]">{l.name}</td>
                    <td className={l.action === "refused" ? "text-oxide" : ""}>
                      {l.action === "new" ? "new: " : l.action === "changed" ? "changed: " : ""}
                      {l.says}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {shown.unknown.length > 0 && <p className="text-ink2 mt-1">Left out: {shown.unknown.join(", ")}.</p>}
            {refused > 0 && (
              <p className="wrong mt-1">{counted(refused, "row")} cannot be read. Correct them above; nothing comes in until all can.</p>
            )}
          </div>
        )}
        <div className="flex gap-2">
          {shown && refused === 0 && comes > 0 ? (
            <button type="button" className="btn btn-ink" disabled={bring.isPending} onClick={() => bring.mutate(true)}>
              Bring in {counted(comes, about.one, about.many)}
            </button>
          ) : (
            <button type="submit" className="btn btn-ink" disabled={bring.isPending || text.trim() === ""}>
              Try it
            </button>
          )}
          {shown && refused === 0 && comes === 0 && <span className="self-center text-ink2">All of it is here already.</span>}
        </div>
      </form>
    </Sheet>
  );
}
