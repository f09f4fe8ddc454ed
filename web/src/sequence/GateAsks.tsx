import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { gateQuery } from "../api/queries";
import { Sheet } from "../ui/Sheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import type { Operation } from "./strands";

type Ask = Schemas["GateAsk"];
const isMet = (a: Ask) => a.missing === "";

/** What a gate asks for: what nobody signs without, then what stands with the name for good when it is signed without it. */
export function GateAsks({ of, onGo }: { of: Schemas["GateView"]; onGo?: (id: string) => void }) {
  return (
    <>
      <ul aria-label="It asks for">
        {of.asks.map((a) => (
          <li key={`${a.words} ${a.of}`} className="flex gap-2 py-1">
            <span className={`flex-none w-[46px] ${isMet(a) ? "text-ink2" : a.must ? "text-oxide" : "font-[640]"}`}>
              {isMet(a) ? "there" : a.must ? "open" : "missing"}
            </span>
            <span>
              {a.of && onGo ? (
                <button type="button" className="text-left underline underline-offset-2" onClick={() => onGo(a.of ?? "")}>
                  {a.words}
                </button>
              ) : (
                a.words
              )}
              {!isMet(a) && a.missing !== `${a.words} is not done` && <span className="block text-ink2">{a.missing}</span>}
            </span>
          </li>
        ))}
      </ul>
      {of.asks.length === 0 && <p>It asks for nothing but the name.</p>}
      <p className="text-ink2 mt-1">
        {of.others.length > 0
          ? `Signed by somebody who did not do the work: ${of.others.join(", ")}.`
          : "Everybody here did some of the work: it is marked as signed by its maker."}
      </p>
    </>
  );
}

const SIDES: readonly (readonly [Schemas["PanelSide"] | "all", string])[] = [
  ["all", "both sides"],
  ["left", "the left side"],
  ["right", "the right side"],
];

/** Whose name stands there, for which side. */
export const signedBy = (s: Schemas["GateSignature"]) => `${s.name}${s.side ? ` for the ${s.side} side` : ""}`;

/** Signing a gate: what it asks for is looked at first, and what is missing stays with the name. */
export function SignSheet({ gate, onClose }: { gate: Operation; onClose: () => void }) {
  const [side, setSide] = useState<Schemas["PanelSide"] | "all">("all");
  const one = side === "all" ? undefined : side;
  const view = useQuery({ ...gateQuery(gate.id, one), placeholderData: keepPreviousData });
  const signed = gate.signatures.filter((s) => s.side).map((s) => s.side);
  const sign = useSend(
    (seen: string[]) =>
      ask(api.POST("/api/operations/{id}/sign", { params: { path: { id: gate.id } }, body: { seen, side: one ?? null } })),
    { says: "Signed", onDone: onClose },
  );
  return (
    <Sheet title={`Sign “${gate.name}”`} note="What it asks for, from what is on record." onClose={onClose}>
      {view.data?.sides && signed.length === 0 && (
        <fieldset className="flex flex-wrap gap-x-4 mb-2">
          <legend className="sr-only">What is signed</legend>
          {SIDES.map(([key, words]) => (
            <label key={key} className="flex items-center gap-2 min-h-7">
              <input type="radio" name="side" checked={side === key} onChange={() => setSide(key)} className="size-4" />
              {words}
            </label>
          ))}
        </fieldset>
      )}
      {signed.length > 0 && (
        <p className="mb-2">The {signed[0]} side is signed. Your name finishes the gate, so that all of it is asked.</p>
      )}
      <Shown of={view}>
        {(v) => {
          const missing = v.asks.filter((a) => !isMet(a));
          const barred = missing.some((a) => a.must);
          return (
            <>
              <GateAsks of={v} />
              {barred ? (
                <p className="wrong mt-3">Not yet: what is open comes first.</p>
              ) : (
                <>
                  {missing.length > 0 && (
                    <p className="mt-3">What is missing stays with your name: {missing.map((a) => a.missing).join("; ")}.</p>
                  )}
                  <button
                    type="button"
                    className="btn btn-ink mt-3"
                    disabled={sign.isPending || view.isPlaceholderData}
                    onClick={() => sign.mutate(missing.map((a) => a.missing))}
                  >
                    {missing.length > 0 ? "Sign without it" : "Sign"}
                  </button>
                </>
              )}
            </>
          );
        }}
      </Shown>
    </Sheet>
  );
}
