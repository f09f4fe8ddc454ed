import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { moneyQuery, useMay } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { day, hm, money, today } from "../format";
import { NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";

const NAMES: Record<string, string> = {
  labour: "Labour",
  parts: "Parts",
  outside: "Work sent out",
  materials: "Paint and materials",
  contract: "Agreed price",
  overCap: "Above the cap",
  storage: "Storage",
};

export function MoneyTab() {
  const card = useThisBuild();
  const sums = useQuery(moneyQuery(card.id));
  const [open, setOpen] = useState<string | null>(null);
  const [paying, setPaying] = useState(false);
  return (
    <div className="px-5 pt-3 pb-10 max-w-[1240px]">
      <h1 className="mb-2">Money</h1>
      <Shown of={sums}>
        {(m) => (
          <div className="grid grid-cols-[minmax(0,1fr)_380px] max-[900px]:grid-cols-1 gap-8">
            <section aria-label="Against the estimate">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Net, against {m.totals.accepted ? "what was agreed" : "the rough estimate"}</th>
                    <th />
                    <th className="num">{m.totals.accepted ? "Agreed" : "Rough estimate"}</th>
                    <th className="num">To date</th>
                  </tr>
                </thead>
                <tbody>
                  {m.kinds.map((k) => (
                    <tr key={k.kind}>
                      <td>
                        <button
                          type="button"
                          className="btn btn-quiet !px-0"
                          aria-expanded={(open ?? m.kinds[0]?.kind) === k.kind}
                          onClick={() => setOpen(k.kind)}
                        >
                          {NAMES[k.kind] ?? k.kind}
                        </button>
                      </td>
                      <td>
                        <CostBar
                          estimate={k.estimate}
                          net={k.net}
                          most={Math.max(...m.kinds.map((x) => Math.max(x.estimate, x.net)))}
                          paint={card.colourHex}
                        />
                      </td>
                      <td className="num">{money(k.estimate)}</td>
                      <td className={`num font-[640] ${k.net > k.estimate && k.estimate > 0 ? "text-oxide" : ""}`}>{money(k.net)}</td>
                    </tr>
                  ))}
                </tbody>
                <tfoot>
                  <tr className="font-[720]">
                    <td>Total, net</td>
                    <td />
                    <td className="num">{money(m.totals.estimate)}</td>
                    <td className="num">{money(m.totals.net)}</td>
                  </tr>
                </tfoot>
              </table>
              <Ahead money={m} />
              {(open ?? m.kinds[0]?.kind) && <Lines money={m} kind={open ?? m.kinds[0]?.kind ?? ""} />}
              {m.notBilled.length > 0 && (
                <details className="mt-3">
                  <summary className="font-[640] cursor-pointer">Worked and not billed: {hm(m.totals.notBilledMinutes)} h</summary>
                  <ul className="text-ink2">
                    {m.notBilled.map((n) => (
                      <li key={n.id}>
                        {n.text}, {hm(n.minutes ?? 0)}
                      </li>
                    ))}
                  </ul>
                </details>
              )}
            </section>
            <Account money={m} onPay={() => setPaying(true)} />
          </div>
        )}
      </Shown>
      {paying && <PaySheet buildId={card.id} onClose={() => setPaying(false)} />}
    </div>
  );
}

/** Track is the estimate, fill is to date, hatch is what passes it; one scale for all kinds. */
export function CostBar({
  estimate,
  net,
  most,
  paint,
  width = 190,
}: {
  estimate: number;
  net: number;
  most: number;
  paint: string;
  width?: number;
}) {
  const w = (v: number) => (most > 0 ? (width * v) / most : 0);
  return (
    <svg width={width} height="12" aria-hidden="true">
      <rect y="1" width={w(estimate)} height="10" fill="#CDBF9F" fillOpacity=".8" />
      <rect y="1" width={w(Math.min(net, Math.max(estimate, 0)))} height="10" fill={paint} />
      {net > estimate && <rect x={w(estimate)} y="1" width={w(net - estimate)} height="10" fill="#9A3A1E" fillOpacity=".55" />}
    </svg>
  );
}

function Lines({ money: m, kind }: { money: Schemas["BuildMoneyView"]; kind: string }) {
  const may = useMay();
  const [why, setWhy] = useState<string | null>(null);
  const lines = m.lines.filter((l) => l.kind === kind);
  return (
    <section className="mt-4" aria-label={`Lines of ${NAMES[kind] ?? kind}`}>
      <h2>{NAMES[kind] ?? kind}</h2>
      {lines.length === 0 ? (
        <p className="text-ink2">Nothing yet.</p>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th>Line</th>
              <th>How</th>
              <th className="num">Net</th>
              <th className="num">Tax</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => (
              <tr key={l.id}>
                <td>
                  {l.entries.length > 0 ? (
                    <button
                      type="button"
                      className="btn btn-quiet !px-0 text-left"
                      aria-expanded={why === l.id}
                      onClick={() => setWhy(why === l.id ? null : l.id)}
                    >
                      {l.text}
                    </button>
                  ) : (
                    l.text
                  )}
                  {why === l.id && (
                    <ul className="text-ink2 mt-1">
                      {l.entries.map((e) => (
                        <li key={e.id}>
                          {e.text}
                          {e.minutes !== null && `, ${hm(e.minutes)}`}
                          {e.amount !== null && (may.desk ? `, ${money(e.amount)}` : "")}
                        </li>
                      ))}
                    </ul>
                  )}
                </td>
                <td className="text-ink2">{l.formula}</td>
                <td className="num">{money(l.net)}</td>
                <td className="num">{money(l.tax)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Account({ money: m, onPay }: { money: Schemas["BuildMoneyView"]; onPay: () => void }) {
  const t = m.totals;
  const row = (name: string, value: number, strong = false) => (
    <tr className={strong ? "font-[720]" : ""}>
      <td>{name}</td>
      <td className="num">{money(value)}</td>
    </tr>
  );
  return (
    <section aria-label="Account">
      <h2>Account</h2>
      <table className="rows">
        <tbody>
          {row("Net to date", t.net)}
          {row("Tax", t.tax)}
          {row("Gross", t.gross, true)}
          {t.retention !== 0 && row("Retention held back", -t.retention)}
          {row("Paid", t.paid)}
          {row(t.balance < 0 ? "Credit of the client" : "Owed by the client", Math.abs(t.balance), true)}
        </tbody>
      </table>
      {t.contract === "capped" && t.limit !== null && (
        <p className="text-ink2 mt-1">
          At most {money(t.limit)} net{t.changesApproved !== 0 && `, with ${money(t.changesApproved)} of approved changes`}.
        </p>
      )}
      {t.changesPending !== 0 && <p className="text-ink2 mt-1">{money(t.changesPending)} net waits for the client’s answer.</p>}
      <p className="mt-2">
        <Cover of={m.cover} />
      </p>
      <div className="flex items-baseline mt-4 mb-1">
        <h2 className="flex-1">Payments</h2>
        <button type="button" className="btn" onClick={onPay}>
          Book a payment
        </button>
      </div>
      <table className="rows">
        <tbody>
          {m.payments.map((p) => (
            <tr key={p.id}>
              <td>{day(p.on)}</td>
              <td>{p.note}</td>
              <td className="num">{money(p.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {m.margin && (
        <>
          <h2 className="mt-4">Margin, not shown to the client</h2>
          <table className="rows">
            <tbody>
              {row("Bill, net", m.margin.bill)}
              {row("Wages", -m.margin.labour)}
              {row("Parts at cost", -m.margin.parts)}
              {row("Outside at cost", -m.margin.outside)}
              {row("Materials at cost", -m.margin.materials)}
              {row("Leaves", m.margin.margin ?? 0, true)}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}

/** How far what was paid reaches; the sum that is short is the same that the plan names. */
function Cover({ of: c }: { of: Schemas["CoverView"] }) {
  if (c.topUpNeeded === 0) return <>What was paid covers all that is still to come.</>;
  if (c.now < 0)
    return <span className="text-oxide font-[640]">What was paid is used up; {money(c.topUpNeeded)} with tax is needed to the end.</span>;
  return (
    <>
      What was paid covers the work{" "}
      {c.runsOut ? (
        <>
          until <b>{day(c.runsOut)}</b>
        </>
      ) : (
        "for a while"
      )}
      ; {money(c.topUpNeeded)} more with tax is needed to the end.
    </>
  );
}

/** What the bill comes to when all is done, by the hours that such work takes here. */
function Ahead({ money: m }: { money: Schemas["BuildMoneyView"] }) {
  const t = m.totals;
  return (
    <p className="mt-2">
      At the end the bill likely comes to <b>{money(t.atEnd)}</b> net, {money(t.atEndGross)} with tax
      {t.contract === "timeAndMaterials"
        ? t.estimate > 0 && t.aboveEstimate > 0
          ? `: ${money(t.aboveEstimate)} above ${t.accepted ? "what was agreed" : "the rough estimate"}.`
          : "."
        : t.notBillable > 0
          ? `. The work itself comes to ${money(t.workAtEnd)}: ${money(t.notBillable)} of it cannot be billed.`
          : `. The work itself comes to ${money(t.workAtEnd)}.`}
    </p>
  );
}

function PaySheet({ buildId, onClose }: { buildId: string; onClose: () => void }) {
  const [id] = useState(() => newId());
  const [amount, setAmount] = useState<number | null>(null);
  const [on, setOn] = useState(today());
  const [note, setNote] = useState("");
  const send = useSend(
    () => ask(api.POST("/api/builds/{id}/payments", { params: { path: { id: buildId } }, body: { id, on, amount: amount ?? 0, note } })),
    { says: "Booked", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      afterEnd
      title="Book a payment"
      note="Tax included; a refund is negative."
      action="Book"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <NumberField label="Amount" name="amount" value={amount} onChange={setAmount} />
      <TextField label="On" type="date" name="on" value={on} onChange={setOn} />
      <TextField className="col-span-2" label="Note" name="note" value={note} onChange={setNote} />
    </FormSheet>
  );
}
