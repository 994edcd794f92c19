/**
 * Who may call which route: every method of every route, asked by a stranger, a device that reads and marks, one that acts on printers,
 * one that may all, and the bench itself, against the table in docs/api.md.
 */
import type { IncomingMessage, ServerResponse } from "node:http";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { closeStore } from "@/server/db/connection";
import { COOKIE, letIn, showCode } from "@/server/front/devices";
import { answeredInFront } from "@/server/front/front";
import { Rank, ranks, rights } from "@/server/who";
import type { Handler } from "@/server/http/respond";
import { endWorkers } from "@/server/tasks/pool";

const folder = mkdtempSync(join(tmpdir(), "cuchara-who-"));
process.env.CUCHARA_DATA = folder;
afterAll(() => {
  endWorkers();
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

const root = join(__dirname, "../../..");
const api = join(root, "src/app/api");
const methods = ["GET", "POST", "PUT", "DELETE"] as const;
type Module = Partial<Record<(typeof methods)[number], Handler>>;

/** Every route by its address, `:id` for what is filled in. */
function routes(): { address: string; module: Module }[] {
  return (readdirSync(api, { recursive: true }) as string[])
    .filter((name) => name.endsWith("route.ts") && !name.includes("..."))
    .map((name) => ({
      address: `/api/${relative(".", name)
        .replace(/\/route\.ts$/, "")
        .replace(/\[(\w+)\]/g, ":$1")}`,
      // eslint-disable-next-line @typescript-eslint/no-require-imports -- which there are is only known now
      module: require(join(api, name)) as Module,
    }));
}

/** Rows of the docs' table: `GET /api/x` → the least rank that may. */
function documented(): Map<string, Rank> {
  const text = readFileSync(join(root, "docs/api.md"), "utf8");
  const part = text.slice(text.indexOf("## Who may what"));
  const rows = part.slice(0, part.indexOf("\n## ", 4)).matchAll(/^\| `(\/api\/\S+)` +\| (.+?) +\|$/gm);
  const found = new Map<string, Rank>();
  for (const [, address, cell] of rows) {
    for (const [, names, who] of cell.matchAll(/([A-Z ]+): (\w+)/g)) {
      for (const name of names.trim().split(" ")) found.set(`${name} ${address}`, who as Rank);
    }
  }
  return found;
}

const devices = new Map<string, { address: string; cookie?: string; rank: Rank }>();
beforeAll(() => {
  devices.set("a stranger", { address: "192.168.1.66", rank: "stranger" });
  for (const may of rights) {
    const { token } = letIn(showCode(may).code, may, "stranger");
    const rank = ({ mark: "marker", act: "actor", all: "bench" } as const)[may];
    devices.set(`a device with ${may}`, { address: "192.168.1.20", cookie: `${COOKIE}=${token}`, rank });
  }
  devices.set("the bench", { address: "127.0.0.1", rank: "bench" });
});

/** The status of a request, through the front and the route it leads to. */
async function statusOf(
  method: string,
  path: string,
  { address, cookie }: { address: string; cookie?: string },
  handler: Handler,
  forged: Record<string, string> = {},
): Promise<number> {
  const headers: Record<string, string> = { host: "127.0.0.1", ...forged, ...(cookie ? { cookie } : {}) };
  const request = { method, url: path, headers, socket: { remoteAddress: address } } as unknown as IncomingMessage;
  const response = { statusCode: 200, setHeader: () => undefined, end: () => undefined };
  if (answeredInFront(request, response as unknown as ServerResponse)) return response.statusCode;
  const body = method === "GET" ? {} : { body: "{}" };
  const asked = new Request(`http://127.0.0.1${path}`, {
    ...{ method, ...body },
    headers: { ...headers, "content-type": "application/json" },
  });
  const params = { id: "999999", photo: "999999", reader: "nobody" };
  const answer = await handler(asked, { params: Promise.resolve(params) });
  await answer.body?.cancel();
  return answer.status;
}

test("the table in the docs names every method of every route, and nothing else", () => {
  const real = routes().flatMap(({ address, module }) =>
    methods.flatMap((method) => (module[method] ? [[`${method} ${address}`, module[method].who] as const] : [])),
  );
  expect(real.length).toBeGreaterThan(130);
  expect(Object.fromEntries([...documented()].sort())).toEqual(Object.fromEntries(real.sort()));
});

test("whoever may not is refused at every route, and whoever may is not", async () => {
  const table = documented();
  for (const { address, module } of routes()) {
    for (const method of methods) {
      const handler = module[method];
      if (!handler) continue;
      const least = table.get(`${method} ${address}`)!;
      for (const [name, device] of devices) {
        const path = address.replace(/:\w+/g, "999999");
        const status = await statusOf(method, path, device, handler);
        const may = ranks.indexOf(device.rank) >= ranks.indexOf(least);
        expect(`${name}: ${method} ${address} ${status === 403 ? "refused" : "let through"}`).toBe(
          `${name}: ${method} ${address} ${may ? "let through" : "refused"}`,
        );
      }
    }
  }
}, 60_000);

test("a rank that comes in as a header counts for nothing", async () => {
  const { GET } = routes().find(({ address }) => address === "/api/backup")!.module;
  const forged = { "x-cuchara-rank": "bench", "x-cuchara-caller": "bench" };
  expect(await statusOf("GET", "/api/backup", devices.get("a stranger")!, GET!, forged)).toBe(403);
  expect(await statusOf("GET", "/api/backup", devices.get("a device with act")!, GET!, forged)).toBe(403);
});

test.each(["/bench", "/trials/1", "/_next/image", "/_next/data/x.json", "/_next/static/x.js"])(
  "a stranger asking for %s is led to the code",
  async (path) => {
    const never = (() => Promise.reject(new Error("It came through."))) as unknown as Handler;
    expect(await statusOf("GET", path, devices.get("a stranger")!, never)).toBe(303);
  },
);
