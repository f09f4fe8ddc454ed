import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A form beside the picture, never instead of it. */
export function Sheet({
  open,
  title,
  note,
  onClose,
  children,
}: {
  open: boolean;
  title: string;
  note?: string;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="sheet-back" />
        <Dialog.Content className="sheet" aria-describedby={undefined}>
          <div className="flex items-start gap-3 mb-3">
            <Dialog.Title className="flex-1 text-[18px] font-[720] flare">{title}</Dialog.Title>
            <Dialog.Close className="btn" aria-label="Close">
              Close
            </Dialog.Close>
          </div>
          {note && <p className="text-ink2 mb-3">{note}</p>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
