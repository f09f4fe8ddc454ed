import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { hours, longDay, money, stageName, tradeName, words } from "../format";
import { PagePicture } from "../photos/PagePicture";
import { Spray } from "./Spray";

type Page = Schemas["PaperPage"];

export const KIND_NAMES: Record<Schemas["CostKind"], string> = {
  labour: "Labour",
  parts: "Parts",
  outside: "Work sent out",
  materials: "Paint and materials",
};

/** An estimate or change order: the same on screen, in the preview and on paper. */
export function PaperView({ page, photo }: { page: Page; photo: (hash: string) => string }) {
  const estimate = page.kind === "estimate";
  return (
    <article className="rep paper-doc">
      <header>
        <b>{page.shop}</b>
        <span>{page.place}</span>
        <span className="right">
          {estimate ? "Estimate" : "Change order"} {page.number}, build {page.buildNumber}
        </span>
        <span>
          {longDay(page.on)}, {estimate ? "good until" : "answer by"} {longDay(page.answerBy)}
        </span>
      </header>
      <h1>{page.title}</h1>
      <p className="text-ink2 mt-1">
        {page.vehicle}, for {page.for}, from {page.from}
      </p>
      {page.figures ? <EstimateLede page={page} figures={page.figures} /> : <ChangeLede page={page} />}
      {page.reason && estimate && <p className="lede !mt-0">{page.reason}</p>}
      {page.figures ? <EstimateTable page={page} figures={page.figures} /> : <ChangeTable page={page} />}
      {page.photos.length > 0 && (
        <section className="whole mt-5">
          <h2>What it is about</h2>
          <div className="photos">
            {page.photos.map((p) => (
              <PagePicture key={p.id} of={p} photo={photo} />
            ))}
          </div>
        </section>
      )}
      <div className="three">
        <Listed title="Not included" items={page.notIncluded} />
        {page.choices.length > 0 && (
          <section className="whole">
            <h2>Yours to choose</h2>
            <ul>
              {page.choices.map((c) => (
                <li key={c.letter}>
                  <b>{c.letter}</b> {c.text}
                  <span className="block text-ink2">
                    {signed(c.adds)}, {choiceDays(c.days)}
                  </span>
                </li>
              ))}
            </ul>
          </section>
        )}
        <Listed
          title="Terms"
          items={[...(page.deposit ? [`Deposit ${money(page.deposit)}, tax included, before work begins`] : []), ...page.terms]}
        />
      </div>
      <p className="text-ink2 mt-5">
        Dates are likely ones and no promise. Questions: {page.from}, {page.phone}.
      </p>
      <div className="sign" aria-hidden="true">
        <span>{page.choices.length > 0 ? `Agreed, with ${page.choices.map((c) => c.letter).join("   ")}` : "Agreed"}</span>
        <span>For {page.for}, date</span>
      </div>
    </article>
  );
}

/** By how many days a choice moves the finish. */
export const choiceDays = (days: number | null) =>
  days === null
    ? "days not known yet"
    : days === 0
      ? "same days"
      : `${days > 0 ? "+" : "−"}${Math.abs(days)} ${Math.abs(days) === 1 ? "day" : "days"}`;

const signed = (v: number) => (v < 0 ? money(v) : `+${money(v)}`);

/** What kind of price it is, in a sentence; pages of before it was told say what was said then. */
function priceSays(page: Page): string {
  const p = page.price;
  const held = p && p.retentionPercent > 0 ? ` Of each sum ${p.retentionPercent} % are held back until all is right.` : "";
  switch (p?.kind) {
    case "fixed":
      return `This is a fixed price: only a change that you approve alters it.${held}`;
    case "progress":
      return `This is a fixed price, paid as the stages are done: ${p.stages.map((s) => `${s.name} ${s.percent} %`).join(", ")}. Only a change that you approve alters it.${held}`;
    case "capped":
      return `You pay for what is done; only a change that you approve raises the most that you pay.${held}`;
    default:
      return "It is an estimate, not a price: you pay for what is done, and nothing is added without your agreement.";
  }
}

const agreedPrice = (page: Page) => page.price?.kind === "fixed" || page.price?.kind === "progress";

function EstimateLede({ page, figures }: { page: Page; figures: Schemas["PaperFigures"] }) {
  return (
    <p className="lede">
      {agreedPrice(page) ? (
        <>
          The price is <b>{money(page.totals.net)}</b> before tax.{" "}
        </>
      ) : page.price?.kind === "capped" ? (
        <>
          You pay at most <b>{money(page.price.amount ?? 0)}</b> before tax.{" "}
          {(figures.above ?? 0) > 0 ? (
            <>
              The work is likely to come to <b>{money(figures.work ?? 0)}</b>; what lies above the most, you do not pay.{" "}
            </>
          ) : (
            <>
              Most likely it is <b>{money(page.totals.net)}</b>.{" "}
            </>
          )}
        </>
      ) : (
        <>
          Most likely <b>{money(page.totals.net)}</b> before tax. Eight times in ten such work ends below <b>{money(figures.high)}</b>.{" "}
        </>
      )}
      {priceSays(page)}
      {page.likely && ` By today's plan it is ready about ${longDay(page.likely)}`}
      {page.inTenBy && `, eight times in ten by ${longDay(page.inTenBy)}`}
      {page.likely && "."}
    </p>
  );
}

function ChangeLede({ page }: { page: Page }) {
  const days = page.days ?? 0;
  return (
    <>
      <p className="lede">{page.reason}</p>
      <p className="lede !mt-0">
        It {page.totals.net < 0 ? "takes off" : "adds"} <b>{money(Math.abs(page.totals.net))}</b> before tax, and{" "}
        {days === 0
          ? "the likely day stays"
          : `makes it ${Math.abs(days)} ${Math.abs(days) === 1 ? "day" : "days"} ${days < 0 ? "sooner" : "later"}`}
        {page.likely && `, about ${longDay(page.likely)}`}. The work waits until you have answered.
        {page.price?.capAfter != null &&
          page.price.amount !== null &&
          ` The most that you pay goes from ${money(page.price.amount)} to ${money(page.price.capAfter)} before tax.`}
      </p>
    </>
  );
}

/** At an agreed price: what is done for it, stage by stage, without sums that nobody pays by. */
function ScopeTable({ page, figures }: { page: Page; figures: Schemas["PaperFigures"] }) {
  return (
    <section>
      <h2>Scope of work</h2>
      <table>
        <tbody>
          {figures.rows.map((r) => (
            <tr key={r.stage}>
              <th scope="row">{stageName(r.stage)}</th>
              <td className="wide !text-left">{r.says}</td>
              <td>{r.cells.reduce((sum, c) => sum + c.hours, 0)} h</td>
            </tr>
          ))}
          {figures.goods.map((g) => (
            <tr key={g.text}>
              <th scope="row">{g.text}</th>
              <td className="wide" />
              <td />
            </tr>
          ))}
        </tbody>
        <Totals page={page} before={[<td key="a" className="wide" />]} after={[]} name="The price, before tax" />
      </table>
    </section>
  );
}

function EstimateTable({ page, figures }: { page: Page; figures: Schemas["PaperFigures"] }) {
  if (agreedPrice(page)) return <ScopeTable page={page} figures={figures} />;
  const above = figures.above ?? 0;
  const plain = (key: string, name: string, likely: number, says = "") => ({
    key,
    name,
    says,
    stage: null,
    low: likely,
    likely,
    high: likely,
    jobs: [],
    rests: "",
    formula: "",
  });
  const rows = [
    ...((figures.done ?? 0) > 0
      ? [{ ...plain("done", "Done before this estimate", figures.done ?? 0, `${figures.doneHours} h`), rests: "as booked" }]
      : []),
    ...figures.rows.map((r) => ({
      key: r.stage as string,
      name: stageName(r.stage),
      ...r,
      stage: r.stage as Schemas["Stage"] | null,
      rests: restsOn(r),
      formula: r.cells.map((c) => `${c.hours} h ${tradeName(c.trade)} at ${money(c.rate)}`).join(", "),
    })),
    ...figures.goods.map((g, i) => ({
      key: `goods${i}`,
      name: g.text,
      says: "",
      stage: null,
      low: g.low,
      likely: g.likely,
      high: g.high,
      jobs: [],
      rests: g.restsOn,
      formula: "",
    })),
  ];
  const most = Math.max(1, ...rows.map((r) => r.high)) * 1.06;
  return (
    <section>
      <h2>What it is made of</h2>
      <p className="text-ink2 text-[12.5px]">
        Upright mark: likely. Whisker: eight in ten. Dots: what like jobs came to. Low and high of the whole are not sums: not everything
        goes wrong at once.
      </p>
      <table>
        <thead>
          <tr>
            <th>Stage</th>
            <th className="wide" aria-hidden="true" />
            <th className="wide">low</th>
            <th>likely</th>
            <th className="wide">high</th>
            <th className="wide">rests on</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key}>
              <th scope="row">
                {r.name}
                {r.says && <small className="block font-[450] text-ink2">{r.says}</small>}
                <small className="narrow font-[450] text-ink2">
                  {money(r.low)} to {money(r.high)}, {r.rests}
                </small>
                {r.formula && <small className="block font-[450] text-ink2">{r.formula}</small>}
              </th>
              <td aria-hidden="true" className="wide">
                <Spray of={r} most={most} paint={page.colourHex} />
              </td>
              <td className="wide">{money(r.low)}</td>
              <td className="font-[680]">{money(r.likely)}</td>
              <td className="wide">{money(r.high)}</td>
              <td className="wide text-ink2 text-[12px]">{r.rests}</td>
            </tr>
          ))}
          {above > 0 && (
            <tr>
              <th scope="row">Above the most that you pay</th>
              <td className="wide" aria-hidden="true" />
              <td className="wide" />
              <td className="font-[680]">{money(-above)}</td>
              <td className="wide" />
              <td className="wide text-ink2 text-[12px]">you do not pay it</td>
            </tr>
          )}
        </tbody>
        <Totals
          page={page}
          before={[
            <td key="a" className="wide" aria-hidden="true" />,
            <td key="l" className="wide">
              {money(figures.low)}
            </td>,
          ]}
          after={[
            <td key="h" className="wide">
              {money(figures.high)}
            </td>,
            <td key="r" className="wide">
              {figures.hours} h
            </td>,
          ]}
          name="All work and materials"
        />
      </table>
    </section>
  );
}

const restsOn = (r: Schemas["EstimateRow"]) =>
  r.middle == null ? "our rule of thumb" : `${r.jobs.length} ${r.jobs.length === 1 ? "job" : "jobs"}, ${r.middle.toFixed(2)}`;

function ChangeTable({ page }: { page: Page }) {
  return (
    <section>
      <h2>What it is made of</h2>
      <table>
        <thead>
          <tr>
            <th>Work</th>
            <th className="wide">hours</th>
            <th className="wide">labour</th>
            <th className="wide">parts, materials</th>
            <th>together</th>
          </tr>
        </thead>
        <tbody>
          {page.lines.map((l) => (
            <tr key={`${l.text}${l.finding}`}>
              <th scope="row">
                {l.text}
                {l.finding !== null && <small className="block font-[450] text-ink2">finding {l.finding} of the survey</small>}
              </th>
              <td className="wide">{l.minutes !== 0 ? hours(l.minutes) : ""}</td>
              <td className="wide">{money(l.labour)}</td>
              <td className="wide">{money(l.goods)}</td>
              <td className="font-[680]">{money(l.net)}</td>
            </tr>
          ))}
        </tbody>
        <Totals
          page={page}
          before={[<td key="a" className="wide" />, <td key="b" className="wide" />, <td key="c" className="wide" />]}
          after={[]}
          name="Together, before tax"
        />
      </table>
      {page.agreedBefore !== null && (
        <table>
          <tbody>
            <tr>
              <th scope="row">Agreed so far, before tax</th>
              <td>{money(page.agreedBefore)}</td>
            </tr>
            <tr>
              <th scope="row">Agreed with this, before tax</th>
              <td className="font-[680]">{money(page.agreedBefore + page.totals.net)}</td>
            </tr>
          </tbody>
        </table>
      )}
    </section>
  );
}

function Totals({ page, before, after, name }: { page: Page; before: ReactNode[]; after: ReactNode[]; name: string }) {
  const gap = before.map((_, i) => <td key={i} className="wide" aria-hidden="true" />);
  const tail = after.map((_, i) => <td key={i} className="wide" aria-hidden="true" />);
  return (
    <tfoot>
      <tr>
        <th scope="row">{name}</th>
        {before}
        <td>{money(page.totals.net)}</td>
        {after}
      </tr>
      {page.totals.tax.map((t) => (
        <tr key={t.kind} className="light">
          <th scope="row">
            {agreedPrice(page) ? "Tax" : `Tax on ${words(KIND_NAMES[t.kind])}`}, {t.percent} % of {money(t.net)}
          </th>
          {gap}
          <td>{money(t.tax)}</td>
          {tail}
        </tr>
      ))}
      <tr>
        <th scope="row">{page.kind === "estimate" && !agreedPrice(page) ? "Likely, with tax" : "With tax"}</th>
        {gap}
        <td>{money(page.totals.gross)}</td>
        {tail}
      </tr>
    </tfoot>
  );
}

function Listed({ title, items }: { title: string; items: string[] }) {
  if (items.length === 0) return null;
  return (
    <section className="whole">
      <h2>{title}</h2>
      <ul>
        {items.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
    </section>
  );
}
