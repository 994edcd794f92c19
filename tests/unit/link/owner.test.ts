/** One owner a printer: whatever is tried at once or while something slow is under way, there is one link and a handle for every job. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore } from "@/server/db/connection";
import { printers as shelf } from "@/server/db/printers";
import { closeLinks, connect, guardChange, guardRemoval, hub, linkOf, openLinkOf } from "@/server/link/hub";
import type { TransportEvents } from "@/server/link/transports/transport";
import { askPrinter } from "@/server/link/ask-printer";
import { printers } from "../helpers/demo";

/** Ways through the network that open when the test says so. */
const ways: { open: () => void; fail: () => void; isClosed: boolean }[] = [];
jest.mock("@/server/link/transports/tcp", () => ({
  TcpTransport: class {
    readonly rate = 1;
    readonly label = "Network";
    private readonly way = { open: () => undefined as void, fail: () => undefined as void, isClosed: false };
    open(_: TransportEvents): Promise<void> {
      return new Promise((resolve, reject) => {
        this.way.open = resolve;
        this.way.fail = () => reject(new Error("it does not answer"));
        ways.push(this.way);
      });
    }
    write(): void {}
    async close(): Promise<void> {
      this.way.isClosed = true;
      this.way.fail();
    }
  },
}));

const folder = mkdtempSync(join(tmpdir(), "cuchara-owner-"));
process.env.CUCHARA_DATA = folder;
const [ladle, whisk] = printers.map((printer) => shelf.add(printer));
const tcp = { kind: "tcp", host: "192.0.2.7", port: 23 } as const;
const turn = () => new Promise((resolve) => setImmediate(resolve));

afterEach(async () => {
  await closeLinks();
  hub().links.clear();
  ways.length = 0;
});
afterAll(async () => {
  for (const host of hub().hosts.values()) host.stop();
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

test("an address in the network is asked about once, and then known for that printer", async () => {
  await expect(connect(ladle.id, tcp)).rejects.toMatchObject({ kind: "conflict", details: { field: "confirmed" } });
  const linked = connect(ladle.id, tcp, true);
  await turn();
  ways[0].open();
  await linked;
  await linkOf(ladle.id).close();
  const again = connect(ladle.id, tcp);
  await turn();
  ways[1].open();
  expect((await again).session.state).toBe("open");
  await expect(connect(whisk.id, tcp)).rejects.toMatchObject({ kind: "conflict" });
});

test("while a link is being made, no second one is, and when it fails only itself goes", async () => {
  const slow = connect(ladle.id, tcp, true);
  slow.catch(() => undefined);
  await expect(connect(ladle.id, { kind: "simulated", rate: 1 })).rejects.toMatchObject({
    kind: "conflict",
    message: expect.stringMatching(/is being linked already/),
  });
  await turn();
  ways[0].fail();
  await expect(slow).rejects.toMatchObject({ kind: "unreachable" });
  expect((await connect(ladle.id, { kind: "simulated", rate: 1 })).session.state).toBe("open");
});

test("eight at once leave one link and nothing open beside it", async () => {
  const all = Array.from({ length: 8 }, () =>
    connect(ladle.id, tcp, true).then(
      () => "linked",
      (error: Error) => error.message,
    ),
  );
  await turn();
  for (const way of ways) way.open();
  const said = await Promise.all(all);
  expect(said.filter((one) => one === "linked")).toHaveLength(1);
  expect(ways.filter(({ isClosed }) => !isClosed)).toHaveLength(1);
});

test("a link that is closed while it is being made leaves nothing open", async () => {
  const slow = connect(ladle.id, tcp, true);
  slow.catch(() => undefined);
  await turn();
  await linkOf(ladle.id).close();
  await expect(slow).rejects.toMatchObject({ kind: "unreachable" });
  expect(ways[0].isClosed).toBe(true);
  expect(() => openLinkOf(ladle.id)).toThrow(/not linked/);
});

test("two printers cannot hold one way", async () => {
  const linked = connect(ladle.id, tcp, true);
  await turn();
  ways[0].open();
  await linked;
  await expect(connect(whisk.id, tcp, true)).rejects.toMatchObject({
    message: expect.stringMatching(/Ladle 220 holds/),
  });
});

test("a printer that is linked stays on the shelf, and stays the machine it is", async () => {
  await connect(ladle.id, { kind: "simulated", rate: 1 });
  expect(() => guardRemoval(ladle)).toThrow(/is linked\. Close the link/);
  expect(() => guardChange(ladle, { ...ladle, bedWidthMm: 300 })).toThrow(/is linked\. Close the link/);
  expect(() => guardChange(ladle, { ...ladle, name: "Another name", startLines: "G28" })).not.toThrow();
  await linkOf(ladle.id).close();
  expect(() => guardChange(ladle, { ...ladle, bedWidthMm: 300 })).not.toThrow();
});

test("a way that is being asked is nobody else's meanwhile, and free again when that has failed", async () => {
  const asked = askPrinter(tcp, true);
  await turn();
  await expect(connect(ladle.id, tcp, true)).rejects.toMatchObject({
    kind: "conflict",
    message: "A printer is being asked at 192.0.2.7:23 just now. Wait until that is done.",
  });
  await expect(askPrinter(tcp, true)).rejects.toMatchObject({ kind: "conflict" });
  ways[0].fail();
  await expect(asked).rejects.toMatchObject({ kind: "unreachable", message: "it does not answer" });
  const linked = connect(ladle.id, tcp, true);
  await turn();
  ways[1].open();
  await linked;
  await expect(askPrinter(tcp, true)).rejects.toMatchObject({
    kind: "conflict",
    message: `${ladle.name} holds 192.0.2.7:23 already.`,
  });
});
