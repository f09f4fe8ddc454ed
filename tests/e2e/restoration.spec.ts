import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import { accessible, goTo, letters, openShop, pageOf, scanned, send, shopOf, signIn, textOf } from "./shop";

// A restoration in a shop of its own: it arrives, is surveyed, estimated and accepted, taken apart,
// more is found and agreed to, and everything that came off is back on.

test.describe.configure({ mode: "serial" });

const SHOP = shopOf("RESTORATION");
const EMAIL = "ottilie@example.org";
let desk: Page;
let phone: Page;
let client: Page;
let id = "";
let link = "";

type Found = { id: string; number: number; place: string };
const survey = async () => (await (await desk.request.get(`/api/builds/${id}/survey`)).json()) as { findings: Found[] };
const papers = async () =>
  (await (await desk.request.get(`/api/builds/${id}/papers`)).json()) as { acceptedAt: string | null; agreed: number; papers: { id: string; kind: string; net: number; state: string }[] };
const pounds = (text: string) => Number(text.replace(/[£,]/g, ""));
const code = () => /Code: (\d{6})/.exec(letters(EMAIL, SHOP.mail).filter((l) => l.includes("Code:")).at(-1) ?? "")?.[1] ?? "";

test.beforeAll(async ({ browser }) => {
  [, desk] = await pageOf(browser, { width: 1280, height: 800 }, SHOP.url);
  [, phone] = await pageOf(browser, { width: 390, height: 844 }, SHOP.url);
  [, client] = await pageOf(browser, { width: 1000, height: 900 }, SHOP.url);
  await openShop(desk);
  await signIn(phone, "tove");
  await expect(phone).toHaveURL(/clock/);
});

async function find(place: string, kind: string, note: string) {
  await phone.goto("/find/8");
  await phone.getByRole("button", { name: place, exact: true }).first().click();
  await phone.getByRole("button", { name: kind, exact: true }).click();
  await phone.getByRole("button", { name: "goes through" }).click();
  await phone.getByLabel("Note").fill(note);
  await phone.getByRole("button", { name: "Keep it" }).click();
  await expect(phone).toHaveURL(/clock/);
}

const way = (verdict: string, hours: number, part: number) => ({ verdict, hours, trade: "mechanic", material: 0, sheetM2Price: 0, part, freight: 0, leadDays: 0, riskPercent: 0, notSold: false });

/** Judged, chosen and agreed as the survey page does it; that page itself is walked in the first journey. */
async function decide(f: Found, hours: number) {
  await send(desk, "PUT", `/api/findings/${f.id}/options`, { options: [way("repair", hours, 0), way("replace", hours, 90)], version: null });
  await send(desk, "POST", `/api/findings/${f.id}/choose`, { verdict: "repair", reason: "the rest rings" });
  await send(desk, "POST", `/api/findings/${f.id}/agree`);
  await send(desk, "POST", `/api/findings/${f.id}/apply`);
}

test("a vehicle arrives: what was promised, what came, what is asked for", async () => {
  await desk.goto("/builds/new");
  await desk.getByLabel("Name", { exact: true }).fill("Ottilie Brand");
  await desk.getByLabel("E-mail").fill(EMAIL);
  await desk.getByLabel("Make").fill("Whimbrel");
  await desk.getByLabel("Model").fill("Courser");
  await desk.getByLabel("Year").fill("1966");
  await desk.getByLabel("Template").selectOption("paint-then-assemble");
  await desk.getByLabel("Build number").fill("8");
  await desk.getByRole("button", { name: "Open the build" }).click();
  await expect(desk).toHaveURL(/builds\/8$/);
  id = (await (await desk.request.get("/api/builds")).json()).find((b: { number: number }) => b.number === 8).id;

  await goTo(desk, "Arrival");
  await desk.getByRole("button", { name: "Write it down" }).click();
  await desk.getByRole("dialog").getByRole("combobox").first().selectOption("rollingShell");
  await desk.getByRole("button", { name: "Another kind of piece" }).click();
  await desk.getByLabel("what", { exact: true }).fill("Head lamps");
  await desk.getByLabel("promised", { exact: true }).fill("2");
  await desk.getByRole("button", { name: "Save", exact: true }).click();
  await expect(desk.getByText(/0 of 2 pieces came/)).toBeVisible();
  await desk.getByRole("button", { name: "Ask for Head lamps" }).click();
  await desk.getByLabel("By", { exact: true }).fill("2026-11-02");
  await desk.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(desk.getByText("by 2 Nov")).toBeVisible();
  await goTo(desk, "Parts");
  await expect(desk.getByRole("row", { name: /Head lamps, from the client.*the client.*expected 2 Nov/ })).toBeVisible();
});

test("ten things are found on the phone and judged at the desk", async () => {
  for (const place of ["L sill", "R sill", "L wing", "R wing", "L door", "R door", "L quarter", "R quarter", "Roof", "Bonnet"]) {
    await find(place, "Rust", `through at the ${place.toLowerCase()}`);
  }
  const found = (await survey()).findings;
  expect(found.map((f) => f.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  for (const f of found) await decide(f, 2 + f.number);
  await desk.goto("/builds/8/survey");
  await expect(desk.getByRole("article", { name: "Finding 1", exact: true }).getByRole("button", { name: "Change the work" })).toBeVisible();
});

test("the estimate goes to the known address and is accepted with a code", async () => {
  await goTo(desk, "Estimate");
  await desk.getByRole("button", { name: "Draft an estimate" }).click();
  const preview = desk.getByRole("region", { name: "As the client sees it" });
  await expect(preview.getByRole("row", { name: /^All work and materials/ })).toBeVisible();
  await desk.getByRole("button", { name: "Add a choice" }).click();
  await desk.getByLabel("What", { exact: true }).last().fill("Second colour on the roof");
  // A choice is work and goods; its price follows: 10 h at the painter's 60.00, with what that uses up.
  const choice = desk.getByRole("group", { name: "For the client to choose" });
  await choice.getByLabel("Hours", { exact: true }).fill("10");
  await choice.getByRole("combobox", { name: "By", exact: true }).selectOption("paint");
  await choice.getByRole("combobox", { name: "In the stage" }).selectOption("colour");
  await desk.getByLabel("Deposit, tax included").fill("2000");
  await expect(desk.getByRole("button", { name: "Send to the client" })).toBeDisabled();
  await desk.getByRole("button", { name: "Save and preview" }).click();
  await accessible(desk, "estimate");
  const adds = pounds(/Adds (£[\d,.]+) net/.exec((await choice.getByText(/Adds £/).textContent()) ?? "")?.[1] ?? "");
  expect(adds).toBeGreaterThanOrEqual(600);
  await desk.getByRole("button", { name: "Send to the client" }).click();
  await desk.getByRole("button", { name: "Send the letter" }).click();
  await expect(desk.getByText(/letter sent 13 Oct/)).toBeVisible();

  const letter = letters(EMAIL, SHOP.mail).find((l) => l.includes("/r/")) ?? "";
  link = /\/r\/[\w-]+\/papers\/[0-9a-f-]{36}/.exec(letter)?.[0] ?? "";
  await client.goto(link);
  await expect(client.getByText(/It is an estimate, not a price/)).toBeVisible();
  await client.getByRole("checkbox", { name: /^A: Second colour/ }).check();
  await client.getByRole("button", { name: "Send me the code" }).click();
  await expect(client.getByText(/on its way to o…@example.org/)).toBeVisible();
  await accessible(client, "the client's estimate");
  await client.getByLabel("Code").fill(code() === "111111" ? "222222" : "111111");
  await client.getByRole("button", { name: "Yes, begin on this" }).click();
  await expect(client.getByRole("alert")).toContainText("does not fit");
  expect((await papers()).acceptedAt).toBeNull();
  await client.getByLabel("Code").fill(code());
  await client.getByRole("button", { name: "Yes, begin on this" }).click();
  await expect(client.getByRole("heading", { name: "Agreed" })).toBeVisible();
  const after = await papers();
  expect(after.agreed).toBeCloseTo((after.papers[0]?.net ?? 0) + adds, 2);
  // What was agreed is work from now on.
  const operations = await (await desk.request.get(`/api/builds/${id}/operations`)).json();
  expect(operations.map((o: { name: string }) => o.name)).toContain("Second colour on the roof");
});

test("the printed estimate is a tagged PDF whose figures add up", async () => {
  const folder = mkdtempSync(join(tmpdir(), "estimate-"));
  const answer = await client.request.get(link.replace("/r/", "/api/private/") + "/pdf?paper=a4", { timeout: 60_000 });
  const bytes = await answer.body();
  expect(bytes.toString("latin1")).toContain("/StructTreeRoot");
  writeFileSync(join(folder, "estimate.pdf"), bytes);
  const text = textOf(join(folder, "estimate.pdf"));
  // A row of the table ends in low, likely and high; what its likely figure is made of may stand before them.
  const amounts = (part: string) => [...part.matchAll(/£[\d,]+\.\d\d/g)].map((m) => pounds(m[0]));
  const [table = "", rest = ""] = text.split("All work and materials");
  const rows = table
    .split("\n")
    .map((l) => amounts(l).slice(-3))
    .filter((row) => row.length === 3);
  expect(rows.length).toBeGreaterThan(6);
  const [low = 0, total = 0, high = 0] = amounts(rest);
  expect(rows.reduce((sum, [, likely]) => sum + (likely ?? 0), 0)).toBeCloseTo(total, 2);
  expect(low).toBeLessThanOrEqual(total);
  expect(high).toBeGreaterThanOrEqual(total);
  const tax = [...rest.matchAll(/Tax on .*% of £[\d,.]+\s+(£[\d,]+\.\d\d)/g)].reduce((sum, m) => sum + pounds(m[1] ?? ""), 0);
  expect(tax).toBeGreaterThan(0);
  expect(total + tax).toBeCloseTo(pounds(/Likely, with tax\s+(£[\d,]+\.\d\d)/.exec(rest)?.[1] ?? ""), 2);
  expect(text).toContain("Not included");
  rmSync(folder, { recursive: true });
});

test("a door comes apart into six bags on the phone; one is lost and found; labels are read", async () => {
  await phone.goto("/builds/8/teardown");
  await phone.getByRole("button", { name: "Take something apart" }).click();
  await phone.getByLabel("Name", { exact: true }).fill("Left door");
  await phone.getByRole("button", { name: "Begin" }).click();
  await expect(phone.getByRole("button", { name: "Left door, 0 of 9 off" })).toBeVisible();
  await accessible(phone, "teardown on the phone");
  let cautions = 0;
  for (let i = 1; i <= 6; i++) {
    const doing = phone.getByRole("button", { name: "Doing", exact: true });
    const caution = phone.getByRole("button", { name: "I have read this: start" });
    await doing.click();
    await expect(caution.or(phone.getByRole("button", { name: "Doing", pressed: true }))).toBeVisible();
    if (await caution.isVisible()) {
      cautions++;
      await caution.click();
    }
    await expect(phone.getByRole("button", { name: "Doing", pressed: true })).toBeVisible();
    await phone.getByRole("button", { name: "Removed", exact: true }).click();
    const sheet = phone.getByRole("dialog");
    await sheet.getByLabel("Tray, such as C3-7").fill(`d2-${i}`);
    await sheet.getByLabel("There is no photo").check();
    if (i === 3) await sheet.getByLabel("destroyed").fill("6");
    await sheet.getByRole("button", { name: "In the bag" }).click();
    await expect(phone.getByRole("button", { name: `Left door, ${i} of 9 off` })).toBeVisible();
  }
  // Glass is lifted twice, and read about once.
  expect(cautions).toBe(1);
  const bags = (await (await desk.request.get(`/api/builds/${id}/bags`)).json()).bags as { code: number; label: string; place: string; id: string }[];
  expect(bags.map((b) => b.place)).toEqual(["D2-1", "D2-2", "D2-3", "D2-4", "D2-5", "D2-6"]);

  await desk.goto("/builds/8/bags");
  const rail = bags[1]?.label ?? "";
  await desk.getByRole("searchbox").fill(`${bags[1]?.code}`);
  await desk.getByRole("region", { name: "Found" }).getByRole("button", { name: /Garnish rail/ }).click();
  const bag = desk.getByRole("article", { name: `Bag ${rail}` });
  await bag.getByRole("button", { name: "Move" }).click();
  await desk.getByLabel("It is").selectOption("notFound");
  await desk.getByRole("button", { name: "Move", exact: true }).click();
  await desk.getByRole("searchbox").fill("garnish rail left");
  await desk.getByRole("region", { name: "Found" }).getByRole("button", { name: /Garnish rail/ }).click();
  await bag.getByRole("button", { name: "Move" }).click();
  await desk.getByLabel("It is").selectOption("onShelf");
  await desk.getByLabel("Tray, such as C3-7").fill("d3-1");
  await desk.getByRole("button", { name: "Move", exact: true }).click();
  await expect(bag.getByText("D3-1").first()).toBeVisible();

  const folder = mkdtempSync(join(tmpdir(), "labels-"));
  const pdf = await desk.request.get(`/api/builds/${id}/labels?paper=a4`, { timeout: 60_000 });
  writeFileSync(join(folder, "a4.pdf"), await pdf.body());
  execFileSync("pdftoppm", ["-r", "200", "-png", join(folder, "a4.pdf"), join(folder, "a4")]);
  const read = readdirSync(folder)
    .filter((f) => f.endsWith(".png"))
    .flatMap((p) => scanned(join(folder, p)));
  expect(read.sort()).toEqual(bags.map((b) => `FC ${b.label}`).sort());
  rmSync(folder, { recursive: true });
});

test("blasting finds more: a change order waits, the client approves it, and the work may begin", async () => {
  await find("L sill", "Rust", "inner sill gone behind the outer one");
  const more = (await survey()).findings.find((f) => f.number === 11) as Found;
  const agreed = (await papers()).agreed;
  await decide(more, 6);
  expect((await papers()).agreed).toBe(agreed);
  await desk.goto("/builds/8/estimate");
  await expect(desk.getByText(/not sent yet/)).toBeVisible();
  await desk.getByLabel("Title", { exact: true }).fill("Inner sill, left");
  await desk.getByRole("button", { name: "Save and preview" }).click();
  await accessible(desk, "change order");
  await desk.getByRole("button", { name: "Send to the client" }).click();
  await desk.getByRole("button", { name: "Send the letter" }).click();
  await expect(desk.getByText(/letter sent/)).toBeVisible();
  await desk.goto("/");
  await expect(desk.getByText("Inner sill, left (change order 1)").first()).toBeVisible();

  const letter = letters(EMAIL, SHOP.mail).filter((l) => l.includes("/r/") && l.includes("Change order")).at(-1) ?? "";
  const change = /\/r\/[\w-]+\/papers\/[0-9a-f-]{36}/.exec(letter)?.[0] ?? "";
  const pdf = await client.request.get(change.replace("/r/", "/api/private/") + "/pdf?paper=letter", { timeout: 60_000 });
  const folder = mkdtempSync(join(tmpdir(), "change-"));
  writeFileSync(join(folder, "change.pdf"), await pdf.body());
  const text = textOf(join(folder, "change.pdf"));
  // 6 h at the mechanic's 60.00.
  expect(text).toMatch(/Together, before tax\s+£360\.00/);
  expect(text).toMatch(/With tax\s+£432\.00/);
  expect(pounds(/Agreed with this, before tax\s+(£[\d,.]+)/.exec(text)?.[1] ?? "")).toBeCloseTo(agreed + 360, 2);
  rmSync(folder, { recursive: true });
  await client.goto(change);
  const before = letters(EMAIL, SHOP.mail).length;
  await client.getByRole("button", { name: "Send me the code" }).click();
  await expect.poll(() => letters(EMAIL, SHOP.mail).length).toBe(before + 1);
  await client.getByLabel("Code").fill(codeFor("change order 1"));
  await client.getByRole("button", { name: "Yes, do it" }).click();
  await expect(client.getByRole("heading", { name: "Agreed" })).toBeVisible();
  expect((await papers()).agreed).toBeCloseTo(agreed + 360, 2);
  await desk.goto("/builds/8/estimate");
  await expect(desk.getByText(/agreed by Ottilie Brand, 13 Oct, with a code/).first()).toBeVisible();
});

const codeFor = (paper: string) => /Code: (\d{6})/.exec(letters(EMAIL, SHOP.mail).filter((l) => l.includes(`It answers ${paper}`)).at(-1) ?? "")?.[1] ?? "";

test("the way back is the reverse, warns of what must be bought, and ends with everything on", async () => {
  await desk.goto("/builds/8/teardown");
  await desk.getByRole("button", { name: "Back together" }).click();
  await expect(desk.getByText("0 of 6 are back.", { exact: false })).toBeVisible();
  await expect(desk.getByRole("region", { name: "To buy" }).getByText(/6 clips for Door card/)).toBeVisible();
  await accessible(desk, "back together");
  const first = desk.getByRole("region", { name: "Back together" }).getByRole("listitem").first();
  await expect(first).toContainText("Regulator");
  for (let i = 1; i <= 6; i++) {
    await desk.getByRole("button", { name: /^Fitted: / }).first().click();
    await expect(desk.getByText(`${i} of 6 are back.`, { exact: false })).toBeVisible();
  }
  await desk.goto("/builds/8/bags");
  await expect(desk.getByText(/on the car/i).first()).toBeVisible();
  await accessible(desk, "bags, all on the car");
});

test("anything is found by its words, with the key alone; a technician finds no papers", async () => {
  await desk.goto("/");
  await expect(desk.getByRole("heading", { name: "Floor" })).toBeVisible();
  await desk.keyboard.press("/");
  await expect(desk.getByRole("combobox", { name: "Find" })).toBeFocused();
  await desk.keyboard.type("rail garnsih left");
  await expect(desk.getByRole("option", { name: /^Bag, 8, .*Garnish rail/ }).first()).toBeVisible();
  await accessible(desk, "find");
  await desk.keyboard.press("Enter");
  await expect(desk).toHaveURL(/builds\/8\/bags\?bag=/);
  await expect(desk.getByRole("article", { name: /^Bag \d+ L$/ })).toContainText("Garnish rail");
  await desk.keyboard.press("/");
  await desk.keyboard.type("estimate brand");
  await expect(desk.getByRole("option", { name: /^Paper, 8, Estimate 1/ })).toBeVisible();
  await phone.goto("/");
  await phone.getByRole("combobox", { name: "Find" }).fill("estimate brand");
  await expect(phone.getByText("Nothing has all of these words.")).toBeVisible();
});

test("what paint would close is said and made on the phone; finished work that changes is judged", async () => {
  type Operation = { id: string; name: string; doneAt: string | null };
  const operations = async () => (await (await desk.request.get(`/api/builds/${id}/operations`)).json()) as Operation[];
  const named = async (name: string) => (await operations()).find((o) => o.name.startsWith(name)) as Operation;
  const brakes = await named("Brake and fuel lines");
  await phone.goto(`/builds/8/sequence?at=${brakes.id}`);
  await expect(phone.getByText(/Nobody has said which holes/)).toBeVisible();
  await phone.getByLabel("for", { exact: true }).fill("the brake pipes");
  await phone.getByLabel("where on the vehicle").fill("floor leg, 40 behind the bulkhead");
  await phone.getByRole("button", { name: "Write it down" }).click();
  const hole = phone.getByRole("checkbox", { name: /Hole for the brake pipes/ });
  await expect(hole).not.toBeChecked();

  // The gate before paint asks for it, and for what nobody has thought of yet.
  await desk.goto(`/builds/8/sequence?at=${(await named("Provisions complete")).id}`);
  const asks = desk.getByRole("list", { name: "It asks for" });
  await expect(asks).toContainText("no hole for the brake pipes, floor leg, 40 behind the bulkhead");
  await expect(asks).toContainText("nobody has said what Glass and seals needs");
  await accessible(desk, "a gate that asks what later work needs");
  await hole.click();
  await expect(phone.getByText(/^made, /)).toBeVisible();
  await expect(hole).toBeChecked();
  await accessible(phone, "what work needs before paint");
  await expect(asks).not.toContainText("no hole for the brake pipes");

  // What was done first is another now: what rests on it is listed, and judged by keyboard.
  const [first, next] = [await named("Arrival round"), await named("Interior, glass and trim out")];
  for (const o of [first, next]) if (!o.doneAt) await send(desk, "POST", `/api/operations/${o.id}/done?why=seen`);
  await desk.goto(`/builds/8/sequence?at=${first.id}`);
  await desk.getByRole("button", { name: `It has changed: ${first.name}` }).click();
  await expect(desk.getByRole("list", { name: "What rests on it" })).toContainText(next.name);
  await desk.getByLabel("What is another now").fill("a second hand-over list");
  await accessible(desk, "what rests on it");
  await desk.keyboard.press("Enter");
  await expect(desk.getByRole("list", { name: "To be judged" })).toContainText("a second hand-over list");
  await desk.getByRole("button", { name: "Judge", exact: true }).click();
  await accessible(desk, "what is to be judged");
  const left = desk.getByRole("dialog").getByRole("button", { name: /: still good$/ });
  while ((await left.count()) > 1) {
    const before = await left.count();
    await left.last().focus();
    await desk.keyboard.press("Enter");
    await expect(left).toHaveCount(before - 1);
  }
  await desk.getByRole("button", { name: `${next.name}: redo` }).click();
  await expect.poll(async () => (await named("Interior, glass and trim out")).doneAt).toBeNull();
  await desk.keyboard.press("Escape");
  await expect(desk.getByRole("list", { name: "To be judged" })).toHaveCount(0);
});

test("a door is read on the phone, moved as advised, read again and signed for; new metal beside it shuts the gate", async () => {
  const [dry, gate] = [crypto.randomUUID(), crypto.randomUUID()];
  const work = { stage: "metal", kind: "work", trade: "metal", budgetMinutes: 240, station: null, personId: null, panels: ["sillR"], coat: null, held: null, withoutStop: false, gate: null, hazard: null, clockMinutes: 0, after: [], position: null, version: null };
  await send(desk, "PUT", `/api/builds/${id}/operations/${dry}`, { ...work, name: "Hang the right door" });
  await send(desk, "PUT", `/api/builds/${id}/operations/${gate}`, { ...work, name: "Right side fits", kind: "gate", gate: "fitUp", trade: null, budgetMinutes: 0, panels: [], after: [{ operation: dry, lagMinutes: 0 }] });
  await send(desk, "POST", `/api/operations/${dry}/done`);
  const signed = async () => ((await (await desk.request.get(`/api/builds/${id}/operations`)).json()) as { id: string; doneAt: string | null }[]).find((o) => o.id === gate)?.doneAt !== null;

  // Gloves on: one number and Next, the next place opens by itself.
  await phone.goto("/builds/8/gaps");
  await phone.getByRole("button", { name: /^H Door to sill, R/ }).last().click();
  await accessible(phone, "the gaps on a phone");
  await phone.getByRole("button", { name: "Read with large keys" }).click();
  const pad = phone.getByRole("region", { name: "Reading Door to sill, R" });
  await accessible(phone, "the large keys");
  for (const [i, gap] of ["6.6", "6.1", "5.7", "5.1", "4.6", "4.1", "3.5", "3.1", "2.6"].entries()) {
    await expect(pad.getByText(`Station ${i + 1} of 9`)).toBeVisible();
    for (const key of gap) await pad.getByRole("button", { name: key, exact: true }).click();
    await pad.getByRole("button", { name: /^Next/ }).click();
  }
  for (const station of [1, 5, 9]) {
    await expect(pad.getByText(`Flush at station ${station} of 9`)).toBeVisible();
    for (const key of ".2") await pad.getByRole("button", { name: key, exact: true }).click();
    await pad.getByRole("button", { name: /^Next/ }).click();
  }
  await expect(pad.getByText("All of this line is read.")).toBeVisible();
  await expect(pad).toContainText("closes");

  // At the desk it is out, though it is right in its middle; what to do is said with its sum.
  await desk.goto("/builds/8/gaps");
  await expect(desk.getByRole("heading", { level: 2, name: "H Door to sill, R" })).toBeVisible();
  await expect(desk.getByText(/too tight at 8, 9; too wide at 1 to 4; not even: range 4.0 mm/)).toBeVisible();
  await expect(desk.getByText(/mm behind the lower hinge, then lower/)).toBeVisible();
  await expect(desk.getByText(/s h \/ L = /)).toBeVisible();
  await expect(desk.getByRole("list", { name: "Then its lines" })).toContainText("in limits: mean 4.0");
  await accessible(desk, "a line that is out");
  // The shim is moved in the drawing, by pointer and by keyboard; nothing is kept by it.
  const shim = desk.getByRole("slider", { name: "Shim behind the lower hinge, mm" });
  const advised = Number(await shim.getAttribute("aria-valuenow"));
  await shim.focus();
  await desk.keyboard.press("ArrowRight");
  await expect(shim).toHaveAttribute("aria-valuenow", String(Math.round(advised * 10 + 1) / 10));
  const box = (await shim.boundingBox()) as { x: number; y: number; width: number; height: number };
  await desk.mouse.move(box.x + 12, box.y + box.height / 2);
  await desk.mouse.down();
  await desk.mouse.move(box.x + 92, box.y + box.height / 2, { steps: 4 });
  await desk.mouse.up();
  await expect.poll(async () => Number(await shim.getAttribute("aria-valuenow"))).toBeGreaterThan(advised + 1);
  await expect(desk.getByRole("list", { name: "Then its lines" })).toContainText("not even");
  await desk.getByRole("button", { name: "Set aside to compare" }).click();
  await desk.getByRole("button", { name: "As advised" }).click();
  await expect(desk.getByRole("list", { name: "Then its lines" })).toContainText("in limits: mean 4.0");
  await desk.getByRole("button", { name: "It is done so" }).click();
  await expect(desk.getByText(/R door: .* behind the lower hinge.*: read 9 of 9 again/).first()).toBeVisible();

  // The second round, by keyboard alone, as a gauge sends it: figure, unit, Enter.
  await pad.getByRole("button", { name: "Done" }).click();
  await phone.reload();
  await phone.getByRole("button", { name: /^H Door to sill, R/ }).last().click();
  await phone.getByLabel("Gap at station 1, mm").focus();
  for (let i = 1; i <= 9; i++) {
    await expect(phone.getByLabel(`Gap at station ${i}, mm`)).toBeFocused();
    await phone.keyboard.type(i % 2 ? "4.1 mm" : "0.157 in");
    await phone.keyboard.press("Enter");
  }
  await expect(desk.getByRole("button", { name: /^H Door to sill, R in limits/ }).last()).toBeVisible();
  await desk.getByLabel(/^What came of it/).fill("even all along");
  await desk.getByRole("button", { name: "It helped" }).click();
  await expect(desk.getByText("It helped: even all along")).toBeVisible();

  const section = desk.locator("section", { has: desk.getByRole("heading", { name: /^Gate: Right side fits/ }) }).last();
  await expect(section).toContainText("All 1 shut lines read");
  await section.getByRole("button", { name: "Sign" }).click();
  await desk.getByRole("dialog").getByRole("button", { name: /^Sign/ }).click();
  await expect(section).toContainText("Signed: ");
  expect(await signed()).toBe(true);

  await send(phone, "POST", `/api/builds/${id}/panel-events`, { id: crypto.randomUUID(), panel: "sillR", zone: null, fact: "newMetal", coat: null, held: null, note: "" });
  await expect(desk.getByText("New metal in R sill: read 9 of 9 again").first()).toBeVisible();
  await expect(section).toContainText("changed since it was read: H Door to sill, R");
  expect(await signed()).toBe(false);
});

test("a datum sheet and its readings come from files, the one bent point is found, and a bad file leaves nothing", async () => {
  const shell: [string, number, number, number][] = [
    ["A", 0, 400, 100],
    ["B", 1000, 500, 150],
    ["C", 2000, 480, 120],
    ["D", 3000, 450, 300],
  ];
  const lines = (bent: number) =>
    ["point,x,y,z", ...shell.flatMap(([l, x, y, z]) => [`${l} L,${x + 10},${y - 6},${z + 400}`, `${l} R,${x + 10},${-y - 6},${z + 400 + (l === "C" ? bent : 0)}`])].join("\n");
  await desk.goto("/builds/8/datum");
  await expect(desk.getByText(/No reference sheet yet/)).toBeVisible();
  await accessible(desk, "no datum sheet yet");
  await desk.getByRole("button", { name: "Enter the reference sheet" }).click();
  const sheet = desk.getByRole("dialog");
  await sheet.getByLabel("Drawing it is from").fill("Body sheet 4");
  await sheet.getByLabel("or its lines").fill("point,x,y,z\nA L,0,400,100\nA R,0,wide,100");
  await sheet.getByRole("button", { name: "Save" }).click();
  await expect(sheet).toContainText("Line 3: y is “wide”, which is no number.");
  await accessible(desk, "a bad file of points");
  await sheet.getByLabel("A file of points").setInputFiles({
    name: "sheet.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["point,x,y,z,name,protected", ...shell.flatMap(([l, x, y, z]) => [`${l} L,${x},${y},${z},post,`, `${l} R,${x},${-y},${z},post,${l === "C" ? "yes" : ""}`])].join("\n")),
  });
  await sheet.getByRole("button", { name: "Save" }).click();
  await expect(desk.getByText("Body sheet 4; 8 points")).toBeVisible();

  await desk.getByRole("button", { name: "Readings from a file" }).click();
  await sheet.getByLabel("or its lines").fill(lines(12));
  await sheet.getByRole("button", { name: "Save" }).click();
  await expect(desk.getByText(/laid on the sheet by the 7 that agree, 0.0 mm off on average; bent: C R/)).toBeVisible();
  await desk.getByRole("button", { name: "C R, post: 12.0 mm off, bent" }).focus();
  await desk.keyboard.press("Enter");
  await expect(desk.getByRole("region", { name: "C R, post" })).toContainText("12.0 off, up 12.0");
  await expect(desk.getByRole("row", { name: /^Middle of the shell 6.0 right in front, 6.0 right behind/ })).toBeVisible();
  await accessible(desk, "a bent point");

  // Pulled back and read again, on the phone: one point after the other.
  await phone.goto("/builds/8/datum");
  await phone.getByRole("button", { name: "Readings from a file" }).click();
  await phone.getByRole("dialog").getByLabel("When").selectOption("afterCut");
  await phone.getByRole("dialog").getByLabel("or its lines").fill(lines(0));
  await phone.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(phone.getByText(/after the cut: laid on the sheet by the 8 that agree/)).toBeVisible();
  await accessible(phone, "the datum on a phone");
  await expect(desk.getByRole("row", { name: /^C R post must stay 12.0 0.0 12.0/ })).toBeVisible();
});

test("a cabin that leans is measured on the phone, pulled square and measured again", async () => {
  const measure = async (d1: string, d2: string, when: string) => {
    await phone.getByLabel("Bottom left to top right, mm").fill(d1);
    await phone.getByLabel("Bottom right to top left, mm").fill(d2);
    await phone.getByLabel("Width, mm").fill("1200");
    await phone.getByLabel("A slanted side, mm").fill("900");
    await phone.getByLabel("When: before or after what").fill(when);
    await phone.keyboard.press("Enter");
  };
  await phone.goto("/builds/8/openings");
  await phone.getByRole("button", { name: /^Cabin floor/ }).click();
  await measure("600", "590", "before the floor is cut");
  await expect(phone.getByText("No opening has these diagonals at this width: read them again.")).toBeVisible();
  await measure("1510", "1490", "before the floor is cut");
  await expect(phone.getByText("Leans 12.5 mm to the right", { exact: true })).toBeVisible();
  await expect(phone.getByText(/Pull the diagonal from bottom left to top right shorter by 10.0 mm/)).toBeVisible();
  await accessible(phone, "an opening that leans");
  await desk.goto("/builds/8/openings");
  await expect(desk.getByRole("row", { name: /^Cabin floor leans 12.5 mm to the right 12.5/ })).toBeVisible();
  await accessible(desk, "the openings");
  await measure("1501", "1499", "pulled and braced");
  await expect(desk.getByRole("row", { name: /^Cabin floor square 1.3 −11.3/ })).toBeVisible();
});

test("the bench starts from what was measured, is worked by keyboard, keeps a try, and prints at full size", async () => {
  await desk.goto("/builds/8/openings");
  await desk.getByRole("button", { name: /^Cabin floor/ }).click();
  await desk.getByRole("link", { name: "On the bench" }).click();
  const first = desk.getByLabel("bottom left to top right");
  await expect(first).toHaveValue("1501");
  const says = desk.getByRole("complementary").locator(".bench-says");
  await expect(says).toHaveText("Leans 1.3 mm to the right");
  await accessible(desk, "the bench");
  // Keyboard alone: the tab key goes from figure to figure, up and down change one.
  await first.focus();
  await desk.keyboard.type("1510");
  await desk.keyboard.press("Tab");
  await expect(desk.getByLabel("bottom right to top left")).toBeFocused();
  await desk.keyboard.type("1490");
  await expect(says).toHaveText("Leans 12.5 mm to the right");
  await desk.keyboard.press("ArrowUp");
  await expect(desk.getByLabel("bottom right to top left")).toHaveValue("1491");
  await expect(says).toHaveText(/^Leans 11.9 mm/);
  await desk.keyboard.press("Tab");
  await desk.keyboard.type("x");
  await expect(desk.getByText("Write the width as a number.")).toBeVisible();
  await desk.keyboard.press("Backspace");
  await desk.keyboard.type("1200");
  await desk.getByLabel("What it is for").fill("cabin, before the pull");
  await desk.keyboard.press("Enter");
  await expect(desk.getByRole("region", { name: "Kept with 8" }).getByText("cabin, before the pull")).toBeVisible();

  await phone.goto("/bench/opening?build=8");
  await phone.getByRole("button", { name: "Take its figures" }).click();
  await expect(phone.getByLabel("bottom right to top left")).toHaveValue("1491");

  await desk.goto("/bench/wheel");
  await expect(says).toHaveText("4.0 mm to the lip, want 8");
  const wheel = await desk.locator(".bench-drag").boundingBox();
  if (!wheel) throw new Error("no wheel");
  await desk.mouse.move(wheel.x + wheel.width / 2, wheel.y + wheel.height / 2);
  await desk.mouse.down();
  await desk.mouse.move(wheel.x + wheel.width / 2 - 4, wheel.y + wheel.height / 2, { steps: 4 });
  await desk.mouse.up();
  await expect(says).toHaveText(/^It clears: /);

  await desk.goto("/bench/taper");
  await desk.getByRole("link", { name: "Print at full size" }).click();
  const mark = await desk
    .locator(".control-mark")
    .first()
    .evaluate((e) => (e as SVGPathElement).getBBox().width * ((e as SVGPathElement).getScreenCTM()?.a ?? 0));
  // A millimetre is 96 / 25.4 pixels of the page.
  expect(Math.abs(mark - (100 * 96) / 25.4)).toBeLessThan(0.5);
  await expect(desk.getByText("Page 1 of 2")).toBeVisible();
  await accessible(desk, "a taper at full size");
});

test("a gauge that is not there presses a figure into the line that is open", async () => {
  await phone.goto("/builds/8/gaps");
  await phone.getByRole("button", { name: "Gauge" }).click();
  const stand = await phone.context().newPage();
  await stand.goto("/stand-ins/gauge");
  await stand.getByLabel("It reads").fill("4.3");
  await stand.keyboard.press("Enter");
  await expect(phone.getByRole("button", { name: "Take 4.3 back" }).or(phone.getByText("4.3", { exact: true }).first())).toBeVisible();
  await accessible(stand, "the stand-in of a gauge");
  await stand.close();
});
