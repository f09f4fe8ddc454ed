import { type ChildProcess, execFileSync, spawn, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { type AddressInfo, createServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";

const root = resolve(import.meta.dirname, "../..");
export const script = join(root, "firstcoat");
/** The published application; building it is another suite's matter. */
const app = process.env.FIRSTCOAT_APP ?? join(root, ".data/test-app");
export const password = "copper tea lantern";

/** A shop of its own: a data folder and what runs on it. */
export class Shop {
  readonly data: string;
  private running?: ChildProcess;
  said = "";
  url = "";

  constructor(data = mkdtempSync(join(tmpdir(), "firstcoat-shop-"))) {
    this.data = data;
  }

  private get env() {
    return { ...process.env, FIRSTCOAT_DATA: this.data, FIRSTCOAT_APP: app, Serilog__MinimumLevel__Default: "Warning" };
  }

  path(...parts: string[]) {
    return join(this.data, ...parts);
  }

  /** Runs the script to its end. */
  run(...args: string[]) {
    const r = spawnSync(script, args, { env: this.env, encoding: "utf8", cwd: tmpdir() });
    return { code: r.status, out: `${r.stdout}${r.stderr}` };
  }

  /** Starts it and waits until it says where it is. */
  async start(env: Record<string, string> = {}) {
    this.said = "";
    const p = spawn(script, ["start", "--port", "5290"], { env: { ...this.env, ...env }, stdio: ["ignore", "pipe", "pipe"] });
    this.running = p;
    const hear = (d: Buffer) => {
      this.said += d.toString();
    };
    p.stdout.on("data", hear);
    p.stderr.on("data", hear);
    await until(() => {
      if (p.exitCode !== null) throw new Error(`it ended: ${this.said}`);
      return /First Coat: {2}(http:\S+)/.test(this.said);
    }, "the start");
    this.url = this.said.match(/First Coat: {2}(http:\S+)/)?.[1] ?? "";
  }

  /** As Ctrl-C does. */
  async end() {
    const p = this.running;
    if (!p || p.exitCode !== null) return;
    const gone = new Promise((done) => p.on("exit", done));
    p.kill("SIGINT");
    await gone;
    this.running = undefined;
  }

  async remove() {
    await this.end();
    rmSync(this.data, { recursive: true, force: true });
  }

  /** The number of the process that its database was started as. */
  get database() {
    return Number(readFileSync(this.path("shop/pg/postmaster.pid"), "utf8").split("\n")[0]);
  }

  get databasePort() {
    return readFileSync(this.path("shop/port"), "utf8").trim();
  }

  has(...parts: string[]) {
    return existsSync(this.path(...parts));
  }
}

export async function until(done: () => boolean | Promise<boolean>, what: string, seconds = 400) {
  const end = Date.now() + seconds * 1000;
  while (!(await done())) {
    if (Date.now() > end) throw new Error(`waited in vain for ${what}`);
    await new Promise((r) => setTimeout(r, 200));
  }
}

/** A browser without a page: cookies and the anti-forgery token. */
export class Visitor {
  private readonly cookies = new Map<string, string>();

  constructor(private readonly shop: Shop) {}

  async ask(method: string, path: string, body?: unknown) {
    const token = this.cookies.get("XSRF-TOKEN");
    const answer = await fetch(this.shop.url + path, {
      method,
      headers: {
        cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join("; "),
        ...(token ? { "X-XSRF-TOKEN": decodeURIComponent(token) } : {}),
        ...(body === undefined ? {} : { "content-type": "application/json" }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    for (const c of answer.headers.getSetCookie()) {
      const [name, ...value] = (c.split(";")[0] ?? "").split("=");
      if (name) this.cookies.set(name, value.join("="));
    }
    const text = await answer.text();
    return { status: answer.status, body: text.startsWith("{") || text.startsWith("[") ? JSON.parse(text) : text };
  }

  /** The first visit, which makes the manager. */
  async setUp() {
    await this.ask("GET", "/api/session");
    const r = await this.ask("POST", "/api/first-visit", { shopName: "Script shop", name: "Mara", user: "mara", password });
    if (r.status !== 204) throw new Error(JSON.stringify(r.body));
    await this.ask("GET", "/api/session");
  }

  async signIn() {
    await this.ask("GET", "/api/session");
    const r = await this.ask("POST", "/api/session", { user: "mara", password });
    await this.ask("GET", "/api/session");
    return r.status;
  }

  supplier(name: string, id = crypto.randomUUID()) {
    return this.ask("PUT", `/api/shop/suppliers/${id}`, { name, what: "", freightDays: [], version: null });
  }

  async suppliers(): Promise<string[]> {
    return ((await this.ask("GET", "/api/shop")).body.suppliers as { name: string }[]).map((s) => s.name);
  }
}

export const asRoot = process.getuid?.() === 0;

export const command = (name: string, ...args: string[]) => execFileSync(name, args, { encoding: "utf8" });

/** A port that a connection going out holds: nobody answers on it. Node's own connections let others take theirs; curl's do not. */
export async function heldPort() {
  const answering = createServer().listen(0, "127.0.0.1");
  await new Promise((done) => answering.once("listening", done));
  const arrived = new Promise<Socket>((done) => answering.once("connection", done));
  const out = spawn("curl", ["-s", `http://127.0.0.1:${(answering.address() as AddressInfo).port}`], { stdio: "ignore" });
  const at = await arrived;
  return {
    port: at.remotePort ?? 0,
    letGo: () => {
      out.kill();
      at.destroy();
      answering.close();
    },
  };
}
