import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { buildsQuery } from "../api/queries";

/** The card of the build in the address bar; undefined while it loads, null when there is none. */
export function useCard() {
  const { number } = useParams({ strict: false });
  const builds = useQuery(buildsQuery);
  if (!builds.data) return undefined;
  return builds.data.find((b) => b.number === Number(number)) ?? null;
}

/** The same inside a build's page, where it is there. */
export function useThisBuild() {
  const card = useCard();
  if (!card) throw new Error("Used outside a build's page.");
  return card;
}
