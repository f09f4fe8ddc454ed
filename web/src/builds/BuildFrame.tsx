import { Outlet, useLocation } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { Ended, useMay } from "../api/queries";
import { Dab } from "../ui/Dab";
import { OnlyFor } from "../ui/OnlyFor";
import { BuildPlaces, GROUPS, isForDesk, waitsFor } from "./BuildPlaces";
import { useCard } from "./useBuild";

/** The places of one build. */
export function BuildFrame() {
  const card = useCard();
  const { pathname } = useLocation();
  const may = useMay();
  const [open, setOpen] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page was chosen
  useEffect(() => setOpen(false), [pathname]);
  if (card === undefined) return <p className="p-5 text-ink2">Loading…</p>;
  if (card === null) return <p className="p-5">There is no build with this number.</p>;
  const base = `/builds/${card.number}`;
  const path = pathname.replace(/\/$/, "").slice(base.length);
  const here = GROUPS.flatMap((g) => g.pages).find((p) => p.path === path)?.name;
  const ended = card.status === "closed" || card.status === "withdrawn";
  return (
    <Ended.Provider value={ended}>
      <nav className={`subplaces ${open ? "subplaces-open" : ""}`} aria-label={`Build ${card.number}`}>
        <span className="of">
          <Dab number={card.number} colour={card.colourHex} />
          <b className="font-[680] text-[14px]">{card.title}</b>
        </span>
        <button type="button" className="btn pages" aria-expanded={open} onClick={() => setOpen(!open)}>
          {here ?? "Pages"} <span aria-hidden="true">{open ? "▴" : "▾"}</span>
          <span className="sr-only">, other pages of this build</span>
        </button>
        <BuildPlaces base={base} path={path} desk={may.desk} waits={waitsFor(card.waits, may.desk)} />
      </nav>
      {ended && (
        <p role="status" className="mx-5 mt-3 border-t-4 border-ink pt-1">
          <b className="font-[680]">{card.status === "withdrawn" ? "Withdrawn by the client." : "Handed over."}</b> It is kept to be read;
          only what was under way still comes in.
        </p>
      )}
      <OnlyFor may={may.desk || !isForDesk(path)} whose="Prices are for the manager and the office">
        <Outlet />
      </OnlyFor>
    </Ended.Provider>
  );
}
