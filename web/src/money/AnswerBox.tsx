import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { dateOf, longDay, money } from "../format";
import { CheckField, ProblemNote, TextField } from "../ui/Field";
import { useSend } from "../ui/useSend";

/** The client's answer: a code to the known address, then yes or no with a name. */
export function AnswerBox({ token, paper }: { token: string; paper: Schemas["PrivatePaper"] }) {
  const { page } = paper;
  const [name, setName] = useState(page.for);
  const [code, setCode] = useState("");
  const [choices, setChoices] = useState<string[]>([]);
  const path = { params: { path: { token, id: page.id } } };
  const send = useSend(() => ask(api.POST("/api/private/{token}/papers/{id}/code", path)), { quiet: true });
  const answer = useSend(
    (yes: boolean) => ask(api.POST("/api/private/{token}/papers/{id}/answer", { ...path, body: { code, yes, name, choices } })),
    { quiet: true },
  );
  if (paper.answer) return <Answered paper={paper} />;
  const plus = page.choices.filter((c) => choices.includes(c.letter)).reduce((sum, c) => sum + c.adds, 0);
  return (
    <section className="answer no-print" aria-label="Your answer">
      <h2>Your answer</h2>
      {page.choices.length > 0 && (
        <fieldset className="mb-2">
          <legend className="text-ink2">Options</legend>
          {page.choices.map((c) => (
            <CheckField
              key={c.letter}
              label={`${c.letter}: ${c.text}, ${money(c.adds)}`}
              value={choices.includes(c.letter)}
              onChange={(on) => setChoices(on ? [...choices, c.letter] : choices.filter((x) => x !== c.letter))}
            />
          ))}
          {plus !== 0 && <p className="text-ink2">The choices together: {money(plus)} before tax.</p>}
        </fieldset>
      )}
      {!send.data ? (
        <p>
          We send a code to the address that we know of you; with it you answer here.{" "}
          <button type="button" className="btn btn-ink" disabled={send.isPending} onClick={() => send.mutate(undefined)}>
            Send me the code
          </button>
        </p>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            answer.mutate(true);
          }}
        >
          <p role="status">A code of six digits is on its way to {send.data.to}. It holds for fifteen minutes.</p>
          <div className="flex flex-wrap gap-3 items-end">
            <TextField
              label="Code"
              name="code"
              value={code}
              onChange={setCode}
              problem={answer.error}
              inputMode="numeric"
              autoComplete="one-time-code"
            />
            <TextField label="Your name" name="name" value={name} onChange={setName} problem={answer.error} autoComplete="name" />
          </div>
          <ProblemNote problem={answer.error} except={["code", "name"]} />
          <div className="flex flex-wrap gap-2">
            <button type="submit" className="btn btn-ink" disabled={answer.isPending}>
              {page.kind === "estimate" ? "Yes, begin on this" : "Yes, do it"}
            </button>
            <button type="button" className="btn" disabled={answer.isPending} onClick={() => answer.mutate(false)}>
              {page.kind === "estimate" ? "No, not like this" : "No, leave it"}
            </button>
            <button type="button" className="btn btn-quiet" disabled={send.isPending} onClick={() => send.mutate(undefined)}>
              Send another code
            </button>
          </div>
        </form>
      )}
      <ProblemNote problem={send.error} />
    </section>
  );
}

function Answered({ paper }: { paper: Schemas["PrivatePaper"] }) {
  const a = paper.answer;
  if (!a) return null;
  return (
    <section className="answer" aria-label="Your answer" role="status">
      <h2>{a.yes ? "Agreed" : "Declined"}</h2>
      <p>
        {a.name}, {longDay(dateOf(a.at))}, {a.way === "code" ? "with a code" : "on paper"}
        {a.choices.length > 0 && `, with ${a.choices.join(", ")}`}. We have it; you need do nothing more.
      </p>
    </section>
  );
}
