import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useEffect } from "react";
import { api, ask } from "../api/client";
import { takePageWays } from "../format";
import "../ui/print-fonts";
import { usePrintReady } from "../ui/usePrintReady";
import { AnswerBox } from "./AnswerBox";
import { PaperView } from "./PaperView";

/** The page that the printing browser opens; it says when everything on it is there. */
export function PaperPrintPage() {
  const { ticket } = useParams({ from: "/print/papers/$ticket" });
  const page = useQuery({
    queryKey: ["print-paper", ticket],
    queryFn: async () => {
      const page = await ask(api.GET("/api/print/papers/{ticket}", { params: { path: { ticket } } }));
      takePageWays({ page });
      return page;
    },
    retry: false,
  });
  usePrintReady(page.data !== undefined);
  if (!page.data) return null;
  return (
    <div className="paper-page">
      <PaperView page={page.data} photo={(hash) => `/api/print/papers/${ticket}/photos/${hash}`} />
    </div>
  );
}

/** An estimate or change order behind the client's link, with what it needs to be answered. */
export function PrivatePaperPage() {
  const { token, id } = useParams({ from: "/r/$token/papers/$id" });
  // Answering needs the token against forgery, which comes with the session.
  useQuery({ queryKey: ["private-session"], queryFn: () => ask(api.GET("/api/session")) });
  const path = { params: { path: { token, id } } };
  const paper = useQuery({
    queryKey: ["private-paper", token, id],
    queryFn: async () => takePageWays(await ask(api.GET("/api/private/{token}/papers/{id}", path))),
    retry: false,
  });
  useEffect(() => {
    document.title = paper.data ? `${paper.data.page.title} · ${paper.data.page.shop}` : "First Coat";
  }, [paper.data]);
  if (paper.isError)
    return (
      <main className="paper-page grid place-items-center p-6">
        <div className="max-w-[420px]">
          <h1>Nothing here</h1>
          <p className="mt-2 text-[15px]">{paper.error.message}</p>
        </div>
      </main>
    );
  if (!paper.data)
    return (
      <main className="paper-page p-6">
        <p>Loading…</p>
      </main>
    );
  const base = `/api/private/${encodeURIComponent(token)}/papers/${id}`;
  return (
    <main className="paper-page">
      <nav className="no-print max-w-[1208px] mx-auto px-5 pt-3 flex flex-wrap gap-2 items-center" aria-label="This paper">
        <a className="btn" href={`/r/${token}`}>
          All from {paper.data.page.shop}
        </a>
        <span className="flex-1" />
        <a className="btn" href={`${base}/pdf?paper=a4`} download>
          PDF, A4
        </a>
        <a className="btn" href={`${base}/pdf?paper=letter`} download>
          PDF, Letter
        </a>
      </nav>
      <PaperView page={paper.data.page} photo={(hash) => `${base}/photos/${hash}`} />
      <AnswerBox token={token} paper={paper.data} />
    </main>
  );
}
