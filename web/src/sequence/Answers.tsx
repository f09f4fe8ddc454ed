import { type KeyboardEvent, useId, useRef } from "react";
import type { Schemas } from "../api/client";
import { counted, days, hours } from "../format";
import { AnswerMark } from "./answerMarks";
import { SCHOOLS } from "./answerWords";

export type Answer = Schemas["AnswerView"] & { school: Schemas["School"] };

export const answersOf = (ways: Schemas["WaysView"]): Answer[] =>
  ways.schools.flatMap((s) => s.answers.map((a) => ({ ...a, school: s.school })));

const signed = (n: number, text: string) => `${n > 0 ? "+" : "−"}${text}`;

/** What an answer changes, in words: for those who do not see the bars. */
const told = (a: Answer) =>
  a.chosen
    ? "chosen"
    : a.refused
      ? `cannot be: ${a.refused}`
      : `${a.minutes === 0 ? "the same hours" : `${hours(Math.abs(a.minutes))} h ${a.minutes > 0 ? "more" : "less"}`}, ${
          a.days === null ? "no date" : a.days === 0 ? "the same day" : `${days(Math.abs(a.days))} days ${a.days > 0 ? "later" : "sooner"}`
        }`;

/** Bars from nought: where nought is, and how far a value reaches, in hundredths of the width. */
export function scaleOf(values: readonly number[]) {
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values)];
  const span = high - low || 1;
  return { nought: (-low / span) * 100, to: (v: number) => ((v - low) / span) * 100 };
}

/**
 * The questions on which practitioners differ, every answer with what it would change. Arrows try, Enter takes, Escape lets go.
 */
export function Answers({
  ways,
  paint,
  trying,
  onTry,
  onTake,
  stale,
}: {
  ways: Schemas["WaysView"];
  paint: string;
  trying: Answer | null;
  onTry: (answer: Answer | null) => void;
  onTake: (answer: Answer) => void;
  stale: boolean;
}) {
  const all = answersOf(ways);
  const list = useRef<HTMLDivElement>(null);
  const prefix = useId();
  const idOf = (a: Answer) => `${prefix}${a.school}-${a.key}`;
  const hoursScale = scaleOf(all.map((a) => a.minutes / 60));
  const daysScale = scaleOf(all.map((a) => a.days ?? 0));
  const most = Math.max(1, ...all.map((a) => a.expectedHours));
  const at = trying ? all.findIndex((a) => a.school === trying.school && a.key === trying.key) : -1;
  const move = (to: number) => {
    const next = all[Math.max(0, Math.min(all.length - 1, to))];
    if (!next) return;
    onTry(next);
    document.getElementById(idOf(next))?.scrollIntoView?.({ block: "nearest" });
  };
  const onKey = (e: KeyboardEvent) => {
    if (e.key === "ArrowDown") move(at + 1);
    else if (e.key === "ArrowUp") move(at < 0 ? all.length - 1 : at - 1);
    else if (e.key === "Home") move(0);
    else if (e.key === "End") move(all.length - 1);
    else if (e.key === "Escape") onTry(null);
    else if (e.key === "Enter" && trying && !trying.chosen && !trying.refused) onTake(trying);
    else return;
    e.preventDefault();
  };
  return (
    <div
      ref={list}
      role="listbox"
      tabIndex={0}
      aria-label="How it could run"
      aria-busy={stale}
      aria-activedescendant={trying ? idOf(trying) : undefined}
      className={`way-answers ${stale ? "is-stale" : ""}`}
      onKeyDown={onKey}
    >
      <div className="way-head" aria-hidden="true">
        <span className="col-start-3">hours</span>
        <span>days</span>
        <span>
          done again
          <small>bar: hours to expect</small>
        </span>
      </div>
      {ways.schools.map((s) => (
        <div key={s.school} role="group" aria-label={SCHOOLS[s.school].title} className="way-group">
          <div className="way-title" aria-hidden="true">
            {SCHOOLS[s.school].title}
          </div>
          {s.answers.map((answer) => {
            const a = { ...answer, school: s.school };
            const [name, says] = SCHOOLS[s.school].answers[a.key] ?? [a.key, ""];
            const tried = at >= 0 && all[at]?.school === a.school && all[at]?.key === a.key;
            return (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the list has the keys
              <div
                key={a.key}
                id={idOf(a)}
                role="option"
                tabIndex={-1}
                aria-selected={a.chosen}
                aria-label={`${name}, ${told(a)}, done again 1 in ${a.oneIn}, ${hours(a.hoursAgain * 60)} h`}
                className={`way-answer ${a.chosen ? "is-chosen" : ""} ${tried ? "is-tried" : ""}`}
                onClick={() => {
                  onTry(a);
                  list.current?.focus({ preventScroll: true });
                }}
              >
                <AnswerMark school={a.school} answer={a.key} paint={paint} />
                <span>
                  <b>{name}</b>
                  <small>{a.refused ? <span className="text-oxide">{a.refused}</span> : says}</small>
                </span>
                <Bar of="hours" at={a.minutes / 60} scale={hoursScale} text={hours(Math.abs(a.minutes))} chosen={a.chosen} />
                {a.days === null ? (
                  <span className="way-bar text-ink2" data-of="days">
                    no date
                  </span>
                ) : (
                  <Bar of="days" at={a.days} scale={daysScale} text={days(Math.abs(a.days))} chosen={a.chosen} />
                )}
                <span>
                  <span className="way-again" style={{ width: `${Math.max(3, (a.expectedHours / most) * 100)}%` }} />
                  <b>
                    1 in {a.oneIn}, {hours(a.hoursAgain * 60)} h
                  </b>
                  <small>
                    {a.what}
                    {a.builds > 0 && `; ${counted(a.builds, "build")} of yours`}
                  </small>
                </span>
              </div>
            );
          })}
        </div>
      ))}
    </div>
  );
}

function Bar({
  of,
  at,
  scale,
  text,
  chosen,
}: {
  of: string;
  at: number;
  scale: ReturnType<typeof scaleOf>;
  text: string;
  chosen: boolean;
}) {
  const end = scale.to(at);
  const [left, right] = [Math.min(scale.nought, end), Math.max(scale.nought, end)];
  return (
    <span className="way-bar" data-of={of}>
      <span className="way-scale">
        <i className="way-nought" style={{ left: `${scale.nought}%` }} />
        {chosen ? (
          <i className="way-dot" style={{ left: `${scale.nought}%` }} />
        ) : (
          at !== 0 && <i className="way-far" style={{ left: `${left}%`, width: `${right - left}%` }} />
        )}
      </span>
      {!chosen && <b className={at < 0 ? "is-less" : ""}>{at === 0 ? "same" : signed(at, text)}</b>}
    </span>
  );
}
