import type { Schemas } from "../api/client";
import { dateOf, day } from "../format";

/** A photo on a client's page, with what it shows, who took it and when. */
export function PagePicture({ of: p, photo }: { of: Schemas["PagePhoto"]; photo: (hash: string) => string }) {
  return (
    <figure>
      <img src={photo(p.hash)} alt={p.caption || "Workshop photo"} width={p.width} height={p.height} className="w-full h-auto" />
      <figcaption>
        <b className="text-ink font-[660]">{p.caption || "Workshop"}</b> {p.by}, {day(dateOf(p.takenAt))}
      </figcaption>
    </figure>
  );
}
