import type { ReactNode } from "react";
import { words } from "../format";
import { Dab } from "../ui/Dab";
import { useThisBuild } from "./useBuild";

/** A figure of a build's head, with what it is above it. */
export function HeadFigure({ name, value, alarm }: { name: string; value: ReactNode; alarm?: boolean }) {
  return (
    <div>
      <dt className="text-[11px] text-ink2">{name}</dt>
      <dd className={`text-[15px] font-[680] leading-[1.1] ${alarm ? "text-oxide" : ""}`}>{value}</dd>
    </div>
  );
}

/** Whose build it is, with the figures that matter on this page, and what stands below them. */
export function BuildHead({ figures, children }: { figures: ReactNode; children: ReactNode }) {
  const card = useThisBuild();
  return (
    <div className="grid grid-cols-[58px_1fr_auto] items-center">
      <Dab number={card.number} colour={card.colourHex} w={51} h={29} size={19} />
      <div>
        <h1>{card.title}</h1>
        <p className="text-[12.5px] text-ink2">
          {[card.year, words(card.style)].filter(Boolean).join(" ")}, for {card.client}
        </p>
        {card.status === "open" && card.firstMove && (
          <p className="text-[12.5px]">
            <b className="font-[650]">First move:</b> {card.firstMove}
          </p>
        )}
      </div>
      <dl className="flex gap-[14px]">{figures}</dl>
      {children}
    </div>
  );
}
