import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { datumQuery, Ended, useUser } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { dateOf, day, lengthUnit } from "../format";
import { BenchLink } from "../ui/BenchLink";
import { AreaField, ChoiceField, NumberField, TextField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { Shown } from "../ui/States";
import { useSend } from "../ui/useSend";
import { DatumPicture } from "./DatumPicture";
import { DATUM_ROUNDS, type Datum, datumRoundName, lastRoundOf, type Point, pointName, roundOf, TOOLS, wayWords } from "./datumWords";
import { mm, type Unit } from "./fitWords";

type Open = "sheet" | "file" | "figures" | "read" | null;

/** The shell against its reference sheet: what is bent, what moved, where its middle is. */
export function DatumTab() {
  const card = useThisBuild();
  const datum = useQuery(datumQuery(card.id));
  const role = useUser()?.role;
  const ended = useContext(Ended);
  const may = (role === "manager" || role === "technician") && !ended;
  const [open, setOpen] = useState<Open>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <Shown of={datum}>
      {(d) => (
        <div className="datum">
          <div className="bg-guide text-chalk on-guide">
            {d.points.length > 0 ? (
              <DatumPicture of={d} width={860} chosen={chosen} onPick={setChosen} />
            ) : (
              <p className="p-6 max-w-[60ch]">
                No reference sheet yet. It says where the points of a sound shell lie, and from which drawing that is known; then the shell
                is read against it before anything is cut.
              </p>
            )}
          </div>
          <section className="side px-5 pt-[14px] pb-6">
            <h1 className="text-[16px] font-[720] flare">
              Datum{" "}
              <small className="font-[450] text-ink2 text-[12.5px]">
                {d.version === null
                  ? "no sheet"
                  : `${[d.drawing, d.revision && `revision ${d.revision}`, d.page && `page ${d.page}`].filter(Boolean).join(", ")}; ${d.points.length} points`}
              </small>
            </h1>
            {d.fits.map((x) => (
              <p key={x.round} className={x.why ? "text-oxide" : "text-ink2"}>
                {datumRoundName(x.round)}:{" "}
                {x.why ||
                  `laid on the sheet by the ${x.agree} that agree, ${mm(x.rmsMm ?? 0)} mm off on average${
                    x.bent.length > 0 ? `; bent: ${x.bent.join(", ")}` : ""
                  }${x.isSearched ? "" : ". More than twelve points: the worst was left out one after another"}`}
              </p>
            ))}
            {may && (
              <p className="flex flex-wrap gap-2 my-2">
                {d.version !== null && (
                  <button type="button" className="btn btn-ink" onClick={() => setOpen("read")}>
                    Read a point
                  </button>
                )}
                {d.version !== null && (
                  <button type="button" className="btn" onClick={() => setOpen("file")}>
                    Readings from a file
                  </button>
                )}
                <button type="button" className="btn" onClick={() => setOpen("sheet")}>
                  {d.version === null ? "Enter the reference sheet" : "Another sheet"}
                </button>
                {d.version !== null && (
                  <button type="button" className="btn" onClick={() => setOpen("figures")}>
                    Axles and corners
                  </button>
                )}
              </p>
            )}
            {d.points.length > 0 && <PointRows of={d} chosen={chosen} onPick={setChosen} />}
            {chosen && <OnePoint of={d} point={d.points.find((p) => p.key === chosen)} may={may} />}
            <Figures of={d} />
          </section>
          {open === "sheet" && <SheetFile of={d} onClose={() => setOpen(null)} />}
          {open === "file" && <ReadingsFile of={d} onClose={() => setOpen(null)} />}
          {open === "figures" && <FiguresSheet of={d} onClose={() => setOpen(null)} />}
          {open === "read" && <ReadPoint of={d} from={chosen} onClose={() => setOpen(null)} />}
        </div>
      )}
    </Shown>
  );
}

function PointRows({ of: d, chosen, onPick }: { of: Datum; chosen: string | null; onPick: (key: string) => void }) {
  const off = (p: Point, r: Schemas["DatumRound"]) => {
    const at = roundOf(p, r);
    return <td className={`num ${at?.isBent ? "text-oxide font-[680]" : ""}`}>{at?.off ? mm(at.off.length) : at ? "read" : ""}</td>;
  };
  return (
    <table className="line-rows datum-rows" aria-label="Points">
      <thead>
        <tr>
          <th scope="col">Point, mm off</th>
          <th scope="col" className="num">
            before
          </th>
          <th scope="col" className="num">
            after
          </th>
          <th scope="col" className="num">
            moved
          </th>
        </tr>
      </thead>
      <tbody>
        {d.points.map((p) => (
          <tr key={p.key} className={chosen === p.key ? "line-chosen" : undefined}>
            <th scope="row">
              <button type="button" aria-pressed={chosen === p.key} onClick={() => onPick(p.key)}>
                <b>{p.key}</b>
                <span>
                  {p.typed.name} {p.typed.isProtected && <small className="text-ink2">must stay</small>}
                </span>
              </button>
            </th>
            {off(p, "beforeCut")}
            {off(p, "afterCut")}
            <td className="num">{p.moved ? mm(p.moved.length) : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function OnePoint({ of: d, point: p, may }: { of: Datum; point: Point | undefined; may: boolean }) {
  const back = useSend((id: string) => ask(api.POST("/api/datum-readings/{id}/take-back", { params: { path: { id } } })), {
    says: "Taken back",
  });
  if (!p) return null;
  return (
    <section aria-label={pointName(p)}>
      <h2>{pointName(p)}</h2>
      <p className="text-ink2">
        On the sheet: {mm(p.at.x)} back, {mm(Math.abs(p.at.y))} {p.at.y < 0 ? "right" : "left"}, {mm(p.at.z)} up.
        {p.typed.isProtected && " It is a reference: it must survive the cut."}
      </p>
      {p.rounds.map((r) => (
        <p key={r.round} className="mt-1">
          <b className="font-[640]">{datumRoundName(r.round)}</b>
          {r.off && (
            <span className={r.isBent ? "text-oxide" : ""}>
              : {mm(r.off.length)} off, {wayWords(r.off, p.typed.side)}
            </span>
          )}
          .{" "}
          <span className="text-ink2">
            {TOOLS.find(([t]) => t === r.tool)?.[1]}
            {r.instrument && ` ${r.instrument}`}, {r.by}, {day(dateOf(r.readAt))}
          </span>{" "}
          {may && (
            <button type="button" className="btn btn-quiet !px-0" onClick={() => back.mutate(r.readingId)}>
              Take it back
            </button>
          )}
        </p>
      ))}
      {p.rounds.some((r) => r.isBent && r.round === lastRoundOf(d)) && (
        <p className="mt-1">Pull it back by what it is off, then read all points again: a pull moves its neighbours.</p>
      )}
    </section>
  );
}

const signed = (v: number, more: string, less: string) =>
  Math.abs(v) < 0.05 ? "in the middle" : `${mm(Math.abs(v))} ${v > 0 ? more : less}`;

/** Square, middle, axles and twist, each with its sum. */
function Figures({ of: d }: { of: Datum }) {
  const card = useThisBuild();
  const m = d.mirror;
  const rows: [string, string, string][] = [];
  if (d.diagonals)
    rows.push([
      "Diagonals",
      `${d.diagonals.leftToRight.toFixed(1)} − ${d.diagonals.rightToLeft.toFixed(1)}`,
      `${(d.diagonals.leftToRight - d.diagonals.rightToLeft).toFixed(1)} mm`,
    ]);
  if (m)
    rows.push(
      [
        "Middle of the shell",
        `${signed(m.frontOffMm, "left", "right")} in front, ${signed(m.rearOffMm, "left", "right")} behind`,
        `${Math.abs(m.angleDeg).toFixed(2)}°`,
      ],
      ["Out of mirror", `${m.pairs} pairs, the worst`, `${mm(m.worstMm)} mm`],
    );
  for (const [name, c] of [
    ["before", d.before],
    ["after", d.after],
  ] as const) {
    const x = c.figures;
    if (c.skewDeg != null)
      rows.push([`Skew, ${name}`, `atan((${x.wheelbaseLeftMm} − ${x.wheelbaseRightMm}) / ${x.trackMm})`, `${c.skewDeg.toFixed(3)}°`]);
    if (c.offCentreMm != null)
      rows.push([`Rear axle, ${name}`, `(${x.axleRightMm} − ${x.axleLeftMm}) / 2`, signed(c.offCentreMm, "right", "left")]);
    if (c.twistMm != null)
      rows.push([
        `Twist, ${name}`,
        `|${x.heightFrontLeftMm} − ${x.heightFrontRightMm} − ${x.heightRearLeftMm} + ${x.heightRearRightMm}| / 4; gap under the fourth corner ${mm(c.cornerGapMm ?? 0)}`,
        `${mm(c.twistMm)} mm`,
      ]);
  }
  if (rows.length === 0) return null;
  return (
    <section>
      <h2>Square, axles, twist</h2>
      {(
        [
          ["after", d.after],
          ["before", d.before],
        ] as const
      )
        .filter(([, c]) => c.skewDeg != null)
        .slice(0, 1)
        .map(([round]) => (
          <BenchLink key={round} sum="chassis" build={card.number} from={round}>
            On the bench, {round} the cut
          </BenchLink>
        ))}
      <table className="rows">
        <tbody>
          {rows.map(([name, sum, value]) => (
            <tr key={name}>
              <th scope="row" className="text-left">
                {name}
              </th>
              <td className="text-ink2">{sum}</td>
              <td className="num font-[660]">{value}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const UNITS: readonly (readonly [Unit, string])[] = [
  ["mm", "mm"],
  ["inch", "inches"],
  ["thou", "thousandths of an inch"],
];
const shopUnit = (): Unit => (lengthUnit() === "in" ? "inch" : "mm");

/** Words of a file, typed, pasted or picked. */
function FileField({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  return (
    <>
      <label className="field col-span-2">
        <span>A file of points</span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          onChange={async (e) => {
            const file = e.target.files?.[0];
            if (file) onChange(await file.text());
          }}
        />
      </label>
      <AreaField className="col-span-2" label="or its lines" name="text" rows={8} value={value} onChange={onChange} />
    </>
  );
}

function SheetFile({ of: d, onClose }: { of: Datum; onClose: () => void }) {
  const card = useThisBuild();
  const [form, setForm] = useState({
    drawing: d.drawing,
    revision: d.revision,
    page: d.page,
    toleranceMm: d.toleranceMm,
    text: "",
    unit: shopUnit(),
  });
  const set =
    <K extends keyof typeof form>(k: K) =>
    (v: (typeof form)[K]) =>
      setForm((f) => ({ ...f, [k]: v }));
  const save = useSend(
    () => ask(api.PUT("/api/builds/{id}/datum/sheet/file", { params: { path: { id: card.id } }, body: { ...form, version: d.version } })),
    { says: "The sheet is kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Reference sheet"
      note="One line a point: point, x, y, z, name, protected. x runs to the rear, y to the left, z up. A point with L or R behind its letter has its pair on the other side."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      <TextField className="col-span-2" label="Drawing it is from" name="drawing" value={form.drawing} onChange={set("drawing")} />
      <TextField label="Revision" name="revision" value={form.revision} onChange={set("revision")} />
      <TextField label="Page" name="page" value={form.page} onChange={set("page")} />
      <NumberField
        label="A point agrees within, mm"
        name="toleranceMm"
        value={form.toleranceMm}
        onChange={(v) => set("toleranceMm")(v ?? 0)}
      />
      <ChoiceField label="Its lengths are in" value={form.unit} onChange={set("unit")} options={UNITS} />
      <FileField value={form.text} onChange={set("text")} />
    </FormSheet>
  );
}

/** When, with what and in what is read. */
function useHow(d: Datum) {
  const [how, setHow] = useState({ round: lastRoundOf(d), tool: "laser" as Schemas["DatumTool"], instrument: "", unit: shopUnit() });
  const fields = (
    <>
      <ChoiceField
        label="When"
        value={how.round}
        onChange={(round) => setHow((h) => ({ ...h, round }))}
        options={DATUM_ROUNDS.map((r) => [r, datumRoundName(r)] as const)}
      />
      <ChoiceField label="Lengths in" value={how.unit} onChange={(unit) => setHow((h) => ({ ...h, unit }))} options={UNITS} />
      <ChoiceField label="Read with" value={how.tool} onChange={(tool) => setHow((h) => ({ ...h, tool }))} options={TOOLS} />
      <TextField
        label="Which one"
        name="instrument"
        value={how.instrument}
        onChange={(instrument) => setHow((h) => ({ ...h, instrument }))}
      />
    </>
  );
  return { how, fields };
}

function ReadingsFile({ of: d, onClose }: { of: Datum; onClose: () => void }) {
  const card = useThisBuild();
  const { how, fields } = useHow(d);
  const [text, setText] = useState("");
  const save = useSend(
    () => ask(api.POST("/api/builds/{id}/datum/readings/file", { params: { path: { id: card.id } }, body: { ...how, text } })),
    { says: "Read", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Readings from a file"
      note="One line a point: point, x, y, z, in whatever frame they were read. A bad line keeps the whole file out."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      {fields}
      <FileField value={text} onChange={setText} />
    </FormSheet>
  );
}

function ReadPoint({ of: d, from, onClose }: { of: Datum; from: string | null; onClose: () => void }) {
  const card = useThisBuild();
  const { how, fields } = useHow(d);
  const unread = d.points.find((p) => !roundOf(p, how.round))?.key;
  const [key, setKey] = useState(from ?? unread ?? d.points[0]?.key ?? "");
  const [at, setAt] = useState<{ x: number | null; y: number | null; z: number | null }>({ x: null, y: null, z: null });
  const [id, setId] = useState(newId);
  const save = useSend(
    () =>
      ask(
        api.POST("/api/builds/{id}/datum/readings", {
          params: { path: { id: card.id } },
          body: { id, point: key, x: at.x ?? 0, y: at.y ?? 0, z: at.z ?? 0, ...how },
        }),
      ),
    {
      says: `${key} is read`,
      quiet: true,
      onDone: () => {
        const rest = d.points.map((p) => p.key);
        setKey(rest[(rest.indexOf(key) + 1) % rest.length] ?? key);
        setAt({ x: null, y: null, z: null });
        setId(newId());
      },
    },
  );
  const axis = (k: "x" | "y" | "z", label: string) => (
    <NumberField label={label} name={k} value={at[k]} onChange={(v) => setAt((a) => ({ ...a, [k]: v }))} />
  );
  return (
    <FormSheet
      title="Read a point"
      note="The next point opens by itself."
      action="Enter"
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending || at.x === null || at.y === null || at.z === null}
    >
      <ChoiceField
        className="col-span-2"
        label="Point"
        name="point"
        value={key}
        onChange={setKey}
        options={d.points.map((p) => [p.key, pointName(p)] as const)}
      />
      {axis("x", "To the rear, x")}
      {axis("y", "To the left, y")}
      {axis("z", "Up, z")}
      {fields}
    </FormSheet>
  );
}

const CHASSIS: readonly (readonly [keyof Schemas["ChassisFigures"], string])[] = [
  ["wheelbaseLeftMm", "Wheelbase, left"],
  ["wheelbaseRightMm", "Wheelbase, right"],
  ["trackMm", "Track"],
  ["axleLeftMm", "Rear axle, left of the middle"],
  ["axleRightMm", "Rear axle, right of the middle"],
  ["heightFrontLeftMm", "Corner front left over the level"],
  ["heightFrontRightMm", "Corner front right"],
  ["heightRearLeftMm", "Corner rear left"],
  ["heightRearRightMm", "Corner rear right"],
];

function FiguresSheet({ of: d, onClose }: { of: Datum; onClose: () => void }) {
  const card = useThisBuild();
  const [before, setBefore] = useState(d.before.figures);
  const [after, setAfter] = useState(d.after.figures);
  const save = useSend(
    () =>
      ask(api.PUT("/api/builds/{id}/datum/figures", { params: { path: { id: card.id } }, body: { before, after, version: d.version } })),
    { says: "Kept", onDone: onClose, quiet: true },
  );
  return (
    <FormSheet
      title="Axles and corners"
      note="In millimetres, by tape, plumb bob and level. What is not read stays empty."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
    >
      {CHASSIS.flatMap(([k, label]) => [
        <NumberField
          key={`${k} b`}
          label={`${label}, before`}
          name={k}
          value={before[k] ?? null}
          onChange={(v) => setBefore((f) => ({ ...f, [k]: v }))}
        />,
        <NumberField
          key={`${k} a`}
          label={`${label}, after`}
          value={after[k] ?? null}
          onChange={(v) => setAfter((f) => ({ ...f, [k]: v }))}
        />,
      ])}
    </FormSheet>
  );
}
