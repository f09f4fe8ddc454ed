import type { Schemas } from "../api/client";
import { COAT_ORDER, coatName, day, hm, longDay, money, stageName, weekday } from "../format";
import { CostBar } from "../money/MoneyTab";
import { PagePicture } from "../photos/PagePicture";
import { PanelMap } from "../pictures/PanelMap";
import { Strata } from "../pictures/Strata";
import { PAPER } from "../tokens";
import { Ready } from "./Ready";

type Page = Schemas["ReportPage"];

const KINDS: Record<string, string> = {
  labour: "Labour",
  parts: "Parts",
  outside: "Work sent out",
  materials: "Paint and materials",
  contract: "Agreed price",
};

/** The client's page: the same on screen, in the preview and on paper. */
export function ReportView({ page, body, photo }: { page: Page; body: Schemas["BodyView"]; photo: (hash: string) => string }) {
  const cents = (v: number) => money(v);
  const picture = (p: Schemas["PagePhoto"]) => <PagePicture key={p.id} of={p} photo={photo} />;
  return (
    <article className="rep">
      <header>
        <b>{page.shop}</b>
        <span>{page.place}</span>
        <span className="right">
          Report {page.number}, {longDay(page.on)}
        </span>
        <span>
          for {page.for}, from {page.from}
        </span>
      </header>
      <div className="first">
        <section>
          <h1>{page.title}</h1>
          <p className="lede">{page.lede}</p>
          <h2>When it will be ready</h2>
          <Ready page={page} />
        </section>
        <section>
          {page.decisions.map((d) => (
            <Decision key={d.question} decision={d} photo={photo} />
          ))}
          {page.decisions.length === 0 && <Today page={page} body={body} width={656} height={400} />}
        </section>
      </div>
      {(page.photos.length > 0 || page.decisions.length > 0) && (
        <section className="mt-6 pt-[10px] border-t border-paper-rule">
          <h2>{page.number === 1 ? "Pictures" : "Since the last report"}</h2>
          <div className="photos">
            {page.photos.slice(0, 2).map(picture)}
            {page.decisions.length > 0 && <Today page={page} body={body} width={375} height={250} />}
            {page.photos.slice(2).map(picture)}
          </div>
        </section>
      )}
      {page.declined && page.declined.length > 0 && (
        <section className="ruled whole">
          <h2>What you decided against</h2>
          <p>
            {page.declined.join(", ")}: we count this as load-bearing. It was not repaired, and work that rests on it waits until we have
            talked. Whether a vehicle may be used without it is for whoever inspects vehicles where you are.
          </p>
        </section>
      )}
      <div className="three">
        <Lists title="Done" items={page.done} none="Nothing was finished in this time." />
        <Lists title="Next" items={page.next} none="Nothing is planned." />
        <Lists
          title="What we wait for"
          items={page.waiting.map((w) => `${w.what}${w.where && `, from ${w.where}`}${w.until ? `, here ${day(w.until)}` : ""}`)}
          none="Nothing that is on its way."
        />
      </div>
      <section className="ruled whole">
        <h2>Hours</h2>
        <p className="text-ink2">
          Each coat is a stage, as thick as its estimate. Colour is work done, the black line is hours spent, hatching is hours over.{" "}
          {hm(page.sinceMinutes)} h were worked {page.number === 1 ? "so far" : "since the last report"}.
        </p>
        <div className="max-w-[720px]">
          <Strata
            layers={page.stages.map((s) => ({
              stage: s.stage,
              budget: s.budgetMinutes,
              earned: s.earnedMinutes,
              spent: s.spentMinutes,
              rework: 0,
            }))}
            paint={page.colourHex}
            ground={PAPER}
            width={640}
            height={340}
            over={false}
          />
        </div>
        <div className="sr-only">
          <table aria-label="Hours by stage">
            <tbody>
              {page.stages.map((s) => (
                <tr key={s.stage}>
                  <th>{stageName(s.stage)}</th>
                  <td>{hm(s.spentMinutes)}</td>
                  <td>{hm(s.budgetMinutes)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
      <section className="ruled whole">
        <h2>Cost</h2>
        <table>
          <thead>
            <tr>
              <th>Without tax</th>
              <th />
              <th>Estimate</th>
              <th>To date</th>
            </tr>
          </thead>
          <tbody>
            {page.costs.map((c) => (
              <tr key={c.kind}>
                <th>{KINDS[c.kind] ?? c.kind}</th>
                <td>
                  <CostBar
                    estimate={c.estimate}
                    net={c.net}
                    most={Math.max(...page.costs.map((x) => Math.max(x.estimate, x.net)))}
                    paint={page.colourHex}
                  />
                </td>
                <td>{cents(c.estimate)}</td>
                <td>{cents(c.net)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th>Total</th>
              <td />
              <td>{cents(page.totals.estimate)}</td>
              <td>{cents(page.totals.net)}</td>
            </tr>
          </tfoot>
        </table>
        <table className="max-w-[440px] ml-auto" aria-label="Account">
          <tbody>
            <Line name="Tax" value={cents(page.totals.tax)} />
            <Line name="With tax" value={cents(page.totals.gross)} />
            {page.totals.retention !== 0 && <Line name="Held back by agreement" value={cents(-page.totals.retention)} />}
            <Line name="Paid so far" value={cents(page.totals.paid)} />
            <Line name={page.totals.balance < 0 ? "Your credit" : "Due"} value={cents(Math.abs(page.totals.balance))} strong />
          </tbody>
        </table>
        {page.adjusted.length > 0 && (
          <div className="mt-3">
            <h3 className="text-[14px] font-[700]">Adjusted since report {page.adjusted[0]?.report}</h3>
            <ul>
              {page.adjusted.map((a) => (
                <li key={a.what} className="border-t border-paper-rule py-1">
                  {a.what}:{" "}
                  {a.minutes !== null
                    ? `${a.minutes > 0 ? "+" : ""}${hm(a.minutes)} h`
                    : `${(a.amount ?? 0) > 0 ? "+" : ""}${cents(a.amount ?? 0)}`}
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <p className="text-ink2 mt-6 text-[12.5px]">
        Dates are likely ones and no promise. Nothing here says how long a repair will last or that a vehicle is safe to drive. Questions:{" "}
        {page.shop}
        {page.phone && `, ${page.phone}`}.
      </p>
    </article>
  );
}

function Line({ name, value, strong }: { name: string; value: string; strong?: boolean }) {
  return (
    <tr className={strong ? "font-[720]" : ""}>
      <th className={strong ? "" : "!font-[450]"}>{name}</th>
      <td>{value}</td>
    </tr>
  );
}

function Lists({ title, items, none }: { title: string; items: string[]; none: string }) {
  return (
    <section>
      <h2>{title}</h2>
      {items.length === 0 ? (
        <p className="text-ink2">{none}</p>
      ) : (
        <ul>
          {items.map((t, i) => (
            <li key={t + i}>{t}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The body in the coats it wears, and the same in words. */
function Today({ page, body, width, height }: { page: Page; body: Schemas["BodyView"]; width: number; height: number }) {
  const worn = COAT_ORDER.map((c) => [c, page.body.panels.filter((p) => p.coat === c && p.held !== "away").length] as const);
  const away = page.body.panels.filter((p) => p.held === "away").length;
  const words = [...worn.filter(([, n]) => n > 0).map(([c, n]) => `${n} ${coatName(c)}`), ...(away > 0 ? [`${away} away`] : [])];
  return (
    <figure>
      <PanelMap
        body={body}
        states={page.body.panels}
        paint={page.colourHex}
        width={width}
        height={height}
        labels={false}
        ruler={false}
        legend={false}
        lying
      />
      <figcaption>
        <b className="text-ink font-[660]">Your vehicle today, laid flat.</b> {words.length > 0 && `Panels: ${words.join(", ")}.`}
      </figcaption>
    </figure>
  );
}

function Decision({ decision: d, photo }: { decision: Schemas["PageDecision"]; photo: (hash: string) => string }) {
  return (
    <div className="ask mb-5">
      <div className="flex justify-between items-baseline gap-4">
        <h2>For you to decide</h2>
        <p className="text-oxide font-[660] whitespace-nowrap">by {weekday(d.dueOn)}</p>
      </div>
      <div className={d.photo ? "shown" : ""}>
        {d.photo && (
          <figure>
            <img
              src={photo(d.photo.hash)}
              alt={d.photo.caption || "Workshop photo"}
              width={d.photo.width}
              height={d.photo.height}
              className="w-full h-auto"
            />
            <figcaption>{d.photo.caption}</figcaption>
          </figure>
        )}
        <DecisionWords decision={d} />
      </div>
    </div>
  );
}

function DecisionWords({ decision: d }: { decision: Schemas["PageDecision"] }) {
  return (
    <div>
      <p className="text-[17px] font-[660] leading-[1.25] mb-1">{d.question}</p>
      <p>{d.detail}</p>
      <table>
        <tbody>
          {d.adds !== null && (
            <tr>
              <th>Adds to the estimate, without tax</th>
              <td className="font-[720]">{money(d.adds)}</td>
            </tr>
          )}
          {d.likelyNow && (
            <tr>
              <th className="!font-[450]">Likely ready, if you tell us today</th>
              <td>{day(d.likelyNow)}</td>
            </tr>
          )}
          {d.likelyOpen && d.likelyOpen !== d.likelyNow && (
            <tr>
              <th className="!font-[450]">Likely ready, with no answer until then</th>
              <td>{day(d.likelyOpen)}</td>
            </tr>
          )}
        </tbody>
      </table>
      <p className="mt-2 font-[640]">
        Please call {d.call}
        {d.phone && (
          <>
            {" "}
            on <a href={`tel:${d.phone.replace(/\s/g, "")}`}>{d.phone}</a>
          </>
        )}
        .
      </p>
    </div>
  );
}
