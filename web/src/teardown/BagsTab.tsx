import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useCallback, useDeferredValue, useEffect, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { bagsQuery, shopQuery } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { counted, dateOf, day } from "../format";
import { inkOn } from "../tokens";
import { Empty, Shown } from "../ui/States";
import { useAsked } from "../ui/useAsked";
import { newest } from "../ui/useForm";
import { BagSheet, MoveSheet } from "./BagSheet";
import { outline } from "./Label";
import { CameOff, Racks, stateName } from "./Racks";
import { Scanner } from "./Scanner";

type Bag = Schemas["BagView"];

/** What came off: racks with the bags of this build, anything found by typing, patterns kept, what is not found. */
export function BagsTab() {
  const card = useThisBuild();
  const bags = useQuery(bagsQuery(card.id));
  return <Shown of={bags}>{(view) => <Bags view={view} />}</Shown>;
}

function Bags({ view }: { view: Schemas["BagsView"] }) {
  const card = useThisBuild();
  const [tray, setTray] = useState<string | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  const [editing, setEditing] = useState<Bag | "new" | null>(null);
  const [moving, setMoving] = useState<Bag | null>(null);
  const [question, setQuestion] = useState("");
  const [scanning, setScanning] = useState(false);
  const read = useCallback((text: string) => {
    setQuestion(text);
    setScanning(false);
  }, []);
  const asked = useAsked("bag");
  useEffect(() => {
    if (asked) setOpened(asked);
  }, [asked]);
  const bag = view.bags.find((b) => b.id === opened) ?? null;
  const racks = useQuery(shopQuery).data?.racks ?? [];
  const inTray = tray === null ? [] : view.bags.filter((b) => b.place.trim().toLowerCase() === tray.toLowerCase() && b.state === "onShelf");
  const patterns = view.bags.filter((b) => b.patternOpen && b.state !== "scrapped");
  const lost = view.bags.filter((b) => b.state === "notFound");
  const open = (b: Bag) => {
    setOpened(b.id);
    setTray(b.state === "onShelf" ? b.place : null);
  };
  return (
    <div className="build">
      <div className="bg-guide text-chalk px-5 pt-3 pb-4 flex flex-col">
        <p className="mb-2">
          <b className="text-[15px]">Store room</b>{" "}
          <span className="text-chalk2 text-[12.5px]">racks seen from the aisle; a figure is the bags of this build in a tray</span>
        </p>
        <Racks
          bags={view.bags}
          racks={racks}
          colour={lit(card.colourHex)}
          open={tray}
          onOpen={(t) => setTray((old) => (old === t ? null : t))}
        />
        <div className="mt-auto pt-4">
          <CameOff counts={view.counts} colour={lit(card.colourHex)} />
        </div>
      </div>
      <section className="side px-5 pt-[14px] pb-6" aria-label="Bags">
        <div className="flex gap-2 mb-2">
          <label className="flex-1">
            <span className="sr-only">Find a bag</span>
            <input
              type="search"
              value={question}
              onChange={(e) => setQuestion(e.target.value)}
              placeholder="left rear window screws, or scan a code"
              className="w-full h-[42px] border border-ink bg-p0 px-3 text-[17px]"
            />
          </label>
          <button type="button" className="btn" onClick={() => setScanning(true)}>
            Scan
          </button>
          <button type="button" className="btn btn-ink" onClick={() => setEditing("new")}>
            Bag something
          </button>
        </div>
        {question.trim() ? (
          <Found question={question} onOpen={open} known={view.bags} />
        ) : (
          <>
            {view.bags.length === 0 && <Empty>Nothing has been removed yet.</Empty>}
            {tray && (
              <BagList
                title={`Tray ${tray}`}
                note={`rack ${tray[0]}, shelf ${tray[1]}, ${counted(inTray.length, "bag")}`}
                bags={inTray}
                onOpen={open}
              />
            )}
          </>
        )}
        {bag && (
          <OpenBag
            bag={bag}
            moves={view.moves.filter((m) => m.bagId === bag.id)}
            onEdit={() => setEditing(bag)}
            onMove={() => setMoving(bag)}
          />
        )}
        <BagList title="Kept as pattern" note="each until its work is signed off" bags={patterns} onOpen={open} />
        <BagList title="Not found" note="look once more, then buy" bags={lost} onOpen={open} alarm />
        {!tray && !question.trim() && (
          <BagList title="All bags" note={`${view.bags.length}`} bags={view.bags.slice(-40).reverse()} onOpen={open} />
        )}
        {view.bags.length > 0 && (
          <p className="mt-3 flex gap-2 flex-wrap">
            <a className="btn" href={`/api/builds/${card.id}/labels?paper=a4`} download>
              Labels, A4
            </a>
            <a className="btn" href={`/api/builds/${card.id}/labels?paper=letter`} download>
              Labels, Letter
            </a>
            <a className="btn" href={`/api/builds/${card.id}/labels?paper=roll`} download>
              Roll
            </a>
          </p>
        )}
      </section>
      {editing && (
        <BagSheet bag={newest(editing === "new" ? null : editing, view.bags)} onClose={() => setEditing(null)} onKept={setOpened} />
      )}
      {scanning && <Scanner onRead={read} onClose={() => setScanning(false)} />}
      {moving && <MoveSheet bag={newest(moving, view.bags) ?? moving} onClose={() => setMoving(null)} />}
    </div>
  );
}

/** A paint that is too dark to be seen on the guide coat is lightened there. */
function lit(hex: string): string {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16));
  const dark = 0.2126 * r + 0.7152 * g + 0.0722 * b < 96;
  const mix = (v: number) =>
    Math.round(v + (255 - v) * 0.28)
      .toString(16)
      .padStart(2, "0");
  return dark ? `#${mix(r)}${mix(g)}${mix(b)}` : hex;
}

/** A tag with the corner of its side cut off; dashed: not in a tray. */
function Tag({ bag, colour }: { bag: Bag; colour: string }) {
  const here = bag.state === "onShelf";
  return (
    <svg width="62" height="22" viewBox="-1 -1 64 24" aria-hidden="true" className="flex-none">
      <path
        d={outline(bag.side, 62, 22, 9)}
        fill={here ? colour : "none"}
        stroke={bag.state === "notFound" ? "#9A3A1E" : "#7B827F"}
        strokeDasharray={here ? undefined : "4 3"}
      />
      <text x="31" y="15.5" textAnchor="middle" fontSize="12.5" fontWeight="680" fill={here ? inkOn(colour) : "#22272A"}>
        {bag.side === "left" ? `L ${bag.code}` : bag.side === "right" ? `${bag.code} R` : bag.code}
      </text>
    </svg>
  );
}

function BagList({
  title,
  note,
  bags,
  onOpen,
  alarm,
}: {
  title: string;
  note: string;
  bags: Bag[];
  onOpen: (b: Bag) => void;
  alarm?: boolean;
}) {
  const card = useThisBuild();
  if (bags.length === 0) return null;
  return (
    <section className="mt-3">
      <h2 className={alarm ? "!text-oxide" : ""}>
        {title} <small>{note}</small>
      </h2>
      <ul>
        {bags.map((b) => (
          <li key={b.id} className="border-t border-p2">
            <button type="button" className="w-full text-left flex gap-3 items-center py-1" onClick={() => onOpen(b)}>
              <Tag bag={b} colour={card.colourHex} />
              <span className="flex-1 leading-[1.2]">
                <b className="font-[660]">{b.what}</b>
                <span className="block text-ink2">{b.patternOpen ? `for ${b.pattern}` : b.from}</span>
              </span>
              <span className="text-right">{b.place || stateName(b.state)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const SIDE_WORDS: Record<Schemas["PanelSide"], string> = { left: "left is L", right: "right is R", centre: "the middle" };

/** How the question was read and what answers it, in every build; its twin is always named. */
function Found({ question, onOpen, known }: { question: string; onOpen: (b: Bag) => void; known: Bag[] }) {
  const navigate = useNavigate();
  const q = useDeferredValue(question.trim());
  const found = useQuery({
    queryKey: ["bags", "find", q],
    queryFn: () => ask(api.GET("/api/bags", { params: { query: { q } } })),
    placeholderData: keepPreviousData,
    retry: false,
    enabled: q.length > 0,
  });
  if (found.error) return <p className="wrong">{found.error.message}</p>;
  if (!found.data) return <p className="text-ink2">Looking…</p>;
  const { reading, exact, found: list } = found.data;
  const read = [
    reading.code !== null && `number ${reading.code}`,
    reading.side && SIDE_WORDS[reading.side],
    reading.words.length > 0 && reading.words.join(", "),
  ].filter(Boolean);
  return (
    <section aria-label="Found" aria-live="polite">
      <p className="text-ink2">{read.join("; ")}</p>
      {list.length === 0 ? (
        <Empty>No bag matches.</Empty>
      ) : (
        // What is still there from the question before is not the nearest to this one.
        !exact && !found.isPlaceholderData && <p className="font-[620]">No bag matches all of it. The closest:</p>
      )}
      <ul>
        {list.map((f) => (
          <li key={f.bag.id} className="border-t border-p2">
            <button
              type="button"
              className="w-full text-left flex gap-3 items-center py-1"
              onClick={() => {
                const own = known.find((b) => b.id === f.bag.id);
                if (own) onOpen(own);
                else void navigate({ to: `/builds/${f.buildNumber}/bags` });
              }}
            >
              <Tag bag={f.bag} colour={f.colourHex} />
              <span className="flex-1 leading-[1.2]">
                <b className="font-[660]">{f.bag.what}</b>
                <span className="block text-ink2">
                  build {f.buildNumber}, {f.bag.from}
                  {f.twin && <b className="font-[620]">. Not {f.twin}</b>}
                </span>
              </span>
              <b className="text-[17px]">{f.bag.place || stateName(f.bag.state)}</b>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function OpenBag({ bag: b, moves, onEdit, onMove }: { bag: Bag; moves: Schemas["BagMoveView"][]; onEdit: () => void; onMove: () => void }) {
  const card = useThisBuild();
  return (
    <article className="border border-ink bg-p0 p-3 mt-2" aria-label={`Bag ${b.label}`}>
      <div className="flex items-start gap-3">
        <b className="text-[34px] leading-none font-[760] flare">{b.label}</b>
        <div className="flex-1">
          <b className="text-[15px]">{b.what}</b>
          <p className="text-ink2">{b.from}</p>
        </div>
        <b className="text-[20px]">{b.place || stateName(b.state)}</b>
      </div>
      <ul className="mt-1">
        {b.pieces.map((p) => (
          <li key={p.name}>
            {p.count} {p.name}
          </li>
        ))}
        {b.fasteners.map((x, i) => (
          <li key={b.fastenerWords[i]}>
            {b.fastenerWords[i]}
            {x.shows && ", is seen"}
            {x.destroyed > 0 && <b className="font-[620]">, {x.destroyed} destroyed: on the buying list</b>}
          </li>
        ))}
      </ul>
      {b.pattern && (
        <p className="mt-1 font-[620]">
          {b.patternOpen
            ? `Pattern for “${b.pattern}”: neither scrapped nor sold until that is done.`
            : `Was the pattern for “${b.pattern}”.`}
        </p>
      )}
      <ol className="text-ink2 mt-1">
        {moves.map((m) => (
          <li key={m.at + m.place + m.state}>
            {day(dateOf(m.at))}: {stateName(m.state)}
            {m.place && `, ${m.place}`}, {m.by}
            {m.note && `. ${m.note}`}
          </li>
        ))}
      </ol>
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-ink" onClick={onMove}>
          Move
        </button>
        <button type="button" className="btn" onClick={onEdit}>
          Edit
        </button>
        <a className="btn" href={`/api/builds/${card.id}/labels?codes=${b.code}&paper=roll`} download>
          Label
        </a>
      </p>
    </article>
  );
}
