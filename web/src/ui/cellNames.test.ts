import { expect, it } from "vitest";
import { nameCells } from "./cellNames";

it("names each cell after its column, over several columns too, but neither the first nor an empty one", () => {
  document.body.innerHTML = `<table class="rows"><thead><tr><th>What</th><th colspan="2">When</th><th>Cost</th></tr></thead>
    <tbody><tr><td>Wing</td><td>Mon</td><td></td><td>£3.00</td></tr><tr><td colspan="3">All</td><td>£9.00</td></tr></tbody>
    <tfoot><tr><th colspan="3">Total</th><td>£12.00</td></tr></tfoot></table>
    <table><thead><tr><th>A</th><th>B</th></tr></thead><tbody><tr><td>1</td><td>2</td></tr></tbody></table>`;
  nameCells(document);
  const names = [...document.querySelectorAll("td")].map((c) => c.dataset.name ?? "");
  expect(names).toEqual(["", "When", "", "Cost", "", "Cost", "Cost", "", ""]);
  const empty = document.querySelectorAll("td")[2];
  if (empty) empty.textContent = "Tue";
  nameCells(document);
  expect(empty?.dataset.name).toBe("When");
});
