import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { photosQuery, reassemblyQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { day, money, today } from "../format";
import { INK, OXIDE, P2, P3 } from "../tokens";
import { PlaceLink } from "../ui/PlaceLink";
import { Empty, Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { AssemblyPicture } from "./AssemblyPicture";

type Back = Schemas["BackView"];
type Lack = Schemas["LackView"];
const WIDTH = 430;

const days = (from: string, to: string) => (Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000;

/** What is missing and by when, in one line. */
export function lackWords(l: Lack): string {
  const from = l.from ? ` from ${l.from}` : "";
  if (l.how === "notFound") return `${l.what}: not found`;
  if (l.how === "atSupplier") return `${l.what}: at ${l.from}${l.here ? `, back about ${day(l.here)}` : ", no day named"}${inHand(l)}`;
  if (l.how === "ordered") return `${l.what}: ordered${from}${l.here ? `, here about ${day(l.here)}` : ""}${inHand(l)}`;
  if (l.how === "onAnotherCar") return `${l.what}: on another car`;
  return l.orderBy && l.orderBy < today()
    ? `${l.what}: order today, it may still come late`
    : `${l.what}: ${l.orderBy ? `order by ${day(l.orderBy)}` : `to buy${from}`}`;
}

const inHand = (l: Lack) =>
  l.daysInHand === null || l.daysInHand === undefined ? "" : l.daysInHand < 0 ? ", too late" : `, ${l.daysInHand} days in hand`;

/** The teardown in reverse: each step with its bag and photo, the day it is needed, and what must still come for it. */
export function BackTogether({ assembly: a }: { assembly: Schemas["AssemblyRow"] }) {
  const card = useThisBuild();
  const back = useQuery(reassemblyQuery(a.id));
  return (
    <Shown of={back}>
      {(list) =>
        list.steps.length === 0 ? (
          <Empty>Nothing of it is off yet.</Empty>
        ) : (
          <div className="grid grid-cols-1 min-[900px]:grid-cols-[240px_minmax(0,1fr)_224px]">
            <section className="bg-guide text-chalk px-4 py-3" aria-label="As it stands">
              <b className="text-[15px]">{a.name}</b>
              <AssemblyPicture
                kind={a.kind}
                side={a.side}
                steps={a.steps}
                chosen={null}
                onChoose={() => undefined}
                paint={card.colourHex}
                small
              />
              <Fetch list={list} />
            </section>
            <Steps list={list} assembly={a} />
            <ToBuy list={list} />
          </div>
        )
      }
    </Shown>
  );
}

/** The bags to fetch in one walk, tray by tray. */
function Fetch({ list }: { list: Back }) {
  const trays = list.steps
    .filter((s) => !s.back && s.bagState === "onShelf" && s.bagPlace)
    .sort((x, y) => x.bagPlace.localeCompare(y.bagPlace, undefined, { numeric: true }));
  if (trays.length === 0) return null;
  return (
    <>
      <b className="block mt-3">Fetch in one walk</b>
      <ul className="text-chalk2">
        {trays.map((s) => (
          <li key={s.key}>
            {s.bagPlace}: {s.bag}
          </li>
        ))}
      </ul>
    </>
  );
}

function Steps({ list, assembly }: { list: Back; assembly: Schemas["AssemblyRow"] }) {
  const card = useThisBuild();
  const photos = useQuery(photosQuery(card.id)).data ?? [];
  const put = useSend((s: { key: string; back: boolean }) =>
    ask(api.POST("/api/assemblies/{id}/steps/{step}/back", { params: { path: { id: assembly.id, step: s.key } }, body: { back: s.back } })),
  );
  const from = today();
  const ends = list.steps.flatMap((s) => [s.needed, ...s.lacks.flatMap((l) => [l.here, l.hereLate])]).filter((d): d is string => !!d);
  const span = Math.max(21, ...ends.map((d) => days(from, d))) + 3;
  const x = (d: string) => Math.max(0, Math.min(WIDTH, (days(from, d) / span) * WIDTH));
  return (
    <section className="px-5 py-3 min-w-0" aria-label="Back together">
      <h1>{list.name}, back together</h1>
      <p className="text-ink2 mb-2">
        {list.done} of {list.steps.length} are back. In reverse of how it came off. Bar: until likely here; whisker: eight in ten; caret:
        needed.
      </p>
      <ol>
        {list.steps.map((s) => {
          const photo = photos.find((p) => p.id === s.photoId);
          return (
            <li key={s.key} className="border-t border-p2 py-[6px] grid grid-cols-[24px_64px_64px_minmax(0,1fr)_auto] gap-2 items-center">
              <b className="num">{s.order}</b>
              {photo ? (
                <img src={`/api/photos/file/${photo.thumbHash}`} alt={photo.caption || s.name} className="w-[64px] h-[42px] object-cover" />
              ) : (
                <span className="text-ink2 text-[11px]">no photo</span>
              )}
              <b>{s.bag ?? ""}</b>
              <span className="min-w-0">
                <span className="flex gap-2 items-baseline">
                  <b className={`font-[660] ${s.back ? "text-ink2 line-through" : ""}`}>{s.name}</b>
                  <span className="text-ink2 text-[12.5px] truncate">{s.note || s.says}</span>
                </span>
                {s.lacks.length === 0 ? (
                  <span className="text-ink2 text-[12.5px]">{s.back ? "on the car" : "all in the bag"}</span>
                ) : (
                  s.lacks.map((l) => (
                    <span key={l.what} className={`block text-[12.5px] ${s.late ? "text-oxide font-[620]" : ""}`}>
                      {lackWords(l)}
                    </span>
                  ))
                )}
                <Line step={s} x={x} />
              </span>
              <button
                type="button"
                className="btn"
                disabled={put.isPending}
                onClick={() => put.mutate({ key: s.key, back: !s.back })}
                aria-label={`${s.back ? "Removed again" : "Fitted"}: ${s.name}`}
              >
                {s.back ? "Removed again" : "Fitted"}
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function Line({ step: s, x }: { step: Schemas["BackStepView"]; x: (d: string) => number }) {
  const lack = s.lacks.find((l) => l.here);
  if (s.back || (!lack && !s.needed)) return null;
  return (
    <svg viewBox={`0 0 ${WIDTH + 8} 14`} className="block w-full max-w-[460px]" aria-hidden="true">
      <path d={`M0,10H${WIDTH}`} stroke={P2} />
      {lack?.here && (
        <path
          d={`M0,10H${x(lack.here)}`}
          stroke={lack.how === "toBuy" ? P3 : INK}
          strokeWidth="5"
          strokeDasharray={lack.how === "toBuy" ? "4 3" : undefined}
        />
      )}
      {lack?.here && lack.hereLate && (
        <path d={`M${x(lack.here)},10H${x(lack.hereLate)}M${x(lack.hereLate)},6V14`} stroke={s.late ? OXIDE : INK} strokeWidth="1.6" />
      )}
      {s.needed && <path d={`M${x(s.needed) - 5},0h10l-5,7Z`} fill={s.late ? OXIDE : INK} />}
    </svg>
  );
}

function ToBuy({ list }: { list: Back }) {
  const may = useMay();
  const card = useThisBuild();
  const buy = list.lacks.filter((l) => l.how === "toBuy");
  return (
    <section className="px-4 py-3 border-l border-p3" aria-label="To buy">
      <h2>To buy</h2>
      {buy.length === 0 ? (
        <p className="text-ink2">Nothing.</p>
      ) : (
        <>
          <p className="text-ink2">{buy.length === 1 ? "One thing" : `${buy.length} things, the pressing first`}</p>
          <ul>
            {buy.map((l) => (
              <li key={l.what} className={`border-t border-p2 py-1 ${l.late ? "text-oxide" : ""}`}>
                <b className="block">{l.what}</b>
                <span className="flex">
                  <span className="flex-1">{l.orderBy ? (l.orderBy < today() ? "today" : `by ${day(l.orderBy)}`) : "no day yet"}</span>
                  {may.desk && l.cost > 0 && money(l.cost)}
                </span>
              </li>
            ))}
          </ul>
          {may.desk && (
            <p className="border-t-2 border-ink pt-1 flex font-[720]">
              <span className="flex-1">Total</span> {money(list.toBuy)}
            </p>
          )}
          <PlaceLink className="btn mt-3" to={`/builds/${card.number}/parts`}>
            To the buying list
          </PlaceLink>
        </>
      )}
    </section>
  );
}
