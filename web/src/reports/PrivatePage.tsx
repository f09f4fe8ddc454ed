import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { api, ask } from "../api/client";
import { day, takeShopWays } from "../format";
import "./print-fonts";
import { ReportView } from "./ReportView";

/** What a client sees behind the private link, without an account. */
export function PrivatePage() {
  const { token } = useParams({ from: "/r/$token" });
  const [number, setNumber] = useState<number | undefined>(undefined);
  const page = useQuery({
    queryKey: ["private", token, number],
    queryFn: () => ask(api.GET("/api/private/{token}", { params: { path: { token }, query: { number } } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  takeShopWays(page.data ? { timeZone: "UTC", currency: page.data.page.currency } : null, undefined);
  useEffect(() => {
    document.title = page.data ? `${page.data.page.title} · ${page.data.page.shop}` : "First Coat";
  }, [page.data]);
  if (page.isError)
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
      <ReportView
        page={page.data.page}
        body={page.data.body}
        photo={(hash) => `/api/private/${encodeURIComponent(token)}/photos/${hash}`}
      />
    </main>
  );
}
