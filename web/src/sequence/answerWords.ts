import type { Schemas } from "../api/client";

/** The questions on which practitioners differ, and what each answer is called and means. */
export const SCHOOLS: Record<Schemas["School"], { title: string; answers: Record<string, readonly [name: string, says: string]> }> = {
  order: {
    title: "Paint and road",
    answers: {
      "paint-then-assemble": ["Paint, then assemble", "the shell goes to colour before it has run"],
      "drive-first": ["Drive first, then paint", "built bare, driven, taken apart, painted, built"],
    },
  },
  hold: {
    title: "The shell is held",
    answers: {
      ownChassis: ["On its own chassis", "nothing to set, access from above"],
      jig: ["On the jig", "set to its datum, stands in one place"],
      cart: ["On the level cart", "rolls between stations"],
      rotisserie: ["In the rotisserie", "the underside at bench height"],
      wheels: ["On its wheels", "chocked and levelled where it stands"],
    },
  },
  sides: {
    title: "Sides",
    answers: {
      oneAtATime: ["One side at a time", "the other side is the reference"],
      both: ["Both opened together", "two pairs of hands, no reference"],
    },
  },
  blast: {
    title: "Blasting",
    answers: {
      bareFirst: ["Bare, before metalwork", "all is seen before it is cut"],
      afterFabrication: ["Once, after all fabrication", "one set-up, its first coat is the epoxy"],
      whereNeeded: ["Only where needed", "pitted places; the rest by hand"],
    },
  },
  filler: {
    title: "Filler",
    answers: {
      epoxyFirst: ["On scuffed epoxy", "metal is sealed from the first day"],
      fillerFirst: ["On bare metal, epoxy over it", "metal stays open while it is shaped"],
    },
  },
  gaps: {
    title: "Gaps are judged",
    answers: {
      both: ["Before any finish and after a uniform coat", "looked at twice"],
      beforeFinish: ["Before any finish", "while the metal is open"],
      afterUniformCoat: ["After a uniform coat", "one colour shows what bare metal hides"],
    },
  },
  wiring: {
    title: "Wiring",
    answers: {
      afterPaint: ["After paint", "no loom in the way of the gun"],
      onBareMetal: ["Roughed in on bare metal", "holes and clips are found before colour"],
    },
  },
  trim: {
    title: "Trim",
    answers: {
      inHouse: ["In house", "by somebody of the shop"],
      visiting: ["By an upholsterer who comes here", "on their own days, in a bay of ours"],
    },
  },
};

export const answerName = (school: Schemas["School"], key: string) => SCHOOLS[school].answers[key]?.[0] ?? key;
