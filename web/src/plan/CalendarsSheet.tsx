import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId } from "../api/client";
import { calendarsQuery, useMay, useUser } from "../api/queries";
import { dateOf, day } from "../format";
import { Sheet } from "../ui/Sheet";
import { useSend } from "../ui/useSend";
import type { Week } from "./weekWords";

/** Private addresses under which a calendar program reads a person's or a place's plan; each can be closed again. */
export function CalendarsSheet({ week, onClose }: { week: Week; onClose: () => void }) {
  const may = useMay();
  const user = useUser();
  const links = useQuery(calendarsQuery).data ?? [];
  const [made, setMade] = useState<{ name: string; address: string } | null>(null);
  const make = useSend(
    (of: { name: string; personId: string | null; stationId: string | null }) =>
      ask(api.POST("/api/calendars", { body: { id: newId(), personId: of.personId, stationId: of.stationId } })),
    { onDone: (r, of) => setMade({ name: of.name, address: `${window.location.origin}${r.path}` }) },
  );
  const revoke = useSend((id: string) => ask(api.POST("/api/calendars/{id}/revoke", { params: { path: { id } } })), {
    says: "The address is closed",
  });
  const rows = [
    ...week.people
      .filter((p) => may.manager || p.id === user?.personId)
      .map((p) => ({ name: p.name, personId: p.id as string | null, stationId: null as string | null })),
    ...(may.manager ? week.places.map((s) => ({ name: s.name, personId: null as string | null, stationId: s.id as string | null })) : []),
  ];
  return (
    <Sheet
      title="Calendars"
      note="A calendar program can read what is planned for the next eight weeks under a private address. Whoever has the address can read it, so it can be closed at any time."
      onClose={onClose}
    >
      {made && (
        <div className="border-t-4 border-ink pt-2 mb-3">
          <label className="field">
            <span>The address for {made.name}, shown this once</span>
            <input readOnly value={made.address} onFocus={(e) => e.target.select()} />
          </label>
        </div>
      )}
      {rows.length === 0 && <p>Your account belongs to no person of the shop, so there is no calendar of yours.</p>}
      <ul>
        {rows.map((r) => {
          const open = links.filter((l) => (r.personId ? l.personId === r.personId : l.stationId === r.stationId));
          return (
            <li key={r.personId ?? r.stationId} className="border-t border-p3 py-2">
              <span className="flex items-center gap-2">
                <span className="flex-1 font-[660]">{r.name}</span>
                <button
                  type="button"
                  className="btn"
                  disabled={make.isPending}
                  onClick={() => make.mutate(r)}
                  aria-label={`Make an address: ${r.name}`}
                >
                  Make an address
                </button>
              </span>
              {open.map((l) => (
                <span key={l.id} className="flex items-center gap-2 text-ink2">
                  <span className="flex-1">made {day(dateOf(l.madeAt))}</span>
                  <button type="button" className="btn" onClick={() => revoke.mutate(l.id)} aria-label={`Close the address of ${r.name}`}>
                    Close it
                  </button>
                </span>
              ))}
            </li>
          );
        })}
      </ul>
    </Sheet>
  );
}
