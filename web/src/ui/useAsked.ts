import { useLocation } from "@tanstack/react-router";

/** What the address asks this page to open, such as the bag of `?bag=`; null: nothing. */
export const useAsked = (what: string): string | null => new URLSearchParams(useLocation({ select: (l) => l.searchStr })).get(what);
