import { useEffect } from "react";

/** Below this width tables stand as lists: the style sheet's own limit. */
export const PHONE = "(max-width: 640px)";

/** Gives each cell of a table of rows the name of its column, by which it is known where columns do not fit beside each other. */
export function nameCells(within: ParentNode) {
  for (const table of within.querySelectorAll<HTMLTableElement>("table.rows")) {
    const names = [...(table.tHead?.rows[0]?.cells ?? [])].flatMap((c) => Array<string>(c.colSpan).fill(c.textContent?.trim() ?? ""));
    for (const row of [...table.tBodies, ...(table.tFoot ? [table.tFoot] : [])].flatMap((b) => [...b.rows])) {
      let column = 0;
      for (const cell of row.cells) {
        const name = column > 0 && cell.textContent?.trim() ? (names[column] ?? "") : "";
        if ((cell.dataset.name ?? "") !== name) cell.dataset.name = name;
        column += cell.colSpan;
      }
    }
  }
}

/** Keeps the cells' names while the page is as narrow as a phone. */
export function useCellNames() {
  useEffect(() => {
    const phone = window.matchMedia?.(PHONE);
    if (!phone) return;
    let due = 0;
    const soon = () => {
      if (!phone.matches || due) return;
      due = requestAnimationFrame(() => {
        due = 0;
        nameCells(document);
      });
    };
    const changes = new MutationObserver(soon);
    changes.observe(document.body, { childList: true, subtree: true, characterData: true });
    phone.addEventListener("change", soon);
    soon();
    return () => {
      changes.disconnect();
      phone.removeEventListener("change", soon);
      cancelAnimationFrame(due);
    };
  }, []);
}
