import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useLayoutEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { wayChancesQuery, wayQuery, waysQuery } from "../api/queries";
import { dateOf, day, hours } from "../format";
import { movesText, someOf } from "../plannedMoves";
import { Shown } from "../ui/States";
import { type Answer, Answers, answersOf } from "./Answers";
import { answerName } from "./answerWords";
import { OrderPicture } from "./OrderPicture";

export type Asked = Schemas["WayBody"];

/** How a build could run: every answer with what it changes beside what is chosen, and the order of work that follows. */
export function Ways({
  asked,
  onChoose,
  paint,
  settings,
  children,
}: {
  /** What is chosen. */
  asked: Asked;
  onChoose: (way: Pick<Asked, "template" | "choices">) => void;
  paint: string;
  /** What else is chosen, above the answers. */
  settings?: ReactNode;
  /** Below the order of work. */
  children?: ReactNode;
}) {
  const ways = useQuery({ ...waysQuery(asked), placeholderData: keepPreviousData });
  const [tried, setTried] = useState<Pick<Answer, "school" | "key"> | null>(null);
  const all = ways.data ? answersOf(ways.data) : [];
  const trying = all.find((a) => a.school === tried?.school && a.key === tried.key) ?? null;
  const take = (a: Answer) => {
    setTried(null);
    onChoose({ template: a.template, choices: a.choices });
  };
  return (
    <div className="ways">
      <div>
        {settings}
        <Shown of={ways}>
          {(shown) => (
            <>
              {shown.schools.length === 0 && <p className="text-ink2 py-4">This template has no choices: it runs as it stands.</p>}
              {!shown.planned && <p className="text-ink2">The build rests: days are counted as if it went on now.</p>}
              <Answers ways={shown} paint={paint} trying={trying} onTry={setTried} onTake={take} stale={ways.isPlaceholderData} />
              {shown.schools.length > 0 && (
                <p className="text-ink2 mt-2">
                  Hours and planned days beside what is chosen, with all other builds in the shop. How often something is done again is a
                  rule of thumb that counts as twelve builds; the shop’s own are weighed in as they end.
                </p>
              )}
            </>
          )}
        </Shown>
      </div>
      <section className="ways-order" aria-label="The order that follows">
        <h2>The order that follows</h2>
        <p className="text-chalk2">length is days, thickness is people, so area is hours</p>
        {ways.data && <OrdersBeside asked={asked} trying={trying?.chosen || trying?.refused ? null : trying} paint={paint} />}
        {trying && !trying.chosen && !trying.refused && (
          <p className="way-take">
            <button type="button" className="btn" onClick={() => take(trying)}>
              Take it
            </button>
            <button type="button" className="btn" onClick={() => setTried(null)}>
              Let it go
            </button>
          </p>
        )}
        {children}
      </section>
    </div>
  );
}

function OrdersBeside({ asked, trying, paint }: { asked: Asked; trying: Answer | null; paint: string }) {
  const other = trying ? { ...asked, template: trying.template, choices: trying.choices } : asked;
  const chosen = useQuery({ ...wayQuery(asked), placeholderData: keepPreviousData });
  const tried = useQuery({ ...wayQuery(other), enabled: trying !== null });
  const [box, width] = useWidth(560);
  const name = trying ? answerName(trying.school, trying.key) : "";
  return (
    <Shown of={chosen}>
      {(c) => (
        <div ref={box}>
          <OrderPicture
            ways={[
              { title: "As chosen", view: c },
              ...(trying && tried.data ? [{ title: `Trying: ${name.charAt(0).toLowerCase()}${name.slice(1)}`, view: tried.data }] : []),
            ]}
            paint={paint}
            width={width}
          />
          {tried.isError && trying && <p className="text-oxide-lt">{tried.error.message}</p>}
          <table className="ways-figures">
            <thead>
              <tr>
                <td />
                <th scope="col">hours</th>
                <th scope="col">planned</th>
                <th scope="col">likely</th>
                <th scope="col">8 in 10 by</th>
              </tr>
            </thead>
            <tbody>
              <Figures title="As chosen" of={asked} view={c} />
              {trying && tried.data && <Figures title="Trying" of={other} view={tried.data} />}
            </tbody>
          </table>
          <Says view={trying && tried.data ? tried.data : c} />
        </div>
      )}
    </Shown>
  );
}

/** What the plan says of it, and what it is likely to come to: the futures follow a moment later. */
function Figures({ title, of, view }: { title: string; of: Asked; view: Schemas["WayLook"] }) {
  const chances = useQuery(wayChancesQuery(of)).data;
  const at = (when: string | undefined) => (chances === undefined ? "…" : chances.partly || !when ? "no date" : day(dateOf(when)));
  return (
    <tr>
      <th scope="row">{title}</th>
      <td>{hours(view.minutes)} h</td>
      <td>{view.finish ? day(dateOf(view.finish)) : "no date"}</td>
      <td>{at(chances?.p50)}</td>
      <td>{at(chances?.p80)}</td>
    </tr>
  );
}

function Says({ view }: { view: Schemas["WayLook"] }) {
  return (
    <div className="grid gap-1 mt-2">
      {view.withoutDate.map((w) => (
        <p key={w.why} className="text-oxide-lt">
          No date, {w.why}: {someOf(w.names)}.
        </p>
      ))}
      {view.moves.length > 0 && <p>Other builds. {movesText(view.moves)}</p>}
      {view.warning && <p className="text-chalk2">{view.warning}</p>}
    </div>
  );
}

/** What a way changes in the sequence that there is. */
export function Changes({ of }: { of: Schemas["WayChanges"] }) {
  return (
    <div className="grid gap-1">
      <Names title="Added" names={of.added} />
      <Names title="Removed" names={of.takenOut} />
      <Names title="As the template has it" names={of.changed} />
      <Names title="Stays as it is" names={of.kept} />
    </div>
  );
}

function Names({ title, names }: { title: string; names: string[] }) {
  if (names.length === 0) return null;
  return (
    <p>
      <b className="font-[660]">
        {title}, {names.length}:
      </b>{" "}
      <span className="text-chalk2">{names.join(", ")}</span>
    </p>
  );
}

function useWidth(first: number) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const measure = () => box.current && setWidth(Math.max(280, box.current.clientWidth) || first);
    measure();
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, [first]);
  return [box, width] as const;
}
