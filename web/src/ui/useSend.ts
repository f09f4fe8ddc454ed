import { useMutation } from "@tanstack/react-query";
import { toast } from "sonner";
import { Problem } from "../api/client";
import { askAgain } from "../api/queries";

/** Sends a change; on success everything that may show it is asked for again. */
export function useSend<A, R>(send: (a: A) => Promise<R>, options: { says?: string; onDone?: (r: R, a: A) => void; quiet?: boolean } = {}) {
  return useMutation({
    mutationFn: send,
    onSuccess: async (r, a) => {
      options.onDone?.(r, a);
      if (options.says) toast.success(options.says);
      await askAgain();
    },
    onError: async (e) => {
      if (!options.quiet) toast.error(e.message);
      // Somebody was faster: what they wrote is fetched, so that the form can show it.
      if (e instanceof Problem && e.status === 409) await askAgain();
    },
  });
}
