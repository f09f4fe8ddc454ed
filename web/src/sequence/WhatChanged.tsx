import { useQuery } from "@tanstack/react-query";
import { useContext } from "react";
import { Ended, sequenceChangesQuery, useMay } from "../api/queries";
import { dateOf, timeOf, weekday } from "../format";
import { useSend } from "../ui/useSend";
import { turn } from "./useEdits";

/** Who changed the order of work last, and how; a manager takes any of it back. */
export function WhatChanged({ buildId }: { buildId: string }) {
  const told = useQuery(sequenceChangesQuery(buildId)).data ?? [];
  const [may, ended] = [useMay(), useContext(Ended)];
  const turning = useSend(({ id, back }: { id: string; back: boolean }) => turn(id, back));
  if (told.length === 0) return null;
  return (
    <details className="border-t border-p3 pt-2 mb-3">
      <summary>Changes of this order of work</summary>
      <ul className="mt-1">
        {told.map((c) => (
          <li key={c.id} className="flex gap-2 items-center flex-wrap">
            <span className="text-ink2 num">
              {weekday(dateOf(c.at))}, {timeOf(c.at)}
            </span>
            <span className={c.isBack ? "line-through text-ink2" : ""}>{c.what}</span>
            <span className="text-ink2">
              {c.by}
              {c.isBack && ", taken back"}
            </span>
            {may.manager && !ended && (
              <button
                type="button"
                className="btn btn-quiet"
                aria-label={`${c.isBack ? "Make again" : "Take back"}: ${c.what}`}
                disabled={turning.isPending}
                onClick={() => turning.mutate({ id: c.id, back: !c.isBack })}
              >
                {c.isBack ? "make again" : "take back"}
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
