import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, ask, NotSent, newId, type Schemas } from "../api/client";
import { askAgain, bodyQuery, buildsQuery, sessionQuery, surveyQuery } from "../api/queries";
import { KeptUnsent, keepUnsent } from "../api/unsent";
import { sendPhoto } from "../api/upload";
import { middleOf, pointAt } from "../geometry";
import { CHALK, GUIDE, GUIDE3 } from "../tokens";
import { Dab } from "../ui/Dab";
import { say } from "../ui/say";
import { useLeavingGuard } from "../ui/useLeavingGuard";
import { PunchGlyph } from "./Marks";

type Place = Schemas["PlaceView"];
type Kind = Schemas["FindingKind"];

const KINDS: [Kind, string][] = [
  ["rustThrough", "Rust"],
  ["dent", "Dent"],
  ["crack", "Crack"],
  ["filler", "Filler"],
  ["earlierPatch", "Patch"],
  ["missing", "Missing"],
];
const PROBES: [Schemas["Probe"], string][] = [
  ["rings", "rings"],
  ["dents", "dents"],
  ["goesThrough", "goes through"],
];

/** Places whose middle is nearest to where the thumb came down: a sill is narrower than a thumb. */
export function neighbours(places: Place[], key: string, at: Schemas["MapPoint"]): Place[] {
  const own = places.find((p) => p.key === key);
  return places
    .filter((p) => p.key !== key && p.group === own?.group && p.round)
    .map((p) => ({ p, d: Math.hypot(middleOf(p.path).x - at.x, middleOf(p.path).y - at.y) }))
    .sort((a, b) => a.d - b.d)
    .slice(0, 2)
    .map((x) => x.p);
}

/** The phone: where, what, how bad, a photo, a note, one button that keeps it. */
export function FindPage() {
  useQuery(sessionQuery);
  const { number } = useParams({ strict: false });
  const card = useQuery(buildsQuery).data?.find((b) => b.number === Number(number));
  if (!card) return <main className="clk p-5">Loading…</main>;
  return <Find card={card} />;
}

/** A photo that waits to be sent is no fault; anything else is. */
const onlyKept = (e: unknown) => {
  if (e instanceof KeptUnsent) return e;
  throw e;
};

function Find({ card }: { card: Schemas["BuildCard"] }) {
  const navigate = useNavigate();
  const survey = useQuery(surveyQuery(card.id)).data;
  const [id] = useState(() => newId());
  const [photoId] = useState(() => newId());
  const [where, setWhere] = useState<{ key: string; at: Schemas["MapPoint"] } | null>(null);
  const [kind, setKind] = useState<Kind | null>(null);
  const [probe, setProbe] = useState<Schemas["Probe"] | null>(null);
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState<File | null>(null);
  const [busy, setBusy] = useState(false);
  const [unsent, setUnsent] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const places = survey?.places ?? [];
  const place = places.find((p) => p.key === where?.key);
  const kept = useRef(false);
  const guard = useLeavingGuard(() => !kept.current && (where !== null || kind !== null || note !== "" || photo !== null));
  const back = () => navigate({ to: "/clock" });
  const keep = async () => {
    if (!where || !kind) return;
    setBusy(true);
    setUnsent(null);
    const body: Schemas["FindingBody"] = {
      place: where.key,
      at: where.at,
      area: [],
      kind,
      probe,
      sizeMm: null,
      structural: place?.carries ?? false,
      gaugeMm: null,
      note,
      photoId: photo ? photoId : null,
      behind: null,
      version: null,
    };
    try {
      const waits =
        photo &&
        (await sendPhoto(card.id, photoId, photo, { caption: `${place?.name ?? ""}, found`, stage: "metal" }, () => undefined).catch(
          onlyKept,
        ));
      // A finding goes after its photo, or not yet.
      if (waits) throw await keepUnsent("PUT", `/api/builds/${card.id}/findings/${id}`, JSON.stringify(body));
      await ask(api.PUT("/api/builds/{id}/findings/{findingId}", { params: { path: { id: card.id, findingId: id } }, body }));
      kept.current = true;
      say.done("Kept");
      void askAgain();
      await back();
    } catch (e) {
      if (e instanceof KeptUnsent) {
        kept.current = true;
        say.note(e.message);
        return void (await back());
      }
      setUnsent(
        e instanceof NotSent
          ? "No connection: this was not sent and is not kept. It stands here; try again."
          : e instanceof Error
            ? e.message
            : "That did not work.",
      );
    } finally {
      setBusy(false);
    }
  };
  return (
    <main className="clk !bg-p1">
      {guard.question}
      <div className="bg-guide text-chalk px-5 pt-3 pb-2">
        <div className="flex items-center gap-3 mb-2">
          <Dab number={card.number} colour={card.colourHex} w={52} h={29} size={19} />
          <h1 className="!text-[25px] flex-1">Found something</h1>
          <button type="button" className="min-h-11 px-2 underline" onClick={back}>
            Back
          </button>
        </div>
        <Where card={card} places={places} where={where} onPick={(key, at) => setWhere({ key, at })} />
      </div>
      <Choice label="What is it?" options={KINDS} value={kind} onPick={setKind} columns="grid-cols-3" />
      <Choice
        label="What does the punch say?"
        options={PROBES}
        value={probe}
        onPick={(p) => setProbe((old) => (old === p ? null : p))}
        columns="grid-cols-3"
        glyph={(p) => (
          <svg width="26" height="26" viewBox="-10 -10 20 20" aria-hidden="true">
            <PunchGlyph result={p} />
          </svg>
        )}
      />
      <div className="px-5 py-3 flex flex-col gap-2">
        <label className="block">
          <span className="block text-ink2 text-[15px]">Note</span>
          <textarea
            rows={2}
            value={note}
            maxLength={1000}
            onChange={(e) => setNote(e.target.value)}
            className="w-full border border-p4 bg-p0 p-2 text-[17px]"
          />
        </label>
        <input
          ref={file}
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          aria-label="Photo of it"
          tabIndex={-1}
          onChange={(e) => setPhoto(e.target.files?.[0] ?? null)}
        />
        <button type="button" className="btn min-h-12 !text-[17px]" onClick={() => file.current?.click()}>
          {photo ? `Photo: ${photo.name}` : "Take a photo"}
        </button>
        {!photo && <p className="text-ink2 text-[15px]">No photo yet: it is kept as “no photo”.</p>}
      </div>
      <div className="sticky bottom-0 bg-p0 border-t border-p3 px-5 py-3" aria-live="polite">
        {unsent && <p className="wrong mb-2">{unsent}</p>}
        <button type="button" className="btn btn-ink w-full min-h-[62px] !text-[21px]" disabled={!where || !kind || busy} onClick={keep}>
          {busy ? "Sending…" : "Keep it"}
        </button>
        {(!where || !kind) && <p className="text-ink2 text-[15px] mt-1">{!where ? "Tap the place first." : "Say what it is."}</p>}
      </div>
    </main>
  );
}

/** The body as tall as the thumb needs; what was hit is named beside it, its neighbours are offered as buttons. */
function Where({
  card,
  places,
  where,
  onPick,
}: {
  card: Schemas["BuildCard"];
  places: Place[];
  where: { key: string; at: Schemas["MapPoint"] } | null;
  onPick: (key: string, at: Schemas["MapPoint"]) => void;
}) {
  const body = useQuery(bodyQuery(card.id)).data?.body;
  const group = useRef<SVGGElement>(null);
  const [inside, setInside] = useState(false);
  const shown = places.filter((p) => (inside ? p.group !== "outside" : p.group === "outside"));
  const place = places.find((p) => p.key === where?.key);
  if (!body) return null;
  const box = inside ? { x0: -120, x1: 120 } : { x0: body.minX - 4, x1: body.maxX + 4 };
  return (
    <div className="grid grid-cols-[204px_1fr] gap-4">
      <div>
        <svg
          viewBox={`${box.x0} ${body.minY - 4} ${box.x1 - box.x0} ${body.maxY - body.minY + 8}`}
          className="block w-full h-[286px]"
          role="group"
          aria-label={inside ? "Floor, structure and inside" : "The body, laid flat"}
        >
          <g ref={group}>
            {shown.map((p) => {
              const at = p.key === where?.key;
              return (
                <path
                  key={p.key}
                  d={p.path}
                  fill={at ? "#C29C78" : p.looked ? "#5A6366" : GUIDE3}
                  stroke={at ? CHALK : GUIDE}
                  strokeWidth={at ? 4 : 2}
                  role="button"
                  tabIndex={0}
                  aria-label={p.name}
                  aria-pressed={at}
                  onClick={(e) => onPick(p.key, pointAt(group.current, e) ?? middleOf(p.path))}
                  onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onPick(p.key, middleOf(p.path))}
                />
              );
            })}
            {where && !inside && (
              <circle cx={where.at.x} cy={where.at.y} r="9" fill="none" stroke={CHALK} strokeWidth="3" pointerEvents="none" />
            )}
          </g>
        </svg>
      </div>
      <div className="flex flex-col gap-2 text-[17px]">
        <b className="text-[20px] leading-tight">{place?.name ?? "Where?"}</b>
        {place?.spot && <span className="text-chalk2 text-[15px] leading-snug">{place.spot}</span>}
        {where && (
          <>
            <span className="text-chalk2 text-[15px]">or was it</span>
            {neighbours(places, where.key, where.at).map((p) => (
              <button
                key={p.key}
                type="button"
                className="border border-chalk2 min-h-12 px-2 font-[640]"
                onClick={() => onPick(p.key, middleOf(p.path))}
              >
                {p.name}
              </button>
            ))}
          </>
        )}
        <span className="flex-1" />
        <button type="button" className="border border-guide3 min-h-12 px-2" onClick={() => setInside(!inside)}>
          {inside ? "Outside" : "Floor, structure"}
        </button>
      </div>
    </div>
  );
}

function Choice<T extends string>({
  label,
  options,
  value,
  onPick,
  columns,
  glyph,
}: {
  label: string;
  options: [T, string][];
  value: T | null;
  onPick: (v: T) => void;
  columns: string;
  glyph?: (v: T) => React.ReactNode;
}) {
  return (
    <fieldset className={`grid ${columns} border-b border-p3`} aria-label={label}>
      {options.map(([v, name]) => (
        <button
          key={v}
          type="button"
          aria-pressed={value === v}
          className={`min-h-[56px] border-r border-p3 last:border-r-0 text-[17px] font-[640] flex items-center justify-center gap-2 ${value === v ? "bg-guide text-chalk" : ""}`}
          onClick={() => onPick(v)}
        >
          {glyph?.(v)}
          {name}
        </button>
      ))}
    </fieldset>
  );
}
