import { CHALK, INK, P2, P3 } from "../tokens";
import { PlaceLink } from "../ui/PlaceLink";
import { SUMS } from "./catalogue";

/** What hangs on each hook: lines, then what is filled. */
const SKETCHES: Record<string, { lines: string; fills?: string }> = {
  "take-off": { lines: "M8,10H92V54H8Z", fills: "M12,14h24v20h-24zM38,14h30v20h-30zM12,36h40v14h-40z" },
  tacks: { lines: "M8,20C40,8 70,34 92,24M8,44C40,32 70,58 92,48", fills: "M20,14h5v5h-5zM44,18h5v5h-5zM68,26h5v5h-5zM84,24h5v5h-5z" },
  holes: {
    lines:
      "M6,26H94V46H6ZM18,36a4,4 0 1 0 8,0a4,4 0 1 0 -8,0M38,36a4,4 0 1 0 8,0a4,4 0 1 0 -8,0M58,36a4,4 0 1 0 8,0a4,4 0 1 0 -8,0M78,36a4,4 0 1 0 8,0a4,4 0 1 0 -8,0",
  },
  fold: { lines: "M14,12V44H60V26H86M14,56H92M34,52V60M66,52V60" },
  gap: { lines: "M14,8H58V54H14ZM66,10L92,8V56L68,54", fills: "M8,40h8v10h-8z" },
  opening: { lines: "M12,10H86V54H12ZM12,10L86,54M86,10L12,54" },
  chassis: { lines: "M30,8V56M70,8V56M14,14H86M14,50H88M14,14L86,50", fills: "M8,6h8v16h-8zM84,6h8v16h-8zM8,42h8v16h-8zM84,42h8v16h-8z" },
  wheel: { lines: "M24,54a26,26 0 0 1 52,0M34,46a16,16 0 1 0 32,0a16,16 0 1 0 -32,0M45,46a5,5 0 1 0 10,0a5,5 0 1 0 -10,0" },
  door: { lines: "M16,56V6H84V56M28,50V34C32,18 40,16 50,16S68,18 72,34V50Z", fills: "M30,50h8v6h-8zM62,50h8v6h-8z" },
  taper: { lines: "M10,14C40,16 60,40 92,50M10,54H92M10,14V54M30,20V54M51,32V54M72,44V54" },
  chain: { lines: "M8,14H92M8,10V18M92,10V18M8,34H58M58,30V38M58,50H84M84,46V54", fills: "M8,30h50v8h-50zM58,46h26v8h-26z" },
  cuts: { lines: "M8,14H92M8,32H92M8,50H92M36,8V20M64,8V20M26,26V38M56,26V38M78,26V38M48,44V56" },
  steam: { lines: "M10,50C40,52 64,40 88,16L92,24C70,46 42,58 10,58ZM28,40c-4,-8 6,-10 2,-18M46,36c-4,-8 6,-10 2,-18" },
  tank: { lines: "M12,24H76V54H12ZM12,24L28,12H90L76,24M90,12V42L76,54", fills: "M14,38h60v14h-60z" },
  wire: { lines: "M8,44H34C44,44 44,20 54,20H92M24,36h16v16h-16z", fills: "M76,14h12v12h-12z" },
  tooling: { lines: "M12,8V54H92M12,54L88,12M12,30H88" },
};

/** All sums, each on its hook. */
export function Rack({ sum, search }: { sum: string; search: string }) {
  return (
    <nav className="bench-rack" aria-label="Sums">
      <h1 className="flare">Bench</h1>
      <ul>
        {SUMS.map((s) => {
          const here = s.key === sum;
          const sketch = SKETCHES[s.key];
          return (
            <li key={s.key}>
              <PlaceLink to={`/bench/${s.key}${search}`} aria-current={here ? "page" : undefined}>
                <svg viewBox="0 0 100 64" aria-hidden="true">
                  <path d="M43,-2v5a7,5 0 0 0 14,0v-5" fill={P2} stroke={P3} />
                  <path d={sketch?.fills ?? ""} fill={here ? CHALK : P3} fillOpacity={here ? 0.5 : 1} />
                  <path d={sketch?.lines ?? ""} fill="none" stroke={here ? CHALK : INK} strokeWidth="2" />
                </svg>
                {s.name}
              </PlaceLink>
            </li>
          );
        })}
      </ul>
    </nav>
  );
}
