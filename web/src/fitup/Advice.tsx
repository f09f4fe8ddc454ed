import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { NumberField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import type { Fit, Line, Move } from "./fitWords";
import { mm } from "./fitWords";
import { HangPicture } from "./HangPicture";

type Advice = Schemas["FitAdviceView"];

/** What moving a panel would do: the advised move first, any other by hand. Nothing is kept by trying. */
export function useAdvice(buildId: string, panel: string | null, fit: Fit | undefined) {
  const [own, setOwn] = useState<{ panel: string; move: Move } | null>(null);
  const move = own && own.panel === panel ? own.move : null;
  // A panel of which nothing was read has no advice yet.
  const read = fit?.lines.some((l) => panel && l.between.includes(panel) && l.rounds.length > 0) ?? false;
  const look = useQuery({
    queryKey: ["fit", "try", buildId, panel, move],
    queryFn: () => ask(api.POST("/api/builds/{id}/fit/try", { params: { path: { id: buildId } }, body: { panel: panel ?? "", move } })),
    enabled: panel !== null && read,
    placeholderData: (before, query) => (query?.queryKey[3] === panel ? keepPreviousData(before) : undefined),
    retry: false,
  });
  return {
    read,
    look,
    move: move ?? look.data?.move ?? null,
    isOwn: move !== null,
    setMove: (m: Move | null) => setOwn(m && panel ? { panel, move: m } : null),
  };
}

export function AdvicePanel({
  buildId,
  fit,
  panel,
  panelName,
  of,
  may,
}: {
  buildId: string;
  fit: Fit;
  panel: string;
  panelName: string;
  of: ReturnType<typeof useAdvice>;
  may: boolean;
}) {
  const [measuring, setMeasuring] = useState(false);
  const [aside, setAside] = useState<{ steps: string; good: number; of: number; left: string[] }[]>([]);
  const keep = useSend(
    (a: Advice) =>
      ask(
        api.POST("/api/builds/{id}/fit/changes", {
          params: { path: { id: buildId } },
          body: {
            id: newId(),
            panels: [panel],
            method: "hinge",
            move: of.move,
            what: `${panelName}: ${a.steps.join(", ") || "as it was"}`,
          },
        }),
      ),
    {
      says: "Kept. Its lines are read again.",
      onDone: () => {
        of.setMove(null);
        setAside([]);
      },
    },
  );
  if (!of.read) return <p className="text-chalk2 px-4 pb-4">Read a line of {panelName} first: then it says how to move it.</p>;
  return (
    <Shown of={of.look} quiet>
      {(a) => {
        const move = of.move ?? a.move;
        const judged = a.lines.filter((l) => l.passes !== null);
        const letter = (key: string) => fit.lines.find((l) => l.key === key)?.letter ?? "";
        const set = (m: Partial<Move>) => of.setMove({ ...move, ...m });
        return (
          <div className="px-4 pb-4">
            <HangPicture of={a} move={move} width={440} onMove={of.setMove} />
            <div className="flex flex-wrap items-end gap-3 mt-2">
              {a.isDoor ? (
                <NumberField label="Raise, mm" value={move.raiseMm ?? 0} onChange={(v) => set({ raiseMm: v ?? 0 })} className="w-[84px]" />
              ) : (
                <>
                  <NumberField
                    label="Right, mm"
                    value={move.rightMm ?? 0}
                    onChange={(v) => set({ rightMm: v ?? 0 })}
                    className="w-[84px]"
                  />
                  <NumberField
                    label="Turn, mm/m"
                    value={move.turnMmPerM ?? 0}
                    onChange={(v) => set({ turnMmPerM: v ?? 0 })}
                    className="w-[90px]"
                  />
                </>
              )}
              <NumberField
                label="To the rear, mm"
                value={move.rearwardMm ?? 0}
                onChange={(v) => set({ rearwardMm: v ?? 0 })}
                className="w-[104px]"
              />
              {of.isOwn && (
                <button type="button" className="btn" onClick={() => of.setMove(null)}>
                  As advised
                </button>
              )}
            </div>
            <p className="mt-3">
              <b className="text-[15px]">{a.steps.length > 0 ? begun(a.steps.join(", then ")) : "Leave it as it hangs"}.</b>{" "}
              {a.why && !of.isOwn && <span className="text-chalk2">{a.why}</span>}
            </p>
            {a.isDoor && !a.isMeasured && (
              <p className="text-oxide-lt mt-1">
                Its hinges were not measured: h and L are a rule of thumb from the drawing.{" "}
                {may && (
                  <button type="button" className="underline" onClick={() => setMeasuring(true)}>
                    Enter them
                  </button>
                )}
              </p>
            )}
            <ul className="mt-2" aria-label="Then its lines">
              {judged.map((l) => (
                <li key={l.key} className="flex gap-2 py-[2px]">
                  <span className="w-[22px] font-[680]">{letter(l.key)}</span>
                  <span className="flex-1">
                    {l.passes ? (
                      `in limits: mean ${mm(l.meanMm ?? 0)}, range ${mm(l.rangeMm ?? 0)}`
                    ) : (
                      <span className="text-oxide-lt">{l.left}</span>
                    )}
                  </span>
                </li>
              ))}
            </ul>
            {aside.length > 0 && (
              <ol className="mt-2 border-t border-guide3 pt-2" aria-label="Set aside to compare">
                {aside.map((x) => (
                  <li key={x.steps} className="text-chalk2">
                    {x.steps || "as it hangs"}: {x.good} of {x.of} lines in limits
                  </li>
                ))}
              </ol>
            )}
            <p className="flex flex-wrap gap-2 mt-3">
              {may && (
                <button type="button" className="btn btn-chalk" disabled={keep.isPending} onClick={() => keep.mutate(a)}>
                  It is done so
                </button>
              )}
              <button
                type="button"
                className="btn btn-guide"
                onClick={() =>
                  setAside((all) => [
                    ...all.filter((x) => x.steps !== a.steps.join(", ")),
                    { steps: a.steps.join(", "), good: judged.filter((l) => l.passes).length, of: judged.length, left: [] },
                  ])
                }
              >
                Set aside to compare
              </button>
            </p>
            {measuring && a.hang && (
              <HingesSheet buildId={buildId} panelName={panelName} hang={a.hang} onClose={() => setMeasuring(false)} />
            )}
          </div>
        );
      }}
    </Shown>
  );
}

const begun = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** Where a door's hinges are, as measured. */
function HingesSheet({
  buildId,
  panelName,
  hang,
  onClose,
}: {
  buildId: string;
  panelName: string;
  hang: Schemas["DoorHang"];
  onClose: () => void;
}) {
  const [spacing, setSpacing] = useState<number | null>(hang.hingeSpacingMm);
  const [up, setUp] = useState<number | null>(hang.lowerHingeUpMm);
  const [rear, setRear] = useState<number | null>(hang.hingeToRearMm);
  const save = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/fit/doors/{panel}", {
          params: { path: { id: buildId, panel: hang.panel } },
          body: { hingeSpacingMm: spacing ?? 0, lowerHingeUpMm: up ?? 0, hingeToRearMm: rear ?? 0 },
        }),
      ),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title={`Hinges of ${panelName}`}
      note="Measured on the door, in millimetres."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <NumberField label="From hinge to hinge, mm" name="hingeSpacingMm" value={spacing} onChange={setSpacing} />
      <NumberField label="Lower hinge above the lower edge, mm" name="lowerHingeUpMm" value={up} onChange={setUp} />
      <NumberField label="From the hinges to the rear edge, mm" name="hingeToRearMm" value={rear} onChange={setRear} />
    </FormSheet>
  );
}

/** What was done to the fit of this build, and what came of it. */
export function Changes({ fit, lines, may }: { fit: Fit; lines: readonly Line[]; may: boolean }) {
  const [words, setWords] = useState<Record<string, string>>({});
  const judge = useSend((c: { id: string; helped: boolean; version: number }) =>
    ask(
      api.POST("/api/fit-changes/{id}/result", {
        params: { path: { id: c.id } },
        body: { helped: c.helped, result: words[c.id] ?? "", version: c.version },
      }),
    ),
  );
  if (fit.changes.length === 0) return null;
  const beside = (panels: readonly string[]) =>
    lines
      .filter((l) => l.between.some((p) => panels.includes(p)))
      .map((l) => l.letter)
      .join(", ");
  return (
    <section>
      <h2>
        Done to the fit <small>the newest first</small>
      </h2>
      <ul>
        {fit.changes.toReversed().map((c) => (
          <li key={c.id} className="border-t border-p2 py-1">
            <b className="font-[640]">{c.what}</b>{" "}
            <span className="text-ink2">
              lines {beside(c.panels)}, {c.by}
            </span>
            {c.helped === null ? (
              may && (
                <span className="flex flex-wrap gap-2 mt-1 items-end">
                  <input
                    aria-label={`What came of it: ${c.what}`}
                    placeholder="what came of it"
                    className="flex-1 min-w-[120px]"
                    value={words[c.id] ?? ""}
                    onChange={(e) => setWords({ ...words, [c.id]: e.target.value })}
                  />
                  <button type="button" className="btn" onClick={() => judge.mutate({ id: c.id, helped: true, version: c.version })}>
                    It helped
                  </button>
                  <button type="button" className="btn" onClick={() => judge.mutate({ id: c.id, helped: false, version: c.version })}>
                    It did not
                  </button>
                </span>
              )
            ) : (
              <span className={`block ${c.helped ? "text-ink2" : "text-oxide"}`}>
                {c.helped ? "It helped" : "It did not help"}
                {c.result && `: ${c.result}`}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
