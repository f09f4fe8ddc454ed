import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { api, ask } from "../api/client";
import { takePageWays } from "../format";
import "../ui/print-fonts";
import { usePrintReady } from "../ui/usePrintReady";
import { ReportView } from "./ReportView";

/** The page that the printing browser opens; it says when everything on it is there. */
export function PrintPage() {
  const { ticket } = useParams({ from: "/print/$ticket" });
  const page = useQuery({
    queryKey: ["print", ticket],
    queryFn: async () => takePageWays(await ask(api.GET("/api/print/{ticket}", { params: { path: { ticket } } }))),
    retry: false,
  });
  usePrintReady(page.data !== undefined);
  if (!page.data) return null;
  return (
    <div className="paper-page">
      <ReportView page={page.data.page} body={page.data.body} photo={(hash) => `/api/print/${ticket}/photos/${hash}`} />
    </div>
  );
}
