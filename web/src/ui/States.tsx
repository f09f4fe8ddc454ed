import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";

/** Waits, says what went wrong, or shows. */
export function Shown<T>({ of, children, quiet }: { of: UseQueryResult<T>; children: (data: T) => ReactNode; quiet?: boolean }) {
  if (of.data !== undefined) return <>{children(of.data)}</>;
  if (of.isError)
    return (
      <div className="p-5" role="alert">
        <p className="wrong">{of.error.message}</p>
        <button type="button" className="btn mt-2" onClick={() => of.refetch()}>
          Try again
        </button>
      </div>
    );
  return quiet ? null : (
    <p className="p-5 text-ink2" aria-live="polite">
      Loading…
    </p>
  );
}

export const Empty = ({ children }: { children: ReactNode }) => <p className="text-ink2 py-3">{children}</p>;
