import { useEffect } from "react";

/** Tells the printing browser that words, fonts and pictures of a page are there. */
export function usePrintReady(there: boolean) {
  useEffect(() => {
    if (!there) return;
    const ready = async () => {
      await document.fonts.ready;
      await Promise.all([...document.images].map((i) => i.decode().catch(() => undefined)));
      document.documentElement.dataset.ready = "yes";
    };
    void ready();
  }, [there]);
}
