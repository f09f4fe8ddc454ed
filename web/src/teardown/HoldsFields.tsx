import type { Schemas } from "../api/client";
import { CheckField, NumberField, TextField } from "../ui/Field";
import { ListField } from "../ui/ListField";

type Piece = Schemas["BagPiece"];
type Fastener = Schemas["BagFastener"];

/** What a bag holds: pieces and fasteners, as they were counted. */
export function HoldsFields({
  pieces,
  fasteners,
  onPieces,
  onFasteners,
}: {
  pieces: Piece[];
  fasteners: Fastener[];
  onPieces: (rows: Piece[]) => void;
  onFasteners: (rows: Fastener[]) => void;
}) {
  return (
    <>
      <ListField legend="Pieces" rows={pieces} onChange={onPieces} add="Another piece" next={() => ({ name: "", count: 1 })}>
        {(p, change) => (
          <>
            <TextField className="flex-1" label="piece" value={p.name} onChange={(name) => change({ name })} />
            <NumberField className="w-16" label="how many" value={p.count} onChange={(n) => change({ count: n ?? 0 })} />
          </>
        )}
      </ListField>
      <ListField
        legend="Fasteners"
        rows={fasteners}
        onChange={onFasteners}
        add="Add fasteners"
        next={() => ({ kind: "screw", head: "", thread: "", finish: "", count: 4, shows: false, destroyed: 0 }) as Fastener}
      >
        {(x, change) => (
          <div className="grid grid-cols-3 gap-2 flex-1 border-t border-p2 pt-1">
            <TextField label="kind" value={x.kind} onChange={(kind) => change({ kind })} />
            <TextField label="head" value={x.head} onChange={(head) => change({ head })} />
            <TextField label="thread" value={x.thread} onChange={(thread) => change({ thread })} />
            <TextField label="finish" value={x.finish} onChange={(finish) => change({ finish })} />
            <NumberField label="count" value={x.count} onChange={(n) => change({ count: n ?? 0 })} />
            <NumberField label="destroyed" value={x.destroyed} onChange={(n) => change({ destroyed: n ?? 0 })} />
            <CheckField label="is seen" value={x.shows} onChange={(shows) => change({ shows })} />
          </div>
        )}
      </ListField>
    </>
  );
}
