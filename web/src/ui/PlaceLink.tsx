import { useNavigate } from "@tanstack/react-router";
import type { ComponentProps } from "react";

/** A link to a place of the application: opens in this page, or in a window of its own with the browser's keys for that. */
export function PlaceLink({ to, ...rest }: { to: string } & Omit<ComponentProps<"a">, "href" | "onClick">) {
  const navigate = useNavigate();
  return (
    <a
      {...rest}
      href={to}
      onClick={(e) => {
        if (e.metaKey || e.ctrlKey || e.shiftKey) return;
        e.preventDefault();
        void navigate({ to });
      }}
    />
  );
}
