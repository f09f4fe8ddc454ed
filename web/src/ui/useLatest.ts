import { useRef, useState } from "react";

/**
 * State that event handlers read as it is now, not as it was last drawn: on a busy machine several pointer events come
 * between two drawings, and the last of them decides.
 */
export function useLatest<T>(first: T) {
  const [drawn, setDrawn] = useState(first);
  const latest = useRef(first);
  const set = (to: T) => {
    latest.current = to;
    setDrawn(() => to);
  };
  return { drawn, latest, set };
}
