import { cpSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { asRoot, command, heldPort, Shop, until, Visitor } from "./shop";

const mode = (path: string) => (statSync(path).mode & 0o777).toString(8);

describe("a shop that runs", () => {
  const shop = new Shop();
  const mara = new Visitor(shop);
  beforeAll(async () => {
    await shop.start();
    await mara.setUp();
    await mara.supplier("Before all");
  });
  afterAll(() => shop.remove());

  it("is told by a second start, which harms nothing", async () => {
    const second = shop.run("start", "--port", "5290");
    expect(second).toMatchObject({ code: 0 });
    expect(second.out).toContain(`runs already:  ${shop.url}`);
    expect(await mara.suppliers()).toContain("Before all");
    expect(shop.run("status").out).toContain(`shop: server ${shop.url}, database yes`);
  });

  it("starts its database again on its port when that was killed, and knows all that it acknowledged", async () => {
    const [pid, port] = [shop.database, shop.databasePort];
    expect((await mara.supplier("Just before")).status).toBe(200);
    process.kill(pid, "SIGKILL");
    await until(() => shop.said.includes("The database runs again."), "the database");
    expect(shop.databasePort).toBe(port);
    await until(async () => (await mara.ask("GET", "/api/shop")).status === 200, "an answer");
    expect(await mara.suppliers()).toEqual(expect.arrayContaining(["Before all", "Just before"]));
    expect((await mara.supplier("And after")).status).toBe(200);
  });

  it("says in a sentence that the database does not answer, and when to come again", async () => {
    process.kill(shop.database, "SIGSTOP");
    const stopped = shop.database;
    process.kill(stopped, "SIGCONT");
    const before = shop.said.split("runs again").length;
    process.kill(stopped, "SIGKILL");
    const met: number[] = [];
    await until(async () => {
      const r = await mara.ask("GET", "/api/shop");
      met.push(r.status);
      if (r.status === 503) expect(r.body).toMatchObject({ field: "database", detail: "The database does not answer. Nothing was kept. Try again in a moment." });
      return r.status === 200 && shop.said.split("runs again").length > before;
    }, "the database");
    expect(met.filter((s) => s === 500)).toEqual([]);
  });

  it("is read by the shop's own account alone", () => {
    expect(mode(shop.path("shop/secret"))).toBe("600");
    expect(mode(shop.path("shop/keys"))).toBe("700");
    expect(mode(shop.path("shop/keys/lock.pfx"))).toBe("600");
    expect(mode(shop.path("shop/photos"))).toBe("700");
    expect(mode(shop.path("shop/pg"))).toBe("700");
  });

  it("refuses an address with a nought in it without a fault", async () => {
    for (const path of ["/api/body-styles/%00", "/api/private/%00", "/%00", "/api/bags?q=%00"]) {
      const r = await mara.ask("GET", path);
      expect([path, r.status]).toEqual([path, 400]);
    }
  });

  it("is saved while it goes on and comes back in an empty place with everybody's password", async () => {
    const file = join(mkdtempSync(join(tmpdir(), "firstcoat-backup-")), "shop.tar");
    const saved = shop.run("backup", file);
    expect(saved.out).toContain("Saved and summed:");
    expect(saved.code).toBe(0);
    expect(shop.run("backup", file)).toMatchObject({ code: 1 });
    expect(shop.run("restore", file).out).toContain("there is a shop");

    const other = new Shop();
    expect(other.run("restore", file).out).toContain("Restored and compared:");
    await shop.end();
    await other.start();
    const visitor = new Visitor(other);
    expect(await visitor.signIn()).toBe(204);
    expect(await visitor.suppliers()).toEqual(expect.arrayContaining(["Before all", "Just before"]));
    await other.remove();
    await shop.start();
  });
});

describe("what lies in the folder", () => {
  let shop: Shop;
  afterEach(() => shop.remove());

  it("is opened as it was when database, photos and letters alone were put back by somebody else's hand", async () => {
    shop = new Shop();
    await shop.start();
    const mara = new Visitor(shop);
    await mara.setUp();
    await mara.supplier("Kept");
    await shop.end();
    const put = new Shop();
    mkdirSync(put.path("shop"), { recursive: true });
    for (const part of ["pg", "photos", "mail"]) {
      if (shop.has("shop", part)) cpSync(shop.path("shop", part), put.path("shop", part), { recursive: true });
    }
    // Whoever copied it left it open to all.
    command("chmod", "-R", "a+rwX", put.path("shop"));
    if (asRoot) command("chown", "-R", "nobody", put.path("shop"));
    await put.start();
    expect(put.said).not.toContain("half-built");
    const again = new Visitor(put);
    expect(await again.signIn()).toBe(204);
    expect(await again.suppliers()).toEqual(["Kept"]);
    expect(mode(put.path("shop/pg"))).toBe("700");
    expect(mode(put.path("shop/photos"))).toBe("700");
    await put.remove();
  });

  it("takes another port for its database when a connection that goes out holds the one it was given", async () => {
    const held = await heldPort();
    shop = new Shop();
    await shop.start({ FIRSTCOAT_DATABASE_PORT: `${held.port}` });
    expect(Number(shop.databasePort)).toBeGreaterThan(held.port);
    await shop.end();
    held.letGo();
  });

  it("is moved aside and not removed when a database was begun and never made", async () => {
    shop = new Shop();
    mkdirSync(shop.path("shop/pg/base/1"), { recursive: true });
    writeFileSync(shop.path("shop/pg/PG_VERSION"), "15\n");
    await shop.start();
    expect(shop.said).toContain("A half-built database was left over. It was moved to ");
    const aside = readdirSync(shop.path("shop")).find((f) => f.startsWith("pg.half-built-"));
    expect(aside && shop.has("shop", aside, "PG_VERSION")).toBe(true);
  });

  it("is never taken for a database when it is something else", () => {
    shop = new Shop();
    mkdirSync(shop.path("shop/pg/base/20000"), { recursive: true });
    mkdirSync(shop.path("shop/pg/global"), { recursive: true });
    writeFileSync(shop.path("shop/pg/PG_VERSION"), "9\n");
    writeFileSync(shop.path("shop/pg/global/pg_control"), "");
    const r = shop.run("start", "--port", "5290");
    expect(r.code).toBe(1);
    expect(r.out).toContain("was made by PostgreSQL 9, which is not installed here");
    expect(shop.has("shop/pg/base/20000")).toBe(true);
  });

  it.each(["0", "65536", "123456", "80;http://0.0.0.0:81", "", "-1"])("refuses the port %s", (port) => {
    shop = new Shop();
    const r = shop.run("start", "--port", port);
    expect(r.code).toBe(1);
    expect(r.out).toContain("--port takes a number from 1 to 65535.");
    expect(shop.has("shop")).toBe(false);
  });

  it("asks before a demo is made afresh", () => {
    shop = new Shop();
    mkdirSync(shop.path("demo/pg"), { recursive: true });
    writeFileSync(shop.path("demo/pg/PG_VERSION"), "15\n");
    const r = shop.run("demo", "--fresh");
    expect(r.code).toBe(1);
    expect(r.out).toContain("--fresh --yes");
    expect(shop.has("demo/pg/PG_VERSION")).toBe(true);
  });
});

// Needs a disk of its own, which only root can make; everywhere else the sentence itself is tested with the server.
describe.runIf(asRoot)("a full disk", () => {
  const folder = mkdtempSync(join(tmpdir(), "firstcoat-full-"));
  const shop = new Shop(join(folder, "data"));
  beforeAll(() => {
    command("mount", "-t", "tmpfs", "-o", "size=220m,mode=755", "tmpfs", folder);
    mkdirSync(shop.data);
  });
  afterAll(async () => {
    await shop.end();
    command("umount", "-l", folder);
    rmSync(folder, { recursive: true, force: true });
  });

  it("is said on the page and in status, loses nothing that was acknowledged, and ends when there is room again", async () => {
    await shop.start();
    const mara = new Visitor(shop);
    await mara.setUp();
    const kept: string[] = [];
    command("sh", "-c", `head -c 400m /dev/zero > ${folder}/filler 2>/dev/null || true`);
    expect(shop.run("status").out).toContain("disk: FULL");
    const met = new Set<number>();
    for (let i = 0; i < 60; i++) {
      const name = `Supplier ${i}`;
      const r = await mara.supplier(name).catch(() => ({ status: 0, body: {} }));
      met.add(r.status);
      if (r.status === 200) kept.push(name);
      if (r.status === 507) expect(r.body.detail).toContain("is full");
    }
    expect([...met].filter((s) => ![0, 200, 503, 507].includes(s))).toEqual([]);
    const session = await mara.ask("GET", "/api/session");
    expect(session.status === 200 ? session.body.diskFull : session.body.detail.includes("is full")).toBeTruthy();
    rmSync(join(folder, "filler"));
    await until(async () => (await mara.ask("GET", "/api/shop")).status === 200, "the shop to go on");
    expect(await mara.suppliers()).toEqual(expect.arrayContaining(kept));
    expect((await mara.supplier("After")).status).toBe(200);
  });
});
