import { useMutation } from "@tanstack/react-query";
import { toast } from "sonner";
import { queries } from "../api/queries";

/** Sends a change; on success everything that may show it is asked for again. */
export function useSend<A, R>(send: (a: A) => Promise<R>, options: { says?: string; onDone?: (r: R, a: A) => void; quiet?: boolean } = {}) {
  return useMutation({
    mutationFn: send,
    onSuccess: async (r, a) => {
      options.onDone?.(r, a);
      if (options.says) toast.success(options.says);
      await queries.invalidateQueries({ predicate: (q) => !["styles", "templates", "unfolded"].includes(String(q.queryKey[0])) });
    },
    onError: (e) => {
      if (!options.quiet) toast.error(e.message);
    },
  });
}
