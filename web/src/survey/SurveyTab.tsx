import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, newId, type Schemas } from "../api/client";
import { bodyQuery, surveyQuery, useMay } from "../api/queries";
import { BuildHead, HeadFigure } from "../builds/BuildHead";
import { useThisBuild } from "../builds/useBuild";
import { counted, HINTS, money, PROBES, probeName, words } from "../format";
import { middleOf } from "../geometry";
import { PanelMap } from "../pictures/PanelMap";
import { centreOf } from "../pictures/useLasso";
import { CheckField } from "../ui/Field";
import { FormSheet } from "../ui/FormSheet";
import { PlaceLink } from "../ui/PlaceLink";
import { Empty, Shown } from "../ui/States";
import { useAsked } from "../ui/useAsked";
import { useForm } from "../ui/useForm";
import { useSend } from "../ui/useSend";
import { FindingSheet } from "./FindingSheet";
import { AlsoFound, OpenFinding } from "./Findings";
import { Overlay, PunchGlyph } from "./Marks";
import { UndersideMap } from "./UndersideMap";

type Probe = Schemas["Probe"];
type Tool = "look" | Probe | "looked" | "finding" | "draw";
type At = { place: string; at: Schemas["MapPoint"]; area?: Schemas["MapPoint"][] };

/** What came and what is wrong with it: every place looked at or dark, the punch's marks, findings and their verdicts. */
export function SurveyTab() {
  const card = useThisBuild();
  const survey = useQuery(surveyQuery(card.id));
  const body = useQuery(bodyQuery(card.id));
  return <Shown of={survey}>{(s) => <Shown of={body}>{(b) => <SurveySheet survey={s} body={b} />}</Shown>}</Shown>;
}

function SurveySheet({ survey, body }: { survey: Schemas["SurveyBody"]; body: Schemas["BodyStateView"] }) {
  const card = useThisBuild();
  const [tool, setTool] = useState<Tool>("look");
  const [opened, setOpened] = useState<string | null>(null);
  const [picked, setPicked] = useState<string | null>(null);
  const [adding, setAdding] = useState<At | null>(null);
  const [telling, setTelling] = useState(false);
  const [resting, setResting] = useState(false);
  const path = { params: { path: { id: card.id } } };
  const punch = useSend((a: At & { result: Probe }) =>
    ask(api.POST("/api/builds/{id}/survey/marks", { ...path, body: { id: newId(), ...a } })),
  );
  const looked = useSend((place: string) => ask(api.POST("/api/builds/{id}/survey/looks", { ...path, body: { id: newId(), place } })), {
    says: "Looked at",
  });
  const place = survey.places.find((p) => p.key === picked);
  // The place that was chosen last is the one that is spoken of: a finding somewhere else stands below.
  const finding =
    survey.findings.find((f) => f.id === opened) ?? (place ? survey.findings.find((f) => f.place === place.key) : survey.findings[0]);
  const dark = new Set(survey.places.filter((p) => !p.looked).map((p) => p.key));
  const outside = new Set(survey.places.filter((p) => p.group === "outside").map((p) => p.key));
  const under = survey.places.filter((p) => p.group !== "outside");
  const pick = (key: string, at: Schemas["MapPoint"]) => {
    setPicked(key);
    setOpened(survey.findings.find((f) => f.place === key)?.id ?? null);
    if (tool === "finding") setAdding({ place: key, at });
    else if (tool === "looked") looked.mutate(key);
    else if (tool !== "look" && tool !== "draw") punch.mutate({ place: key, at, result: tool });
  };
  const open = (id: string) => {
    setOpened(id);
    setPicked(survey.findings.find((f) => f.id === id)?.place ?? null);
  };
  const asked = useAsked("finding");
  // biome-ignore lint/correctness/useExhaustiveDependencies: opened once when the address asks for it; what is tapped after that stays
  useEffect(() => {
    if (asked) open(asked);
  }, [asked]);
  const draw = (place: string, area: Schemas["MapPoint"][]) => {
    setPicked(place);
    setAdding({ place, at: centreOf(area), area });
  };
  const on = (there: (place: string) => boolean) => (one: number) => (
    <Overlay
      marks={survey.marks.filter((m) => there(m.place))}
      findings={survey.findings.filter((f) => there(f.place))}
      open={finding?.id}
      one={one}
      onOpen={open}
    />
  );
  return (
    <div className="build">
      <div className="bg-guide text-chalk">
        <div className="grid grid-cols-[548px_1fr] max-[900px]:grid-cols-1">
          <PanelMap
            body={body.body}
            states={body.panels}
            paint={card.colourHex}
            width={548}
            height={600}
            legend={false}
            selected={picked}
            dark={dark}
            onPick={pick}
            onDraw={tool === "draw" ? draw : undefined}
            overlay={on((p) => outside.has(p))}
            marked={[...survey.marks, ...survey.findings].filter((m) => outside.has(m.place)).map((m) => m.at)}
          />
          <div className="pr-4 pt-[14px] pb-2">
            <Legend survey={survey} />
            <UndersideMap
              places={under}
              width={236}
              height={300}
              selected={picked}
              onPick={pick}
              onDraw={tool === "draw" ? draw : undefined}
              overlay={on((p) => !outside.has(p))}
            />
            <FindPlace places={survey.places} onPick={(p) => pick(p.key, middleOf(p.path))} />
            <StillDark places={survey.stillDark} onPick={(p) => pick(p.key, middleOf(p.path))} onRest={() => setResting(true)} />
          </div>
        </div>
        <Tools tool={tool} setTool={setTool} survey={survey} />
      </div>
      <section className="side px-5 pt-[14px] pb-6" aria-label="Findings">
        <Head survey={survey} onTell={() => setTelling(true)} />
        {place && <PlaceCard place={place} survey={survey} />}
        {finding && <OpenFinding key={finding.id} finding={finding} all={survey.findings} />}
        {survey.findings.length > 0 ? (
          <AlsoFound findings={survey.findings.filter((f) => f !== finding)} onOpen={open} />
        ) : (
          <Empty>Nothing found yet. Take the punch or “Finding”, then tap a place.</Empty>
        )}
      </section>
      {adding && <FindingSheet at={adding} survey={survey} onClose={() => setAdding(null)} onKept={setOpened} />}
      {resting && <RestSheet count={survey.total - survey.seen} onClose={() => setResting(false)} />}
      {telling && <HistorySheet history={survey.history} onClose={() => setTelling(false)} />}
    </div>
  );
}

function Legend({ survey }: { survey: Schemas["SurveyBody"] }) {
  return (
    <div className="text-[12.5px] mb-2">
      <p className="flex">
        <b className="flex-1">The punch</b> <span className="text-chalk2">places</span>
      </p>
      {PROBES.map((p) => (
        <p key={p} className="flex items-center gap-2 h-[22px]">
          <svg width="20" height="20" viewBox="-10 -10 20 20" aria-hidden="true">
            <PunchGlyph result={p} />
          </svg>
          <span className="flex-1">{probeName(p)}</span>
          <span className="text-chalk2">{survey.marks.filter((m) => m.result === p).length}</span>
        </p>
      ))}
      <p className="flex items-center gap-2 h-[22px]">
        <span className="w-[20px] h-[12px] border border-guide3 bg-guide" aria-hidden="true" />
        <span className="flex-1">dark: not looked at</span>
        <span className="text-chalk2">{survey.total - survey.seen}</span>
      </p>
    </div>
  );
}

/** A place by its name: typed, then chosen. */
function FindPlace({ places, onPick }: { places: Schemas["PlaceView"][]; onPick: (p: Schemas["PlaceView"]) => void }) {
  const [typed, setTyped] = useState("");
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = words.length === 0 ? [] : places.filter((p) => words.every((w) => spelled(p.name).includes(w))).slice(0, 6);
  const take = (p: Schemas["PlaceView"]) => {
    setTyped("");
    onPick(p);
  };
  return (
    <form
      className="text-[12.5px] mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (found[0]) take(found[0]);
      }}
    >
      <input
        type="search"
        aria-label="Find a place"
        placeholder="find a place, such as left sill"
        className="w-full h-[28px] px-2 border border-guide3 bg-guide text-chalk placeholder:text-chalk2"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      <ul>
        {found.map((p) => (
          <li key={p.key}>
            <button type="button" className="text-left w-full min-h-6" onClick={() => take(p)}>
              {p.name}
            </button>
          </li>
        ))}
      </ul>
    </form>
  );
}

/** L and R are the shop's short words; people type left and right. */
const spelled = (name: string) => `${name} ${name.replace(/^L /, "left ").replace(/^R /, "right ")}`.toLowerCase();

/** Everything else was looked at and is sound: said once, in somebody's name. */
function RestSheet({ count, onClose }: { count: number; onClose: () => void }) {
  const card = useThisBuild();
  const [id] = useState(() => newId());
  const send = useSend(() => ask(api.POST("/api/builds/{id}/survey/rest", { params: { path: { id: card.id } }, body: { id } })), {
    says: "Noted in your name",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="The rest is sound?"
      note={`${counted(count, "place")} that nobody has marked ${count === 1 ? "is" : "are"} noted as looked at by you, with nothing there. What comes to light later is a finding like any other.`}
      action="I looked: nothing there"
      onClose={onClose}
      onSubmit={() => send.mutate(undefined)}
      problem={send.error}
      busy={send.isPending}
    >
      <span />
    </FormSheet>
  );
}

function StillDark({
  places,
  onPick,
  onRest,
}: {
  places: Schemas["PlaceView"][];
  onPick: (p: Schemas["PlaceView"]) => void;
  onRest: () => void;
}) {
  if (places.length === 0) return <p className="text-[12.5px] mt-2">Every place has been looked at.</p>;
  return (
    <div className="text-[12.5px] mt-1">
      <p className="flex border-b border-guide3 pb-[2px]">
        <b className="flex-1">Still dark</b> <span className="text-chalk2">next first</span>
      </p>
      <ul className="grid grid-cols-2 gap-x-3">
        {places.slice(0, 10).map((p) => (
          <li key={p.key}>
            <button type="button" className={`text-left w-full min-h-6 truncate ${p.harder ? "font-[660]" : ""}`} onClick={() => onPick(p)}>
              {p.name}
            </button>
          </li>
        ))}
      </ul>
      {places.length > 10 && <p className="text-chalk2">and {places.length - 10} more</p>}
      <button type="button" className="btn mt-1" onClick={onRest}>
        The rest is sound
      </button>
    </div>
  );
}

const TOOLS: [Tool, string][] = [
  ["look", "Look"],
  ["rings", "Rings"],
  ["dents", "Dents"],
  ["goesThrough", "Goes through"],
  ["looked", "Nothing there"],
  ["finding", "Finding"],
  ["draw", "Draw round it"],
];

function Tools({ tool, setTool, survey }: { tool: Tool; setTool: (t: Tool) => void; survey: Schemas["SurveyBody"] }) {
  const judged = survey.findings.filter((f) => f.choice).length;
  return (
    <div className="border-t border-guide3 px-5 py-3 flex flex-wrap gap-x-6 gap-y-2 items-center">
      <p>
        <b className="text-[14px] font-[680]">
          {survey.seen} of {survey.total}
        </b>{" "}
        <span className="text-chalk2 text-[12.5px]">places looked at</span>
      </p>
      <p>
        <b className="text-[14px] font-[680]">
          {judged} of {survey.findings.length}
        </b>{" "}
        <span className="text-chalk2 text-[12.5px]">findings with a verdict</span>
      </p>
      <fieldset className="flex flex-wrap gap-1" aria-label="What a tap on the map notes">
        {TOOLS.map(([t, name]) => (
          <button
            key={t}
            type="button"
            aria-pressed={tool === t}
            className={`h-[30px] px-3 border rounded-[2px] text-[12.5px] font-[620] ${tool === t ? "bg-chalk text-guide border-chalk" : "border-guide3"}`}
            onClick={() => setTool(t)}
          >
            {name}
          </button>
        ))}
      </fieldset>
    </div>
  );
}

function Head({ survey, onTell }: { survey: Schemas["SurveyBody"]; onTell: () => void }) {
  const may = useMay();
  const card = useThisBuild();
  return (
    <BuildHead
      figures={
        <>
          <HeadFigure name="Places seen" value={`${survey.seen} of ${survey.total}`} />
          {may.desk && <HeadFigure name="Verdicts so far" value={money(survey.verdicts)} />}
        </>
      }
    >
      <p className="col-span-3 mt-2 mb-2 pb-3 border-b border-p3 text-ink2 flex gap-2 items-center">
        <span className="flex-1">
          {survey.history.length > 0 ? `History: ${survey.history.map((h) => words(h)).join(", ")}.` : "No history that points to a place."}
        </span>
        {may.desk && (
          <PlaceLink className="btn" to={`/builds/${card.number}/two-bodies`}>
            Two bodies
          </PlaceLink>
        )}
        {may.desk && (
          <button type="button" className="btn" onClick={onTell}>
            History
          </button>
        )}
      </p>
    </BuildHead>
  );
}

/** What is usual at a place, why to look harder, and what the punch said there. */
function PlaceCard({ place, survey }: { place: Schemas["PlaceView"]; survey: Schemas["SurveyBody"] }) {
  const back = useSend((id: string) => ask(api.POST("/api/marks/{id}/take-back", { params: { path: { id } } })), { says: "Taken back" });
  const marks = survey.marks.filter((m) => m.place === place.key);
  return (
    <div className="border-b border-p3 pb-2 mb-2" aria-live="polite">
      <b>{place.name}</b> <span className="text-ink2">{place.looked ? "" : "not looked at yet"}</span>
      {place.spot && <p className="text-ink2">Usual trouble: {place.spot}.</p>}
      {place.harder && <p className="font-[620]">Look harder: {place.harder}.</p>}
      {marks.length > 0 && (
        <ul>
          {marks.map((m) => (
            <li key={m.id} className="flex gap-2 items-center">
              <span className="flex-1">
                {probeName(m.result)}, {m.by}
              </span>
              <button type="button" className="btn !py-0" onClick={() => back.mutate(m.id)}>
                Take back
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function HistorySheet({ history, onClose }: { history: Schemas["HistoryHint"][]; onClose: () => void }) {
  const card = useThisBuild();
  const [f, set, , clashes] = useForm({ history });
  const save = useSend(() => ask(api.PUT("/api/builds/{id}/survey/history", { params: { path: { id: card.id } }, body: f })), {
    says: "Saved",
    onDone: onClose,
    quiet: true,
  });
  return (
    <FormSheet
      title="Known history"
      note="The survey begins where this points."
      onClose={onClose}
      onSubmit={() => save.mutate(undefined)}
      problem={save.error}
      busy={save.isPending}
      clashes={clashes}
    >
      {HINTS.map((h) => (
        <CheckField
          key={h}
          label={words(h)}
          value={f.history.includes(h)}
          onChange={(on) => set("history")(on ? [...f.history, h] : f.history.filter((x) => x !== h))}
        />
      ))}
    </FormSheet>
  );
}
