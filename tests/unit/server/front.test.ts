/** Who of the home network gets in, and what he may do there: the behaviour of docs/api.md, "On the home network". */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore } from "@/server/db/connection";
import { devices } from "@/server/db/devices";
import { callerOf, CODE_LIVES_MS, COOKIE, deviceOf, isThisMachine } from "@/server/front/devices";
import { letIn, MOST_TRIES, MOST_TRIES_OF_ALL, showCode, tokenIn } from "@/server/front/devices";
import { plainPath } from "@/server/front/plain-path";
import { ranks, refuseRank } from "@/server/who";

const folder = mkdtempSync(join(tmpdir(), "cuchara-front-"));
process.env.CUCHARA_DATA = folder;
afterAll(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

const wrong = (code: string) => (code === "00000000" ? "00000001" : "00000000");
const phone = "stranger 192.168.1.20";

test("a code lets one device in, which is known by what it carries until it is sent away", () => {
  const { code } = showCode("mark");
  expect(code).toMatch(/^\d{8}$/);
  const { token, device } = letIn(code, "Kitchen phone", phone);
  expect(deviceOf(token)).toMatchObject({ id: device.id, name: "Kitchen phone", may: "mark" });
  expect(() => letIn(code, "Second phone", phone)).toThrow(/No code is good/);
  devices.remove(device.id);
  expect(deviceOf(token)).toBeNull();
});

test("a code has few tries and a short life, and a new one makes the old void", () => {
  const { code } = showCode("mark");
  for (let i = 1; i < MOST_TRIES; i++) expect(() => letIn(wrong(code), "x", phone)).toThrow(/not the code\. \d/);
  expect(() => letIn(wrong(code), "x", phone)).toThrow(/no try left/);
  expect(() => letIn(code, "x", phone)).toThrow(/no try left/);
  const old = showCode("mark", 1000);
  expect(() => letIn(old.code, "x", phone, 1001 + CODE_LIVES_MS)).toThrow(/No code is good/);
});

test("nobody spends the tries of another, and all together have few as well", () => {
  const { code } = showCode("mark");
  for (let i = 0; i < MOST_TRIES; i++) expect(() => letIn(wrong(code), "x", "stranger 192.168.1.66")).toThrow();
  const { device } = letIn(code, "Kitchen phone", phone);
  devices.remove(device.id);

  const next = showCode("mark");
  for (let i = 0; i < MOST_TRIES_OF_ALL; i++) expect(() => letIn(wrong(next.code), "x", `stranger ${i}`)).toThrow();
  expect(() => letIn(next.code, "Kitchen phone", phone)).toThrow(/No code is good/);
});

test.each([
  ["127.0.0.1", true],
  ["::1", true],
  ["::ffff:127.0.0.1", true],
  ["192.168.1.20", false],
  ["::ffff:192.168.1.20", false],
  [undefined, false],
])("%s is this machine: %s", (address, own) => {
  expect(isThisMachine(address)).toBe(own);
});

test.each([
  ["cuchara_device=abc", "abc"],
  ["a=1; cuchara_device=abc; b=2", "abc"],
  ["xcuchara_device=abc", null],
  [undefined, null],
])("the token in %j", (cookies, token) => {
  expect(tokenIn(cookies)).toBe(token);
});

test.each([
  ["mark", "marker"],
  ["act", "actor"],
  ["all", "bench"],
] as const)("a device let in with the right %s comes as %s", (may, rank) => {
  const { token, device } = letIn(showCode(may).code, "Device", phone);
  expect(callerOf("192.168.1.20", `${COOKIE}=${token}`)).toEqual({ rank, caller: `device ${device.id}` });
  expect(callerOf("192.168.1.20", `${COOKIE}=${token}x`).rank).toBe("stranger");
});

test("a rank may what those before it may, and nothing of those behind it", () => {
  for (const [i, caller] of ranks.entries()) {
    for (const [j, asked] of ranks.entries()) expect(refuseRank(caller, asked) === null).toBe(i >= j);
  }
});

// Spellings of one place that a router takes for another (RFC 3986, sections 2.1, 3.3 and 5.2.4).
test.each([
  "/_next/static/../../api/printers",
  "/_next/static/%2e%2e/%2e%2e/api/printers",
  "/_next/static/.%2E/.%2e/api/printers",
  "/_next/static/a/../../../api/printers",
  "/_next/static/./../../api/printers",
  "/_next/static/..%2f..%2fapi/printers",
  "/_next/static/..%5c..%5capi/printers",
  "/_next/static/..\\..\\api/printers",
  "/_next/static//api/printers",
  "/_next/static/%252e%252e/api/printers",
  "//api/printers",
  "/api//printers",
  "/api/printers/",
  "/api/printers;x=1",
  "/api/printers/1%3bx",
  "/api/printers%00",
  "/api/./printers",
  "/api/printers/%",
  "http://127.0.0.1/api/printers",
  "api/printers",
  "",
])("%s is no plain path", (url) => {
  expect(plainPath(url)).toBeNull();
});

test.each([
  ["/", "/"],
  ["/api/printers?next=/../x;y", "/api/printers"],
  ["/_next/static/chunks/a..b.js", "/_next/static/chunks/a..b.js"],
  ["/api/runs/1/readings/%C3%A9l%C3%A8ve%20100%25", "/api/runs/1/readings/élève 100%"],
])("%s is %s", (url, path) => {
  expect(plainPath(url)).toBe(path);
});
