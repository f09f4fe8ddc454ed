import { useQuery } from "@tanstack/react-query";
import { useLocation } from "@tanstack/react-router";
import { shopQuery, weekQuery } from "../api/queries";
import { dateOf, day, hours, timeOf, weekday } from "../format";
import { Shown } from "../ui/States";
import { shownDays, type Week, type WeekPerson } from "./weekWords";

/** A sheet a person and a sheet a place, for the wall; as long as the paper is wide enough for it, A4 or Letter. */
export function WeekPrint() {
  const { of } = useLocation().search as { of?: string };
  const week = useQuery(weekQuery(of ?? null));
  const shop = useQuery(shopQuery).data;
  return (
    <div className="week-print">
      <p className="no-print px-5 py-3 flex gap-3 items-center">
        <button type="button" className="btn btn-ink" onClick={() => window.print()}>
          Print
        </button>
        A sheet a person and a place: choose A4 or Letter where you print.
      </p>
      <Shown of={week}>
        {(w) => (
          <>
            {w.people
              .filter((p) => p.blocks.length + p.promises.length > 0)
              .map((p) => (
                <PersonSheet key={p.id} week={w} person={p} shop={shop?.settings?.name ?? ""} />
              ))}
            {w.places
              .filter((s) => s.held.length > 0)
              .map((s) => (
                <article key={s.id} className="week-sheet">
                  <Head title={s.name} week={w} shop={shop?.settings?.name ?? ""} />
                  <table className="rows">
                    <tbody>
                      {s.held.map((h) => {
                        const b = w.builds.find((x) => x.id === h.buildId);
                        return (
                          <tr key={h.from}>
                            <td>
                              <b>{b?.number}</b> {b?.title}
                            </td>
                            <td>
                              {h.from <= w.now ? "now" : `${weekday(dateOf(h.from))} ${timeOf(h.from)}`}{" "}
                              {h.to ? `to ${weekday(dateOf(h.to))} ${timeOf(h.to)}` : "on"}
                            </td>
                          </tr>
                        );
                      })}
                    </tbody>
                  </table>
                </article>
              ))}
          </>
        )}
      </Shown>
    </div>
  );
}

function Head({ title, week, shop }: { title: string; week: Week; shop: string }) {
  const days = shownDays(week);
  return (
    <header className="week-sheet-head">
      <h1>{title}</h1>
      <p>
        {shop}
        {shop && ", "}
        {weekday(days[0]?.date ?? week.of)} to {day(days.at(-1)?.date ?? week.of)}, printed {day(week.today)} {timeOf(week.now)}
      </p>
    </header>
  );
}

function PersonSheet({ week, person, shop }: { week: Week; person: WeekPerson; shop: string }) {
  const numbers = new Map(week.builds.map((b) => [b.id, b.number]));
  const ahead = person.blocks.filter((b) => !b.passed && b.state !== "worked");
  return (
    <article className="week-sheet">
      <Head title={person.name} week={week} shop={shop} />
      {person.promises.length > 0 && (
        <>
          <h2>Promised</h2>
          <ul>
            {person.promises.map((p) => (
              <li key={p.id} className="flex gap-2 py-[3px]">
                <span className="week-box" aria-hidden="true">
                  {p.state === "kept" ? "✓" : ""}
                </span>
                <b>{numbers.get(p.buildId)}</b>
                <span className="flex-1">{p.name}</span>
                <span>
                  {hours(p.minutes)} h{p.whole ? ", to be done" : " of it"}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {shownDays(week).map((d) => {
        const mine = ahead.filter((b) => dateOf(b.from) === d.date);
        return (
          <section key={d.date}>
            <h2>{weekday(d.date)}</h2>
            {mine.length === 0 && <p>–</p>}
            <ul>
              {mine.map((b) => (
                <li key={b.key} className="flex gap-2 py-[2px]">
                  <span className="num w-[96px] flex-none">
                    {timeOf(b.from)} to {timeOf(b.to)}
                  </span>
                  <b>{numbers.get(b.buildId)}</b> {b.name}
                  {b.state === "offered" && week.committedAt && <i> offered</i>}
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </article>
  );
}
