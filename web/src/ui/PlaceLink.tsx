import { useNavigate, useRouter } from "@tanstack/react-router";
import type { ComponentProps } from "react";

/**
 * A link to a place of the application: opens in this page, or in a window of its own with the browser's keys for that.
 * What it leads to is fetched as soon as somebody means it.
 */
export function PlaceLink({ to, ...rest }: { to: string } & Omit<ComponentProps<"a">, "href" | "onClick" | "onMouseEnter" | "onFocus">) {
  const navigate = useNavigate();
  const router = useRouter();
  const mean = () => void router.preloadRoute({ to }).catch(() => undefined);
  return (
    <a
      {...rest}
      href={to}
      onMouseEnter={mean}
      onFocus={mean}
      onClick={(e) => {
        if (e.metaKey || e.ctrlKey || e.shiftKey) return;
        e.preventDefault();
        void navigate({ to });
      }}
    />
  );
}
