import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "@tanstack/react-router";
import { type KeyboardEvent, useDeferredValue, useEffect, useId, useRef, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { Dab } from "../ui/Dab";

type Found = Schemas["Found"];

const KINDS: Record<Found["kind"], string> = {
  build: "Build",
  panel: "Panel",
  finding: "Finding",
  bag: "Bag",
  operation: "Operation",
  part: "Part",
  batch: "Sent out",
  paper: "Paper",
  person: "Person",
  supplier: "Supplier",
  do: "Do",
};

const PAGES: Record<Exclude<Found["kind"], "do">, string> = {
  build: "",
  panel: "",
  finding: "/survey",
  bag: "/bags",
  operation: "/sequence",
  part: "/parts",
  batch: "/outside",
  paper: "/estimate",
  person: "/shop",
  supplier: "/shop",
};

const TASKS: Record<Schemas["ToDo"], string> = {
  clock: "/clock",
  noteFinding: "/find",
  enterHours: "/hours",
  bagSomething: "/bags",
  orderPart: "/parts",
  sendBatch: "/outside",
  draftReport: "/client",
  draftEstimate: "/estimate",
  openBuild: "/builds/new",
  tryPlan: "/plan/what-if",
  drawPlan: "/shop/plan",
  changeShop: "/shop",
};

/** Where something that was found stands. */
export function placeOf(f: Found): string {
  if (f.do === "noteFinding") return `/find/${f.buildNumber}`;
  const opens = f.kind === "bag" || f.kind === "finding" ? `?${f.kind}=${f.id}` : "";
  const page = f.kind === "do" ? TASKS[f.do ?? "clock"] : PAGES[f.kind] + opens;
  return f.buildNumber === null ? page : `/builds/${f.buildNumber}${page}`;
}

/** The key that opens the field from anywhere but a field. */
const KEY = "/";

/** One field that finds anything: opened by its key, arrows to move, Enter to open. */
export function FindField() {
  const [typed, setTyped] = useState("");
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const list = useId();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const here = Number(/^\/builds\/(\d+)/.exec(pathname)?.[1] ?? 0) || undefined;
  const question = useDeferredValue(typed.trim());
  const found = useQuery({
    queryKey: ["find", question, here],
    queryFn: () => ask(api.GET("/api/find", { params: { query: { q: question, here } } })),
    enabled: question !== "",
    placeholderData: keepPreviousData,
    staleTime: 5_000,
  });
  const rows = question === "" ? [] : (found.data ?? []);
  const chosen = Math.min(at, rows.length - 1);
  useEffect(() => {
    const listen = (e: globalThis.KeyboardEvent) => {
      const inField = (e.target as HTMLElement).closest?.("input, textarea, select, [contenteditable], [role=dialog], [role=alertdialog]");
      if (e.key !== KEY || e.ctrlKey || e.metaKey || e.altKey || inField) return;
      e.preventDefault();
      field.current?.focus();
      field.current?.select();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
  const go = (f: Found | undefined) => {
    if (!f) return;
    setOpen(false);
    setTyped("");
    field.current?.blur();
    void navigate({ to: placeOf(f) });
  };
  const keys = (e: KeyboardEvent) => {
    if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      e.preventDefault();
      const step = e.key === "ArrowDown" ? 1 : -1;
      setAt((chosen + step + rows.length) % Math.max(1, rows.length));
    } else if (e.key === "Enter") go(rows[chosen]);
    else if (e.key === "Escape") {
      setOpen(false);
      field.current?.blur();
    }
  };
  const shows = open && question !== "";
  return (
    <search className="find-field">
      <input
        ref={field}
        type="search"
        role="combobox"
        aria-label="Find"
        aria-expanded={shows}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={shows && rows[chosen] ? `${list}-${chosen}` : undefined}
        aria-keyshortcuts={KEY}
        placeholder="Find"
        maxLength={200}
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={keys}
      />
      <kbd aria-hidden="true">{KEY}</kbd>
      {shows && (
        // What is tapped would lose the field its focus, and the list with it.
        // biome-ignore lint/a11y/noStaticElementInteractions: nothing is done here: it keeps the focus in the field
        <div className="found" onMouseDown={(e) => e.preventDefault()}>
          <div id={list} role="listbox" aria-label="Found">
            {rows.map((f, i) => (
              <div key={`${f.kind}${f.id}${f.label}${f.do}`}>
                {f.kind !== rows[i - 1]?.kind && (
                  <p className="kind" aria-hidden="true">
                    {KINDS[f.kind]}
                  </p>
                )}
                {/* biome-ignore lint/a11y/useKeyWithClickEvents: the field above has the keys */}
                <div
                  id={`${list}-${i}`}
                  role="option"
                  tabIndex={-1}
                  aria-selected={i === chosen}
                  aria-label={[KINDS[f.kind], f.buildNumber, f.label, f.detail].filter(Boolean).join(", ")}
                  onClick={() => go(f)}
                  onMouseMove={() => setAt(i)}
                >
                  <span className="dab">
                    {f.buildNumber !== null && <Dab number={f.buildNumber} colour={f.colourHex ?? ""} w={30} h={17} />}
                  </span>
                  <span className="label">
                    <Marked text={f.label} typed={typed} />
                  </span>
                  <small>{f.detail}</small>
                </div>
              </div>
            ))}
          </div>
          <p className="how" role="status">
            {rows.length > 0
              ? "arrows to move, Enter to open, words in any order"
              : found.isError
                ? found.error.message
                : found.isFetching
                  ? "Looking…"
                  : "Nothing has all of these words."}
          </p>
        </div>
      )}
    </search>
  );
}

/** A text with what was typed of it in bold: each word from its beginning, whatever its accents. */
export function Marked({ text, typed }: { text: string; typed: string }) {
  const plain = (t: string) => t.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
  const wanted = plain(typed).split(/\s+/).filter(Boolean);
  return (
    <>
      {text.split(/([\p{L}\p{N}]+)/u).map((piece, i) => {
        const most = Math.max(0, ...wanted.filter((w) => plain(piece).startsWith(w)).map((w) => w.length));
        return (
          <span key={`${i}${piece}`}>
            {most > 0 && <b>{piece.slice(0, most)}</b>}
            {piece.slice(most)}
          </span>
        );
      })}
    </>
  );
}
