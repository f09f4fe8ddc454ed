import { useBlocker } from "@tanstack/react-router";
import { Dialog } from "radix-ui";
import { type FormEvent, type ReactNode, useState } from "react";

/** Whoever opens a form types in it at once. */
function toFirstField(e: Event) {
  const first = (e.currentTarget as HTMLElement).querySelector<HTMLElement>("form input, form select, form textarea");
  if (first) {
    e.preventDefault();
    first.focus();
  }
}

/** Whoever closes it goes on where it was opened; where that is gone, at the page. */
function goBackTo(opener: Element | null) {
  const there = opener instanceof HTMLElement && opener.isConnected && opener !== document.body;
  (there ? opener : document.getElementById("page"))?.focus();
}

/** A form beside the picture, never instead of it. What was entered in it is not lost by a slip: closing asks first. Back closes it. */
export function Sheet({ title, note, onClose, children }: { title: string; note?: string; onClose: () => void; children: ReactNode }) {
  const [entered, setEntered] = useState(false);
  const [asking, setAsking] = useState(false);
  // Asked while it is drawn for the first time: a field of it takes the hand before anything else hears of it.
  const [opener] = useState(() => document.activeElement);
  // What stands in a form counts; a search or a switch beside one is done at once.
  const noteEntry = (e: FormEvent) => setEntered((was) => was || (e.target as HTMLElement).closest("form") !== null);
  const leave = () => {
    setEntered(false);
    setAsking(false);
    onClose();
  };
  const close = () => (entered ? setAsking(!asking) : leave());
  useBlocker({
    enableBeforeUnload: () => entered,
    shouldBlockFn: ({ action }) => {
      const back = action === "BACK" || action === "GO";
      if (back) close();
      return back;
    },
  });
  return (
    <Dialog.Root open onOpenChange={(o) => !o && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="sheet-back" />
        <Dialog.Content
          className="sheet"
          aria-describedby={undefined}
          onChange={noteEntry}
          onOpenAutoFocus={toFirstField}
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            goBackTo(opener);
          }}
        >
          <div className="flex items-start gap-3 mb-3">
            <Dialog.Title className="flex-1 text-[18px] font-[720] flare">{title}</Dialog.Title>
            <Dialog.Close className="btn" aria-label="Close">
              Close
            </Dialog.Close>
          </div>
          {asking && (
            <div role="alert" className="border-t-4 border-oxide bg-p0 px-3 py-2 mb-3">
              <p className="font-[650]">Leave without saving? What you entered is lost.</p>
              <div className="flex gap-2 mt-2">
                <button type="button" className="btn btn-ink" onClick={() => setAsking(false)}>
                  Keep editing
                </button>
                <button type="button" className="btn" onClick={leave}>
                  Leave
                </button>
              </div>
            </div>
          )}
          {note && <p className="text-ink2 mb-3">{note}</p>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
