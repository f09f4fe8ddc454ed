import type { ReactNode } from "react";
import { useUser } from "../api/queries";

/** A page for some roles: whoever else follows a link to it is told whose it is. */
export function OnlyFor({ may, whose, children }: { may: boolean; whose: string; children: ReactNode }) {
  const user = useUser();
  if (may) return children;
  return (
    <section className="px-5 pt-3 pb-10 max-w-[60ch]">
      <h1>{whose}</h1>
      <p className="mt-2">
        You are signed in as {user?.name}, {user?.role}. If you need something from it, ask the manager.
      </p>
    </section>
  );
}
