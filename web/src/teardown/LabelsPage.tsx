import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { api, ask, type Schemas } from "../api/client";
import "../ui/print-fonts";
import { usePrintReady } from "../ui/usePrintReady";
import { Label } from "./Label";

/** Labels in the order of the sheet: twins on one row, left beside right; what has no twin follows. */
export function paired(labels: Schemas["LabelView"][]): (Schemas["LabelView"] | null)[] {
  const rows: (Schemas["LabelView"] | null)[] = [];
  const left = labels.filter((l) => l.side === "left");
  const rest = new Set(labels.filter((l) => l.side !== "left"));
  for (const l of left) {
    const twin = [...rest].find((r) => r.side === "right" && r.what.toLowerCase() === l.what.toLowerCase());
    if (twin) rest.delete(twin);
    rows.push(l, twin ?? null);
  }
  return [...rows, ...rest];
}

/** The page that the printing browser opens for labels; it says when everything on it is there. */
export function LabelsPage() {
  const { ticket } = useParams({ from: "/print/labels/$ticket" });
  const sheet = useQuery({
    queryKey: ["labels", ticket],
    queryFn: () => ask(api.GET("/api/print/labels/{ticket}", { params: { path: { ticket } } })),
    retry: false,
  }).data;
  usePrintReady(sheet !== undefined);
  if (!sheet) return null;
  if (sheet.roll)
    return (
      <main className="roll">
        {sheet.labels.map((l) => (
          <Label key={l.scan} of={l} mono />
        ))}
      </main>
    );
  return (
    <main className="sheet-of-labels">
      <h1>
        Bag labels{" "}
        <small>{`${sheet.buildNumber}, ${sheet.build}, ${sheet.labels.length} labels, twins side by side. Snip the dotted corner.`}</small>
      </h1>
      <div>{paired(sheet.labels).map((l, i) => (l ? <Label key={l.scan} of={l} /> : <span key={`gap${i}`} />))}</div>
    </main>
  );
}
