import { PlaceLink } from "./PlaceLink";

/** To a sum of the bench with a build's figures in it already. */
export const BenchLink = ({ sum, build, from, children }: { sum: string; build: number; from: string; children: React.ReactNode }) => (
  <PlaceLink to={`/bench/${sum}?build=${build}&from=${encodeURIComponent(from)}`} className="font-[620] inline-flex items-center min-h-7">
    {children}
  </PlaceLink>
);
