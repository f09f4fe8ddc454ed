import type { Schemas } from "../api/client";
import { CostBar } from "../builds/MoneyTab";
import { dateOf, day, hm, longDay, money, stageName, weekday } from "../format";
import { PanelMap } from "../pictures/PanelMap";
import { Strata } from "../pictures/Strata";
import { INK, OXIDE, PAPER } from "../tokens";

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
          <div className="two">
            <Lists title="Done" items={page.done} none="Nothing was finished in this time." />
            <Lists title="Next" items={page.next} none="Nothing is planned." />
          </div>
        </section>
        <section>
          {page.decisions.map((d) => (
            <Decision key={d.question} decision={d} />
          ))}
          <h2 className="mb-2">Your vehicle today</h2>
          <PanelMap
            body={body}
            states={page.body.panels}
            paint={page.colourHex}
            width={656}
            height={page.decisions.length > 0 ? 420 : 540}
            labels={false}
            ruler={false}
          />
        </section>
      </div>
      {page.photos.length > 0 && (
        <section className="mt-6 pt-[10px] border-t border-paper-rule">
          <h2>{page.number === 1 ? "Pictures" : "Since the last report"}</h2>
          <div className="photos">
            {page.photos.map((p) => (
              <figure key={p.id}>
                <img src={photo(p.hash)} alt={p.caption || "Workshop photo"} width={p.width} height={p.height} className="w-full h-auto" />
                <figcaption>
                  <b className="text-ink font-[660]">{p.caption || "Workshop"}</b> {p.by}, {day(dateOf(p.takenAt))}
                </figcaption>
              </figure>
            ))}
          </div>
        </section>
      )}
      {page.waiting.length > 0 && (
        <section className="mt-5">
          <h2>What we wait for</h2>
          <ul>
            {page.waiting.map((w) => (
              <li key={w.what} className="border-t border-paper-rule py-1">
                {w.what}
                {w.where && `, from ${w.where}`}
                {w.until && `, here ${day(w.until)}`}
              </li>
            ))}
          </ul>
        </section>
      )}
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
        <table aria-label="Hours by stage" className="sr-only">
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
            <Line name={page.totals.balance < 0 ? "In hand for you" : "Due"} value={cents(Math.abs(page.totals.balance))} strong />
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

function Decision({ decision: d }: { decision: Schemas["PageDecision"] }) {
  return (
    <div className="ask mb-5">
      <div className="flex justify-between items-baseline gap-4">
        <h2>For you to decide</h2>
        <p className="text-oxide font-[660] whitespace-nowrap">by {weekday(d.dueOn)}</p>
      </div>
      <p className="text-[17px] font-[660] leading-[1.25] mt-2 mb-1">{d.question}</p>
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

/** A line of days from the report to the likely day, with promise and milestones; length is days. */
function Ready({ page }: { page: Page }) {
  const [w, h] = [452, 126];
  const at = (date: string) => new Date(`${date}T00:00:00Z`).getTime() / 86_400_000;
  const from = at(page.on);
  const marks = [page.likely, page.promised, ...page.milestones.map((m) => m.on)].filter((d): d is string => d !== null);
  const to = Math.max(from + 14, ...marks.map(at)) + 7;
  const x = (date: string) => ((at(date) - from) / (to - from)) * (w - 40);
  const months: string[] = [];
  for (let d = new Date(`${page.on.slice(0, 7)}-01T00:00:00Z`); d.getTime() / 86_400_000 < to; d.setUTCMonth(d.getUTCMonth() + 1)) {
    const iso = d.toISOString().slice(0, 10);
    if (at(iso) > from) months.push(iso);
  }
  const late = page.promised && page.likely && page.likely > page.promised;
  const words = [page.likely ? `likely ready ${day(page.likely)}` : "no date yet", page.promised && `promised ${day(page.promised)}`]
    .filter(Boolean)
    .join(", ");
  const step = months.length > 14 ? 3 : months.length > 7 ? 2 : 1;
  return (
    <figure>
      <svg viewBox={`0 0 ${w} ${h}`} className="block w-full" role="img" aria-label={words}>
        <text x="0" y="12" fontSize="12.5" fontWeight="680" fill={INK}>
          Today
        </text>
        <path d={`M0.8,20V${h - 8}`} stroke={INK} strokeWidth="1.6" />
        {months
          .filter((_, i) => i % step === 0)
          .map((m) => (
            <g key={m}>
              <path d={`M${x(m)},20V${h - 8}`} stroke="#CDBF9F" />
              {x(m) > 40 && (
                <text x={x(m) + 3} y="12" fontSize="12.5" fill="#50585B">
                  {new Date(`${m}T00:00:00Z`).toLocaleString("en-GB", { month: "short", timeZone: "UTC" })}
                </text>
              )}
            </g>
          ))}
        {page.likely && (
          <>
            <path d={`M0,55L${x(page.likely) * 0.9},48L${x(page.likely)},55L${x(page.likely) * 0.9},62Z`} fill={page.colourHex} />
            <path d={`M${x(page.likely)},40V70`} stroke={INK} strokeWidth="2" />
            <text x={Math.min(x(page.likely) + 6, w - 52)} y="45" fontSize="15" fontWeight="720" fill={INK}>
              {day(page.likely)}
            </text>
          </>
        )}
        {page.promised && (
          <g stroke={late ? OXIDE : INK} fill="none" strokeWidth="1.5">
            <path d={`M${x(page.promised)},${h - 30}V24l-14,5l14,5`} />
            <text
              x={Math.max(2, x(page.promised) - 6)}
              y={h - 36}
              textAnchor={x(page.promised) > 120 ? "end" : "start"}
              fontSize="12.5"
              fontWeight="620"
              fill={late ? OXIDE : INK}
              stroke="none"
            >
              promised {day(page.promised)}
            </text>
          </g>
        )}
        {page.milestones
          .filter((m) => at(m.on) > from)
          .map((m) => (
            <g key={m.name}>
              <circle cx={x(m.on)} cy={h - 18} r="3" fill={INK} />
              <text x={x(m.on)} y={h - 2} textAnchor="middle" fontSize="11" fill="#50585B">
                {m.name}
              </text>
            </g>
          ))}
      </svg>
      <figcaption>Upright mark: the likely day by today's plan. Flag: the day that was promised.</figcaption>
    </figure>
  );
}
