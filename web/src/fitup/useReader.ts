import { useEffect, useRef, useState } from "react";
import { api, ask, newId } from "../api/client";
import { onGauge } from "../api/live";
import { lengthUnit } from "../format";
import { useSend } from "../ui/useSend";
import { type At, inMm, type Line, nextOpen, parseReading, placeOf, roundNow, type Unit, walkOf } from "./fitWords";

/** Whether this window listens to a gauge: it goes on doing so on the large keys. */
let listening = false;

/** One number and Enter, then the next place opens by itself. What was typed shows at once, whether or not it could be sent yet. */
export function useReader(buildId: string, line: Line, flags: { begin?: At } = {}) {
  const round = roundNow(line);
  const of = `${line.key} ${round.round}`;
  const [mine, setMine] = useState<{ of: string; read: Record<string, number> }>({ of, read: {} });
  const read = mine.of === of ? mine.read : {};
  const [at, setAt] = useState<At | null>(() => flags.begin ?? nextOpen(line, round, null, new Set()) ?? walkOf(line)[0] ?? null);
  const [typed, setTyped] = useState("");
  const [unit, setUnit] = useState<Unit>(lengthUnit() === "in" ? "inch" : "mm");
  const [wrong, setWrong] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const was = useRef(of);
  useEffect(() => {
    if (was.current === of) return;
    was.current = of;
    setTyped("");
    setWrong("");
    setAt(nextOpen(line, roundNow(line), null, new Set()) ?? walkOf(line)[0] ?? null);
  }, [of, line]);
  const [gauge, setGauge] = useState(listening);
  const send = useSend((r: { at: At; value: number; unit: Unit; instrument: string }) =>
    ask(
      api.POST("/api/builds/{id}/fit/readings", {
        params: { path: { id: buildId } },
        body: {
          id: newId(),
          line: line.key,
          round: round.round,
          station: r.at.station,
          measure: r.at.measure,
          value: r.value,
          unit: r.unit,
          instrument: r.instrument,
        },
      }),
    ),
  );
  const goTo = (to: At | null) => {
    setAt(to);
    setTyped("");
    setWrong("");
    field.current?.focus();
  };
  const step = (by: number) => {
    const walk = walkOf(line);
    const from = walk.findIndex((w) => at && placeOf(w) === placeOf(at));
    goTo(walk[(from + by + walk.length) % walk.length] ?? null);
  };
  const enter = () => {
    const figure = parseReading(typed, unit);
    if (!figure) return setWrong(typed.trim() === "" ? "Type what you read." : "That is no figure: 4.7, or 0.157 in.");
    take(figure, "");
  };
  const take = (figure: { value: number; unit: Unit }, instrument: string) => {
    if (!at) return;
    if (at.measure === "gap" && figure.value < 0) return setWrong("A gap is nothing or more.");
    send.mutate(
      { at, ...figure, instrument },
      { onError: () => setMine((m) => (m.of === of ? { of, read: without(m.read, placeOf(at)) } : m)) },
    );
    const now = { ...read, [placeOf(at)]: inMm(figure) };
    setMine({ of, read: now });
    goTo(nextOpen(line, round, at, new Set(Object.keys(now))));
  };
  // A gauge fills the place that is open, in a window that was told to listen to it.
  const heard = useRef(take);
  heard.current = take;
  useEffect(() => (gauge ? onGauge((pressed) => heard.current(pressed, "wireless gauge")) : undefined), [gauge]);
  /** What stands at a place now: what was just typed, or what the sheet has. */
  const valueAt = (a: At): number | null =>
    read[placeOf(a)] ?? (a.measure === "gap" ? round.stations[a.station - 1]?.gap?.mm : round.stations[a.station - 1]?.flush?.mm) ?? null;
  return {
    round,
    at,
    goTo,
    step,
    typed,
    setTyped: (v: string) => {
      setWrong("");
      setTyped(v);
    },
    unit,
    setUnit,
    wrong,
    gauge,
    setGauge: (on: boolean) => {
      listening = on;
      setGauge(on);
    },
    enter,
    valueAt,
    field,
  };
}

const without = (read: Record<string, number>, place: string) => Object.fromEntries(Object.entries(read).filter(([k]) => k !== place));

export type Reader = ReturnType<typeof useReader>;
