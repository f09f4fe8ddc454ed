import { useBlocker } from "@tanstack/react-router";
import { AlertDialog } from "radix-ui";
import { useState } from "react";

/**
 * Asks before a page is left on which something was entered and not sent: by a link, by Back, by closing the window.
 * @param unsaved Asked at that moment.
 * @returns The question, to stand somewhere on the page; and a way to ask the same before anything else that would lose it.
 */
export function useLeavingGuard(unsaved: () => boolean) {
  const away = useBlocker({ shouldBlockFn: unsaved, enableBeforeUnload: unsaved, withResolver: true });
  const [then, setThen] = useState<(() => void) | null>(null);
  const stay = () => {
    away.reset?.();
    setThen(null);
  };
  const leave = () => {
    away.proceed?.();
    then?.();
    setThen(null);
  };
  const question = (
    <AlertDialog.Root open={away.status === "blocked" || then !== null} onOpenChange={(open) => !open && stay()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="sheet-back" />
        <AlertDialog.Content className="guard-question" aria-describedby={undefined}>
          <AlertDialog.Title className="font-[650] mb-2">Leave without saving? What you entered is lost.</AlertDialog.Title>
          <div className="flex gap-2">
            <AlertDialog.Cancel className="btn btn-ink">Keep editing</AlertDialog.Cancel>
            <button type="button" className="btn" onClick={leave}>
              Leave
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
  return { question, before: (next: () => void) => (unsaved() ? setThen(() => next) : next()) };
}
