import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { type PointerEvent, useEffect, useRef, useState } from "react";
import { OwnAccount } from "../access/OwnAccount";
import { api, ask, NotSent, newId, Problem, type Schemas } from "../api/client";
import { listen } from "../api/live";
import { clockQuery, queries, sessionQuery, styleQuery, stylesQuery, useUser } from "../api/queries";
import { KeptUnsent, useUnsent } from "../api/unsent";
import { sendPhoto } from "../api/upload";
import { dateOf, day, hm, hours, serverNow, timeOf, today, weekday } from "../format";
import { CHALK, GUIDE3 } from "../tokens";
import { Dab } from "../ui/Dab";
import { TextField } from "../ui/Field";
import { NotSentYet } from "../ui/NotSentYet";
import { PlaceLink } from "../ui/PlaceLink";
import { Said } from "../ui/Said";
import { say } from "../ui/say";
import { useSend } from "../ui/useSend";
import { HoursCoat } from "./HoursCoat";
import { NotDone, type NotDoneJob } from "./NotDone";
import { NotReadYet, ReadFirst } from "./ReadFirst";

type Job = Schemas["ClockJob"];
const SHARES = [0.1, 0.25, 0.5, 0.75, 0.9];

/** A timer that has run this long was forgotten. */
const FORGOTTEN_MINUTES = 14 * 60;

/** The phone: one job, its time, three reports in reach of a thumb, done apart and held for a second. */
export function ClockPage() {
  useQuery(sessionQuery);
  const user = useUser();
  const clock = useQuery({ ...clockQuery, enabled: user?.personId != null });
  const online = useOnline();
  useEffect(() => {
    let stop: (() => void) | undefined;
    void listen().then((s) => {
      stop = s;
    });
    return () => stop?.();
  }, []);
  if (user && user.personId === null) return <NoPerson />;
  if (clock.isError && !clock.data)
    return (
      <main className="clk p-5">
        <p className="wrong">{clock.error.message}</p>
        <button type="button" className="btn mt-3 !py-3" onClick={() => clock.refetch()}>
          Try again
        </button>
      </main>
    );
  if (!clock.data) return <main className="clk p-5">Loading…</main>;
  return <Clock view={clock.data} online={online && !clock.isError} />;
}

function NoPerson() {
  return (
    <main className="clk p-5">
      <h1>Clock</h1>
      <p className="mt-2">This account belongs to no person of the shop, so it has no clock.</p>
      <PlaceLink className="btn mt-3 !py-3 self-start" to="/">
        To the floor
      </PlaceLink>
    </main>
  );
}

function useOnline() {
  const [online, setOnline] = useState(navigator.onLine);
  useEffect(() => {
    const look = () => setOnline(navigator.onLine);
    addEventListener("online", look);
    addEventListener("offline", look);
    return () => {
      removeEventListener("online", look);
      removeEventListener("offline", look);
    };
  }, []);
  return online;
}

/** "How far?" is asked before the clock stops, or goes to another job. */
type Asking = { to: Job | null; shopJob?: string };

function Clock({ view, online }: { view: Schemas["ClockView"]; online: boolean }) {
  const running = view.running;
  const [asking, setAsking] = useState<Asking | null>(null);
  const [needing, setNeeding] = useState(false);
  const [unsent, setUnsent] = useState<string | null>(null);
  const waiting = useUnsent().length;
  const [breakAsk, setBreakAsk] = useState<((worked: boolean) => void) | null>(null);
  /** Where a send failed: the break is asked for, and then it is sent again; anything else is said plainly. */
  const failed = (what: string, again: (breakWorked: boolean) => void) => ({
    onError: (e: Error) => {
      if (e instanceof Problem && e.field === "breakWorked") setBreakAsk(() => again);
      else setUnsent(e instanceof KeptUnsent ? null : e instanceof NotSent ? `${what} was not sent and is not kept.` : e.message);
    },
    onSuccess: () => setUnsent(null),
  });
  type Start = { id: string; job: Job; share: number | null; breakWorked: boolean | null; acknowledged?: boolean };
  const start = useSend(
    ({ id, job, share, breakWorked, acknowledged = false }: Start) =>
      ask(
        api.POST("/api/clock/start", {
          body: { id, personId: null, operationId: job.operationId, kind: "billable", share, breakWorked, acknowledged },
        }),
      ),
    { quiet: true },
  );
  const [reading, setReading] = useState<Start | null>(null);
  const acknowledge = useSend((operationId: string) => ask(api.POST("/api/clock/acknowledge", { body: { operationId } })), { quiet: true });
  type Stop = { share: number | null; done: boolean; at: string | null; breakWorked: boolean | null };
  const [notDone, setNotDone] = useState<NotDoneJob | null>(null);
  const stop = useSend((a: Stop) => ask(api.POST("/api/clock/stop", { body: { personId: null, why: "", ...a } })), {
    quiet: true,
    onDone: (r) => r?.notDone && running && setNotDone({ job: running.job, words: r.notDone, asks: r.asks }),
  });
  const begin = (a: Start) => {
    if (a.job.caution && !a.job.cautionRead && !a.acknowledged) {
      setReading(a);
      return;
    }
    setReading(null);
    start.mutate(
      a,
      failed(`“${a.job.name}”`, (breakWorked) => begin({ ...a, breakWorked })),
    );
  };
  const startShop = useSend(
    (a: { id: string; job: string; share: number | null; breakWorked: boolean | null }) =>
      ask(api.POST("/api/clock/start-shop", { body: { personId: null, ...a } })),
    { quiet: true },
  );
  const beginShop = (a: { id: string; job: string; share: number | null; breakWorked: boolean | null }) =>
    startShop.mutate(
      a,
      failed(`“${a.job}”`, (breakWorked) => beginShop({ ...a, breakWorked })),
    );
  const end = (a: Stop) =>
    stop.mutate(
      a,
      failed(a.done ? "Done" : "The stop", (breakWorked) => end({ ...a, breakWorked })),
    );
  const answer = (share: number | null, at: string | null = null) => {
    const a = asking;
    setAsking(null);
    if (!a) return;
    if (a.to) begin({ id: newId(), job: a.to, share, breakWorked: null });
    else if (a.shopJob) beginShop({ id: newId(), job: a.shopJob, share, breakWorked: null });
    else end({ share, done: false, at, breakWorked: null });
  };
  return (
    <main className="clk">
      <section className="now on-guide" aria-label="Running job">
        <div className="flex items-baseline gap-[10px] text-[15px] text-chalk2">
          <b className="text-chalk font-[660]">{view.name}</b>
          <span>
            {weekday(today())}, {timeOf(serverNow())}
          </span>
          <em className="ml-auto not-italic text-chalk font-[600]">{hm(view.todayMinutes)} today</em>
        </div>
        {running ? (
          <Running running={running} onPause={() => setAsking({ to: null })} />
        ) : view.shopRunning ? (
          <ShopRunning running={view.shopRunning} onStop={() => end({ share: null, done: false, at: null, breakWorked: null })} />
        ) : (
          <div className="py-7">
            <h1 className="!text-[27px]">Nothing runs</h1>
            <p className="text-chalk2 text-[17px] mt-1">
              {view.next.length > 0 ? "Touch a job to start it." : "Nothing is planned for you. Ask the manager."}
            </p>
          </div>
        )}
      </section>
      {asking && <HowFar asking={asking} running={running} onAnswer={answer} onCancel={() => setAsking(null)} />}
      {reading?.job.caution && (
        <ReadFirst
          key={reading.id}
          name={reading.job.name}
          caution={reading.job.caution}
          onRead={() => begin({ ...reading, acknowledged: true })}
          onClose={() => setReading(null)}
        />
      )}
      {running?.job.caution && !running.job.cautionRead && (
        <NotReadYet
          caution={running.job.caution}
          busy={acknowledge.isPending}
          onRead={() =>
            acknowledge.mutate(
              running.job.operationId,
              failed("That it was read", () => undefined),
            )
          }
        />
      )}
      {breakAsk && (
        <BreakAsk
          onAnswer={(worked) => {
            setBreakAsk(null);
            breakAsk(worked);
          }}
        />
      )}
      {notDone && <NotDone of={notDone} onClose={() => setNotDone(null)} />}
      {running && !asking && !breakAsk && !reading && (
        <>
          <Reports job={running.job} onNeed={() => setNeeding(true)} onUnsent={setUnsent} />
          <Done disabled={stop.isPending} onDone={() => end({ share: null, done: true, at: null, breakWorked: null })} />
        </>
      )}
      {needing && running && <PartNeeded job={running.job} onClose={() => setNeeding(false)} onUnsent={setUnsent} />}
      <section className="jobs px-5 flex-1" aria-label="Next jobs">
        {view.next.map((job) => (
          <button
            key={job.operationId}
            type="button"
            className="job"
            disabled={start.isPending}
            onClick={() => (running ? setAsking({ to: job }) : begin({ id: newId(), job, share: null, breakWorked: null }))}
            aria-label={`${running ? "Switch to" : "Start"} ${job.name}, build ${job.buildNumber}`}
          >
            <Dab number={job.buildNumber} colour={job.colourHex} w={44} h={24} size={15} />
            <span>
              <b>{job.name}</b>
              <span className={`why ${job.waitsKind === "decision" || job.waitsKind === "gate" ? "!text-oxide font-[560]" : ""}`}>
                {job.waits || `${job.buildTitle}`}
              </span>
            </span>
            <em className="not-italic font-[640]">{whenOf(job)}</em>
          </button>
        ))}
        {view.jobs.length > 0 && <h2 className="!text-[17px] mt-4 mb-1">For the shop</h2>}
        {view.jobs
          .filter((job) => job !== view.shopRunning?.job)
          .map((job) => (
            <button
              key={job}
              type="button"
              className="job"
              disabled={startShop.isPending}
              onClick={() =>
                running ? setAsking({ to: null, shopJob: job }) : beginShop({ id: newId(), job, share: null, breakWorked: null })
              }
              aria-label={`${running || view.shopRunning ? "Switch to" : "Start"} ${job}, for the shop`}
            >
              <span />
              <b>{job}</b>
              <em />
            </button>
          ))}
      </section>
      <footer
        className="sticky bottom-0 bg-p1 border-t border-p2 flex flex-wrap items-center gap-2 px-5 py-1 text-[14px] text-ink2"
        aria-live="polite"
      >
        {unsent ? (
          <p className="wrong">{unsent}</p>
        ) : !online ? (
          <p className="wrong">No connection. What you touch is kept here and goes later.</p>
        ) : (
          waiting === 0 && (
            <>
              <span className="inline-block size-3 rounded-full border-2 border-ink2 shrink-0" /> Everything is sent.
            </>
          )
        )}
        <Said className="!px-0" />
        <NotSentYet className="btn min-h-11 whitespace-nowrap" />
        <OwnPlace />
        <SignOut />
      </footer>
    </main>
  );
}

function whenOf(job: Job): string {
  if (!job.starts) return "";
  const date = dateOf(job.starts);
  return date === today() ? `${hours(Math.max(0, job.budgetMinutes - job.spentMinutes))} h` : day(date);
}

function OwnPlace() {
  const [own, setOwn] = useState(false);
  return (
    <>
      <button type="button" className="btn btn-quiet min-h-11" onClick={() => setOwn(true)}>
        Password
      </button>
      {own && <OwnAccount onClose={() => setOwn(false)} />}
    </>
  );
}

function SignOut() {
  const navigate = useNavigate();
  return (
    <button
      type="button"
      className="btn btn-quiet min-h-11"
      onClick={async () => {
        await ask(api.DELETE("/api/session"));
        queries.clear();
        await navigate({ to: "/sign-in" });
      }}
    >
      Sign out
    </button>
  );
}

function useSeconds() {
  const [now, setNow] = useState(serverNow());
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), 500);
    return () => clearInterval(timer);
  }, []);
  return now;
}

function Running({ running, onPause }: { running: Schemas["ClockRunning"]; onPause: () => void }) {
  const now = useSeconds();
  const { job } = running;
  const elapsed = Math.max(0, Math.floor((now.getTime() - new Date(running.start).getTime()) / 1000));
  const minutes = Math.floor(elapsed / 60);
  return (
    <>
      <div className="grid grid-cols-[72px_1fr] items-center mt-3">
        <Dab number={job.buildNumber} colour={job.colourHex} w={60} h={34} size={22} />
        <div>
          <h1 className="!text-[27px] !font-[740] !leading-[1.05]">{job.name}</h1>
          <PlaceLink to={`/builds/${job.buildNumber}`} className="text-chalk2 mt-[2px] inline-flex items-center min-h-6">
            {job.buildTitle}
          </PlaceLink>
        </div>
      </div>
      <div className="time" role="timer" aria-label={`Running ${hm(minutes)}`}>
        {hm(minutes)}
        <i>{String(elapsed % 60).padStart(2, "0")}</i>
      </div>
      <div className="flex justify-between mb-[10px]">
        <div>
          <dl className="flex gap-[18px]">
            {[
              ["On this job", hm(job.spentMinutes)],
              ["Allowed", hm(job.budgetMinutes)],
              ["Done", job.statedShare === null ? "–" : `${Math.round(job.statedShare * 100)} %`],
            ].map(([k, v]) => (
              <div key={k}>
                <dt className="text-[14px] text-chalk2">{k}</dt>
                <dd className="text-[21px] font-[660] leading-[1.15]">{v}</dd>
              </div>
            ))}
          </dl>
          <HoursCoat job={job} />
          {job.caution && job.cautionRead && <p className="text-[14px] text-chalk2 mt-2 max-w-[230px] leading-[1.25]">{job.caution}</p>}
        </div>
        <WhereOnIt job={job} />
      </div>
      <button type="button" className="big" onClick={onPause}>
        Stop
      </button>
    </>
  );
}

/** Work that is nobody's build: its time and a stop. */
function ShopRunning({ running, onStop }: { running: Schemas["ShopRunning"]; onStop: () => void }) {
  const now = useSeconds();
  const elapsed = Math.max(0, Math.floor((now.getTime() - new Date(running.start).getTime()) / 1000));
  const minutes = Math.floor(elapsed / 60);
  return (
    <>
      <h1 className="!text-[27px] !font-[740] !leading-[1.05] mt-3">{running.job}</h1>
      <p className="text-chalk2 mt-[2px]">for the shop, on no bill</p>
      <div className="time" role="timer" aria-label={`Running ${hm(minutes)}`}>
        {hm(minutes)}
        <i>{String(elapsed % 60).padStart(2, "0")}</i>
      </div>
      <button type="button" className="big" onClick={onStop}>
        Stop
      </button>
    </>
  );
}

/** The body, small, with the panels of this job lit. */
function WhereOnIt({ job }: { job: Job }) {
  const own = useQuery(stylesQuery).data?.find((s) => s.key === job.style)?.dimensions;
  const body = useQuery({ ...styleQuery(job.style, own ?? { lengthMm: 0, widthMm: 0, wheelbaseMm: 0 }), enabled: own !== undefined }).data;
  if (!body) return null;
  return (
    <svg
      width="112"
      height="164"
      viewBox={`${body.minX - 2} ${body.minY - 2} ${body.maxX - body.minX + 4} ${body.maxY - body.minY + 4}`}
      aria-hidden="true"
      className="flex-none"
    >
      {body.panels.map((p) => {
        const lit = job.panels.includes(p.key);
        return <path key={p.key} d={p.path} fill={lit ? "#D0C9AE" : GUIDE3} stroke={lit ? CHALK : "none"} strokeWidth="3" />;
      })}
    </svg>
  );
}

function HowFar({
  asking,
  running,
  onAnswer,
  onCancel,
}: {
  asking: Asking;
  running: Schemas["ClockRunning"] | null;
  onAnswer: (share: number | null, at?: string | null) => void;
  onCancel: () => void;
}) {
  const forgotten = running ? serverNow().getTime() - new Date(running.start).getTime() > FORGOTTEN_MINUTES * 60_000 : false;
  const [at, setAt] = useState("");
  const stopped = () => {
    if (!forgotten || !running || !at) return null;
    const start = new Date(running.start);
    const wall = new Date(`${dateOf(start)}T${at}:00Z`).getTime() - new Date(`${dateOf(start)}T${timeOf(start)}:00Z`).getTime();
    return new Date(start.getTime() + (wall < 0 ? wall + 86_400_000 : wall)).toISOString();
  };
  return (
    <section className="p-5 bg-p0 border-b border-p3" aria-label="How far is it?">
      <h2 className="!text-[22px] mb-3">{asking.to ? `How far is ${running?.job.name}?` : "How far?"}</h2>
      {forgotten && (
        <div className="mb-3">
          <p className="wrong mb-1">
            This clock has run since {running && `${day(dateOf(running.start))}, ${timeOf(running.start)}`}. When did you stop?
          </p>
          <TextField label="Stopped at" type="time" value={at} onChange={setAt} />
        </div>
      )}
      <div className="shares">
        {SHARES.map((s) => (
          <button key={s} type="button" disabled={forgotten && !at} onClick={() => onAnswer(s, stopped())}>
            {Math.round(s * 100)} %
          </button>
        ))}
      </div>
      <div className="flex gap-2 mt-3">
        <button
          type="button"
          className="btn flex-1 min-h-13 text-[17px]"
          disabled={forgotten && !at}
          onClick={() => onAnswer(null, stopped())}
        >
          Not sure
        </button>
        <button type="button" className="btn flex-1 min-h-13 text-[17px]" onClick={onCancel}>
          Continue
        </button>
      </div>
    </section>
  );
}

/** An unpaid break is never taken off silently. */
function BreakAsk({ onAnswer }: { onAnswer: (worked: boolean) => void }) {
  return (
    <section className="p-5 bg-p0 border-b border-p3" aria-label="The break">
      <h2 className="!text-[22px] mb-3">Your clock ran across the break. Was it worked?</h2>
      <div className="flex gap-2">
        <button type="button" className="btn flex-1 min-h-15 text-[19px]" onClick={() => onAnswer(false)}>
          No, take it off
        </button>
        <button type="button" className="btn flex-1 min-h-15 text-[19px]" onClick={() => onAnswer(true)}>
          Yes, worked
        </button>
      </div>
    </section>
  );
}

function Reports({ job, onNeed, onUnsent }: { job: Job; onNeed: () => void; onUnsent: (text: string | null) => void }) {
  const [share, setShare] = useState<number | null>(null);
  const photo = async (file: File) => {
    setShare(0);
    try {
      await sendPhoto(job.buildId, newId(), file, { operationId: job.operationId, stage: job.stage }, setShare);
      say.done("Photo sent");
      onUnsent(null);
    } catch (e) {
      onUnsent(
        e instanceof KeptUnsent
          ? null
          : e instanceof NotSent
            ? "The photo was not sent and is not kept. Take it again when there is a connection."
            : e instanceof Error
              ? e.message
              : "The photo was not sent.",
      );
    } finally {
      setShare(null);
    }
  };
  return (
    <section className="acts" aria-label="Reports">
      <label>
        <svg width="46" height="40" viewBox="0 0 46 40" fill="none" stroke="currentColor" strokeWidth="2.6" aria-hidden="true">
          <path
            d="M3,12V3h9M34,3h9v9M43,28v9h-9M12,37H3v-9M10,26c6,-16 12,-2 14,-6s6,-9 12,-4"
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        </svg>
        {share === null ? "Photo" : `${Math.round(share * 100)} %`}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={(e) => e.target.files?.[0] && void photo(e.target.files[0])}
        />
      </label>
      <button type="button" onClick={onNeed}>
        <svg width="40" height="40" viewBox="0 0 40 40" fill="none" stroke="currentColor" strokeWidth="2.6" aria-hidden="true">
          <path d="M20,3l15,8.5v17L20,37L5,28.5v-17Z" strokeLinejoin="round" />
          <circle cx="20" cy="20" r="7" />
        </svg>
        Part needed
      </button>
      <PlaceLink to={`/find/${job.buildNumber}`} className="no-underline">
        <svg width="40" height="40" viewBox="0 0 40 40" fill="none" stroke="currentColor" strokeWidth="2.6" aria-hidden="true">
          <circle cx="17" cy="17" r="11" />
          <path d="M25,25L35,35M12,17h10M17,12v10" />
        </svg>
        Found something
      </PlaceLink>
    </section>
  );
}

/** Held for a second, so that a glove does not end a job. */
function Done({ onDone, disabled }: { onDone: () => void; disabled: boolean }) {
  const [held, setHeld] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const press = (e?: PointerEvent) => {
    e?.currentTarget.setPointerCapture?.(e.pointerId);
    setHeld(true);
    timer.current ??= setTimeout(() => {
      timer.current = null;
      setHeld(false);
      onDone();
    }, 1000);
  };
  const release = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    setHeld(false);
  };
  return (
    <button
      type="button"
      className="done"
      disabled={disabled}
      data-held={held ? "yes" : "no"}
      onPointerDown={press}
      onPointerUp={release}
      onPointerCancel={release}
      onContextMenu={(e) => e.preventDefault()}
      onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && !e.repeat && press()}
      onKeyUp={(e) => (e.key === "Enter" || e.key === " ") && release()}
    >
      <span className="held" aria-hidden="true" />
      <span>
        <svg width="38" height="34" viewBox="0 0 38 34" fill="none" stroke="currentColor" strokeWidth="5.5" aria-hidden="true">
          <path d="M3,18l10,12L35,3" strokeLinecap="round" strokeLinejoin="round" />
        </svg>
      </span>
      <span>
        Done
        <small>hold for one second</small>
      </span>
    </button>
  );
}

function PartNeeded({ job, onClose, onUnsent }: { job: Job; onClose: () => void; onUnsent: (text: string | null) => void }) {
  const [name, setName] = useState("");
  const [id] = useState(() => newId());
  const send = useSend(
    () =>
      ask(
        api.PUT("/api/builds/{id}/parts/{partId}", {
          params: { path: { id: job.buildId, partId: id } },
          body: {
            name,
            quantity: 1,
            unitCost: 0,
            unitPrice: null,
            supplierId: null,
            clientSupplied: false,
            operationId: job.operationId,
            version: null,
          },
        }),
      ),
    { says: "On the list", onDone: onClose, quiet: true },
  );
  return (
    <form
      className="p-5 bg-p0 border-b border-p3 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate(undefined, {
          onError: (x) =>
            x instanceof KeptUnsent ? onClose() : onUnsent(x instanceof NotSent ? "The part was not sent and is not kept." : null),
        });
      }}
    >
      <TextField label="What is needed?" name="name" value={name} onChange={setName} problem={send.error} autoFocus />
      <div className="flex gap-2">
        <button type="submit" className="btn btn-ink flex-1 min-h-13 text-[17px]" disabled={send.isPending}>
          Put it on the list
        </button>
        <button type="button" className="btn flex-1 min-h-13 text-[17px]" onClick={onClose}>
          Cancel
        </button>
      </div>
    </form>
  );
}
