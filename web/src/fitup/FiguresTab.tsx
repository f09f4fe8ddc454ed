import { useQuery } from "@tanstack/react-query";
import { useContext } from "react";
import type { Schemas } from "../api/client";
import { bodyQuery, Ended, figuresQuery, useUser } from "../api/queries";
import { useThisBuild } from "../builds/useBuild";
import { f, middleOf } from "../geometry";
import { PanelMap } from "../pictures/PanelMap";
import { CHALK, GUIDE, OXIDE_LT } from "../tokens";
import { Shown } from "../ui/States";
import { mm } from "./fitWords";
import { Bolts, Mounts } from "./Mounts";
import { OutOfReach } from "./OutOfReach";
import { Centres, Mirrors, Specs } from "./SpecSections";

export type AllFigures = Schemas["FiguresView"];
type Body = Schemas["BodyView"];

/** What a section of the page needs: the build, its panels to choose from, and whether this may be changed. */
export type SectionProps = { buildId: string; panels: readonly (readonly [string, string])[]; may: boolean };

/** Figures against their papers, middles, the sound side as the other's target, mounts, bolts and what gets out of reach. */
export function FiguresTab() {
  const card = useThisBuild();
  const figures = useQuery(figuresQuery(card.id));
  const body = useQuery(bodyQuery(card.id));
  const role = useUser()?.role;
  const ended = useContext(Ended);
  const may = (role === "manager" || role === "technician") && !ended;
  return (
    <Shown of={figures}>
      {(all) => (
        <Shown of={body}>
          {(b) => {
            const panels = b.body.panels.map((p) => [p.key, p.name] as const);
            const props: SectionProps = { buildId: card.id, panels, may };
            return (
              <div className="figures">
                <div className="gaps-map bg-guide text-chalk on-guide">
                  <p className="px-4 pt-3">
                    <b className="text-[15px]">Where it is measured</b>{" "}
                    <span className="text-chalk2">middles: where the mark goes; sides: what the other should read</span>
                  </p>
                  <PanelMap
                    body={b.body}
                    states={b.panels}
                    paint={card.colourHex}
                    width={440}
                    height={640}
                    ruler={false}
                    legend={false}
                    overlay={(one) => <Marks marks={marksOf(all, b.body)} one={one} />}
                    marked={marksOf(all, b.body)}
                  />
                </div>
                <div className="side px-5 pt-[14px] pb-6 min-w-0">
                  <h1 className="text-[16px] font-[720] flare">Figures</h1>
                  <Specs of={all.specs} {...props} />
                  <Centres of={all.centres} {...props} />
                  <Mirrors of={all.mirrors} {...props} />
                  <Mounts of={all.mounts} {...props} />
                  <Bolts of={all.bolts} {...props} />
                  <OutOfReach buildId={card.id} may={may} />
                </div>
              </div>
            );
          }}
        </Shown>
      )}
    </Shown>
  );
}

type Mark = { key: string; x: number; y: number; words: string; wrong: boolean };

/** One mark a panel, with what is measured there; what is out comes first. */
export function marksOf(all: AllFigures, body: Body): Mark[] {
  const said: { panel: string; words: string; wrong: boolean }[] = [
    ...all.specs
      .filter((s) => s.readings.length > 0)
      .map((s) => ({ panel: s.panel, words: `${s.readings.at(-1)?.value} ${s.unit}`, wrong: s.isOut })),
    ...all.centres.map((c) => ({
      panel: c.panel,
      words: c.isCentred ? "in the middle" : `${mm(Math.abs(c.moveRightMm))} ${c.moveRightMm > 0 ? "right" : "left"}`,
      wrong: !c.isCentred,
    })),
    ...all.mirrors
      .filter((m) => m.targetMm != null)
      .map((m) => ({
        panel: m.panel,
        words: m.offMm == null ? `to be ${mm(m.targetMm ?? 0)}` : `off by ${mm(Math.abs(m.offMm))}`,
        wrong: m.isOut,
      })),
  ];
  return body.panels.flatMap((p) => {
    const here = said.filter((s) => s.panel === p.key).sort((a, b) => Number(b.wrong) - Number(a.wrong));
    const first = here[0];
    if (!first) return [];
    const more = here.length > 1 ? `, ${here.length - 1} more` : "";
    return [{ key: p.key, ...middleOf(p.path), words: first.words + more, wrong: first.wrong }];
  });
}

function Marks({ marks, one }: { marks: Mark[]; one: number }) {
  return (
    <g>
      {marks.map((m) => (
        <text
          key={m.key}
          x={f(m.x)}
          y={f(m.y)}
          textAnchor="middle"
          fontSize={14 * one}
          fontWeight={700}
          className="halo"
          stroke={GUIDE}
          fill={m.wrong ? OXIDE_LT : CHALK}
        >
          {m.words}
        </text>
      ))}
    </g>
  );
}
