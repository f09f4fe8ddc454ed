import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { useContext, useState } from "react";
import type { Schemas } from "../api/client";
import { bodyQuery, Ended, operationsQuery, shopQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { AheadNotes } from "../plan/AheadNotes";
import { PlanNotes } from "../plan/PlanNotes";
import { WhySheet } from "../plan/WhySheet";
import { Shown } from "../ui/States";
import { newest } from "../ui/useForm";
import { HowItRuns } from "./HowItRuns";
import { OperationColumn } from "./OperationColumn";
import { OperationSheet } from "./OperationSheet";
import { MergeSheet, mergeable, SplitSheet } from "./PartsSheet";
import { RipplesToJudge } from "./Ripples";
import { RiverKey, RiverPicture } from "./RiverPicture";
import { SequenceTable } from "./SequenceTable";
import { inTime, type Operation } from "./strands";
import { useEdits } from "./useEdits";
import { WhatChanged } from "./WhatChanged";

/** Operations that are looked at, at first: on a desk, and on a phone. */
const USUAL = 12;
const LEAST = 4;
const usual = () => (window.matchMedia?.("(max-width: 700px)").matches ? LEAST : USUAL);

type Doing = { what: "edit" | "split" | "merge" | "why"; id: string } | { what: "add"; after: string | null };

/** The order of work of one build: as a river, as a table, and one operation beside it. */
export function SequenceTab() {
  const card = useThisBuild();
  const operations = useQuery(operationsQuery(card.id));
  const navigate = useNavigate();
  const { ways } = useLocation().search as { ways?: boolean };
  // Work that is over runs no other way.
  const [may, ended] = [useMay(), useContext(Ended)];
  const changes = may.manager && !ended;
  const look = (at: { ways?: boolean }) => void navigate({ to: ".", search: at as never });
  if (ways && changes)
    return (
      <div className="px-5 pt-1 pb-10">
        <HowItRuns onClose={() => look({})} />
      </div>
    );
  return (
    <div className="px-5 pt-1 pb-10">
      <Shown of={operations}>
        {(all) => (
          <Sequence all={all} buildId={card.id} paint={card.colourHex} onRenew={changes ? () => look({ ways: true }) : undefined} />
        )}
      </Shown>
    </div>
  );
}

function Sequence({
  all,
  buildId,
  paint,
  onRenew,
}: {
  all: Operation[];
  buildId: string;
  paint: string;
  onRenew: (() => void) | undefined;
}) {
  const shop = useQuery(shopQuery).data;
  const panels = useQuery(bodyQuery(buildId)).data?.body.panels ?? [];
  const may = useMay();
  const ended = useContext(Ended);
  const changes = may.manager && !ended;
  const navigate = useNavigate();
  const { at } = useLocation().search as { at?: string };
  const chosen = all.find((o) => o.id === at) ?? null;
  const [doing, setDoing] = useState<Doing | null>(null);
  const [drawn, setDrawn] = useState<{ work: string; link: Schemas["OperationLink"] } | null>(null);
  const [typed, setTyped] = useState("");
  const order = inTime(all);
  const firstOpen = order.findIndex((o) => o.doneAt === null);
  const [most] = useState(usual);
  const start = firstOpen < 0 ? Math.max(0, order.length - most) : firstOpen;
  const [look, setLook] = useState<{ from: number; count: number } | null>(null);
  const { from, count } = look ?? { from: start, count: most };
  const edits = useEdits(buildId);
  const go = (id: string | null) => {
    setDrawn(null);
    void navigate({ to: ".", search: (id ? { at: id } : {}) as never, replace: true, resetScroll: false });
  };
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const found =
    words.length === 0 ? null : new Set(all.filter((o) => words.every((w) => o.name.toLowerCase().includes(w))).map((o) => o.id));
  const showFound = () => {
    const i = order.findIndex((o) => found?.has(o.id));
    const first = order[i];
    if (!first) return;
    if (i < from || i >= from + count) setLook({ from: Math.max(0, Math.min(i - 2, order.length - count)), count });
    go(first.id);
  };
  const nameOf = (id: string) => shop?.people.find((p) => p.id === id)?.name ?? "";
  const slide = (by: number) => setLook({ from: Math.max(0, Math.min(order.length - LEAST, from + by)), count });
  const zoom = (to: number) =>
    setLook({ from: Math.max(0, Math.min(from, order.length - to)), count: Math.max(LEAST, Math.min(order.length, to)) });
  const canSplit = chosen?.kind === "work" && !chosen.doneAt;
  const split = chosen && canSplit ? () => setDoing({ what: "split", id: chosen.id }) : null;
  const merge = chosen && canSplit && mergeable(all, chosen).length > 0 ? () => setDoing({ what: "merge", id: chosen.id }) : null;
  const onKey = (key: string) => {
    if (!changes || !chosen) return;
    if (key === "e") setDoing({ what: "edit", id: chosen.id });
    if (key === "a") setDoing({ what: "add", after: chosen.id });
    if (key === "s") split?.();
    if (key === "g") merge?.();
    if (key === "u") void edits.undo?.();
  };
  const target = doing && doing.what !== "add" ? (all.find((o) => o.id === doing.id) ?? null) : null;
  return (
    <>
      <div className="seq-top">
        <h1>Sequence</h1>
        {all.length > 0 && (
          <>
            <span className="field seq-find">
              <input
                type="search"
                aria-label="Find an operation"
                placeholder="Find an operation"
                value={typed}
                onChange={(e) => setTyped(e.target.value)}
                onKeyDown={(e) => e.key === "Enter" && showFound()}
              />
            </span>
            {found && <span className="text-ink2">{found.size === 0 ? "none" : `${found.size} found`}</span>}
            <span className="flex gap-1" role="group" aria-label="What is looked at">
              <button type="button" className="btn" disabled={from === 0} onClick={() => slide(-6)}>
                Earlier
              </button>
              <button type="button" className="btn" disabled={from + count >= order.length} onClick={() => slide(6)}>
                Later
              </button>
              <button type="button" className="btn" disabled={count <= LEAST} onClick={() => zoom(Math.round(count / 1.5))}>
                Closer
              </button>
              <button type="button" className="btn" disabled={count >= order.length} onClick={() => zoom(Math.ceil(count * 1.5))}>
                Further
              </button>
              {look && (
                <button type="button" className="btn" onClick={() => setLook(null)}>
                  Now
                </button>
              )}
            </span>
          </>
        )}
        {(edits.undo || edits.redo) && (
          <span className="flex gap-1">
            <button type="button" className="btn" disabled={!edits.undo || edits.busy} onClick={() => void edits.undo?.()}>
              Undo
            </button>
            <button type="button" className="btn" disabled={!edits.redo || edits.busy} onClick={() => void edits.redo?.()}>
              Redo
            </button>
          </span>
        )}
        {onRenew && (
          <span className="flex gap-1 ml-auto">
            <button type="button" className="btn" onClick={onRenew}>
              How it runs
            </button>
            <button type="button" className="btn" onClick={() => setDoing({ what: "add", after: null })}>
              Add an operation
            </button>
          </span>
        )}
      </div>
      <RipplesToJudge buildId={buildId} nameOf={(id) => all.find((o) => o.id === id)?.name ?? "Work that is gone"} />
      {all.length === 0 ? (
        <p className="river river-empty">No work yet. Plan it from a template, or add its first operation.</p>
      ) : (
        <div className={chosen ? "plan-split" : ""}>
          <div className="min-w-0">
            <RiverPicture
              all={all}
              paint={paint}
              nameOf={(id) => firstNameOf(nameOf(id), shop?.people ?? [])}
              at={chosen?.id ?? null}
              onAt={go}
              from={from}
              count={count}
              found={found}
              {...(changes
                ? {
                    onKey,
                    onLink: (work: Operation, after: Operation) => {
                      go(work.id);
                      setDrawn({ work: work.id, link: { operation: after.id, lagMinutes: 0 } });
                    },
                  }
                : {})}
            />
            <RiverKey all={all} />
          </div>
          {chosen && (
            <OperationColumn
              buildId={buildId}
              all={all}
              operation={chosen}
              paint={paint}
              nameOf={nameOf}
              panelName={(key) => panels.find((p) => p.key === key)?.name ?? key}
              drawn={drawn?.work === chosen.id ? drawn.link : null}
              onGo={go}
              onClose={() => go(null)}
              onEdit={() => setDoing({ what: "edit", id: chosen.id })}
              onWhy={() => setDoing({ what: "why", id: chosen.id })}
              {...(changes
                ? {
                    more: {
                      add: () => setDoing({ what: "add", after: chosen.id }),
                      split,
                      merge,
                      save: async (form) => {
                        const kept = await edits.save(chosen, form);
                        if (kept) setDrawn(null);
                        return kept;
                      },
                    },
                  }
                : {})}
            />
          )}
        </div>
      )}
      <PlanNotes buildId={buildId} />
      <AheadNotes buildId={buildId} />
      <WhatChanged buildId={buildId} />
      {all.length > 0 && (
        <SequenceTable
          all={all}
          paint={paint}
          nameOf={nameOf}
          onEdit={(o) => setDoing({ what: "edit", id: o.id })}
          onWhy={(o) => setDoing({ what: "why", id: o.id })}
        />
      )}
      {target && doing?.what === "why" && <WhySheet operation={target} onClose={() => setDoing(null)} />}
      {target && doing?.what === "split" && (
        <SplitSheet
          buildId={buildId}
          operation={target}
          onMade={(kept) => {
            edits.made(kept);
            go(kept.id);
          }}
          onClose={() => setDoing(null)}
        />
      )}
      {target && doing?.what === "merge" && <MergeSheet all={all} operation={target} onMade={edits.made} onClose={() => setDoing(null)} />}
      {(doing?.what === "add" || (target && doing?.what === "edit")) && (
        <OperationSheet
          buildId={buildId}
          all={all}
          operation={newest(target, all)}
          onMade={edits.made}
          {...(doing.what === "add" && doing.after ? { first: { after: [{ operation: doing.after, lagMinutes: 0 }] } } : {})}
          onClose={() => setDoing(null)}
        />
      )}
    </>
  );
}

/** By their first name, where nobody else has it. */
const firstNameOf = (name: string, all: readonly { name: string }[]) => {
  const first = name.split(" ")[0] ?? name;
  return all.filter((p) => p.name.split(" ")[0] === first).length > 1 ? name : first;
};
