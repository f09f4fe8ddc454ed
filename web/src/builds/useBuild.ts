import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { buildsQuery, cardQuery } from "../api/queries";

/** The card of the build in the address bar; undefined while it loads, null when there is none. */
export function useCard() {
  const { number } = useParams({ strict: false });
  const builds = useQuery(buildsQuery);
  const open = builds.data?.find((b) => b.number === Number(number));
  const ended = useQuery({ ...cardQuery(Number(number)), enabled: !!builds.data && !open });
  if (!builds.data) return undefined;
  return open ?? ended.data ?? (ended.isError ? null : undefined);
}

/** The same inside a build's page, where it is there. */
export function useThisBuild() {
  const card = useCard();
  if (!card) throw new Error("Used outside a build's page.");
  return card;
}
