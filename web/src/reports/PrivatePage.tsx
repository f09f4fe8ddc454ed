import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { day, takePageWays } from "../format";
import "../ui/print-fonts";
import { ReportView } from "./ReportView";

/** Estimates and change orders behind the link, those that wait for a word first. */
function PapersList({ token, papers }: { token: string; papers: Schemas["PrivatePaperRow"][] }) {
  const open = papers.filter((p) => p.state === "sent");
  const rest = papers.filter((p) => p.state !== "sent");
  return (
    <ul className="my-3" aria-label="Estimate and changes">
      {[...open, ...rest].map((p) => (
        <li key={p.id} className={`py-2 pl-3 mb-2 border-l-[5px] ${p.state === "sent" ? "border-oxide" : "border-paper-rule"}`}>
          <a href={`/r/${token}/papers/${p.id}`} className="font-[680] text-[15px]">
            {p.name}: {p.title}
          </a>
          <span className="block text-ink2">
            {p.state === "sent" ? `waits for your answer, by ${day(p.answerBy)}` : p.state === "accepted" ? "agreed" : "declined"}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What a client sees behind the private link, without an account. */
export function PrivatePage() {
  const { token } = useParams({ from: "/r/$token" });
  const [number, setNumber] = useState<number | undefined>(undefined);
  const page = useQuery({
    queryKey: ["private", token, number],
    queryFn: async () => takePageWays(await ask(api.GET("/api/private/{token}", { params: { path: { token }, query: { number } } }))),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const papers = useQuery({
    queryKey: ["private-papers", token],
    queryFn: () => ask(api.GET("/api/private/{token}/papers", { params: { path: { token } } })),
    retry: false,
  });
  useEffect(() => {
    document.title = page.data ? `${page.data.page.title} · ${page.data.page.shop}` : "First Coat";
  }, [page.data]);
  if (page.isError && papers.data && papers.data.length > 0)
    return (
      <main className="paper-page p-6">
        <h1>Your documents</h1>
        <PapersList token={token} papers={papers.data} />
      </main>
    );
  if (page.isError && !papers.isPending)
    return (
      <main className="paper-page grid place-items-center p-6">
        <div className="max-w-[420px]">
          <h1>Nothing here</h1>
          <p className="mt-2 text-[15px]">{page.error.message}</p>
        </div>
      </main>
    );
  if (!page.data)
    return (
      <main className="paper-page p-6">
        <p>Loading…</p>
      </main>
    );
  const pdf = (paper: string) => `/api/private/${encodeURIComponent(token)}/pdf?paper=${paper}&number=${page.data.page.number}`;
  return (
    <main className="paper-page">
      <nav className="no-print max-w-[1208px] mx-auto px-5 pt-3 flex flex-wrap gap-2 items-center" aria-label="Reports">
        {page.data.others.length > 1 &&
          page.data.others.map((o) => (
            <button
              key={o.number}
              type="button"
              className={`btn ${o.number === page.data.page.number ? "btn-ink" : ""}`}
              aria-pressed={o.number === page.data.page.number}
              onClick={() => setNumber(o.number)}
            >
              Report {o.number}, {day(o.on)}
            </button>
          ))}
        <span className="flex-1" />
        <button type="button" className="btn" onClick={() => window.print()}>
          Print
        </button>
        <a className="btn" href={pdf("a4")} download>
          PDF, A4
        </a>
        <a className="btn" href={pdf("letter")} download>
          PDF, Letter
        </a>
      </nav>
      {papers.data && papers.data.length > 0 && (
        <div className="no-print max-w-[1208px] mx-auto px-5">
          <PapersList token={token} papers={papers.data} />
        </div>
      )}
      <ReportView
        page={page.data.page}
        body={page.data.body}
        photo={(hash) => `/api/private/${encodeURIComponent(token)}/photos/${hash}`}
      />
    </main>
  );
}
