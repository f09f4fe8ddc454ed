import { useMutation } from "@tanstack/react-query";
import { Problem } from "../api/client";
import { askAgain } from "../api/queries";
import { KeptUnsent } from "../api/unsent";
import { say } from "./say";

/**
 * Sends a change; work that cannot be sent now is kept and goes by itself (`onKept`). On success everything that may show it is asked for again.
 */
export function useSend<A, R>(
  send: (a: A) => Promise<R>,
  options: { says?: string; onDone?: (r: R, a: A) => void; onKept?: () => void; quiet?: boolean } = {},
) {
  return useMutation({
    mutationFn: send,
    onSuccess: async (r, a) => {
      options.onDone?.(r, a);
      if (options.says) say.done(options.says);
      await askAgain();
    },
    onError: async (e) => {
      if (e instanceof KeptUnsent) {
        say.note(e.message);
        options.onKept?.();
        return;
      }
      if (!options.quiet) say.wrong(e.message);
      // Somebody was faster: what they wrote is fetched, so that the form can show it.
      if (e instanceof Problem && e.status === 409) await askAgain();
    },
  });
}
