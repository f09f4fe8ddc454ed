import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { moneyQuery, useMay } from "../api/queries";
import { day, hm, money, today } from "../format";
import { NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { useThisBuild } from "./useBuild";

const NAMES: Record<string, string> = {
  labour: "Labour",
  parts: "Parts",
  outside: "Work sent out",
  materials: "Paint and materials",
  contract: "Contract",
};

export function MoneyTab() {
  const card = useThisBuild();
  const sums = useQuery(moneyQuery(card.id));
  const [open, setOpen] = useState<string | null>("labour");
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
                    <th>Net, against the estimate</th>
                    <th />
                    <th className="num">Estimate</th>
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
                          aria-expanded={open === k.kind}
                          onClick={() => setOpen(open === k.kind ? null : k.kind)}
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
              {open && <Lines money={m} kind={open} />}
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
          {row(t.balance < 0 ? "In hand for the client" : "Owed by the client", Math.abs(t.balance), true)}
        </tbody>
      </table>
      {t.limit !== null && <p className="text-ink2 mt-1">Capped at {money(t.limit)} net.</p>}
      <p className="mt-2">
        {m.cover.now < 0 ? (
          <span className="text-oxide font-[640]">The deposit is used up.</span>
        ) : m.cover.runsOut ? (
          <>
            The deposit covers the planned hours until <b>{day(m.cover.runsOut)}</b>; {money(m.cover.topUpNeeded)} more is needed to the
            end.
          </>
        ) : (
          "The deposit covers all planned hours."
        )}
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
          <h2 className="mt-4">Margin, for your eyes</h2>
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
      except={["amount", "on", "note"]}
      busy={send.isPending}
    >
      <NumberField label="Amount" name="amount" value={amount} onChange={setAmount} problem={send.error} />
      <TextField label="On" type="date" name="on" value={on} onChange={setOn} problem={send.error} />
      <TextField className="col-span-2" label="Note" name="note" value={note} onChange={setNote} problem={send.error} />
    </FormSheet>
  );
}
