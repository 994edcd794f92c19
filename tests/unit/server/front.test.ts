/** Who of the home network gets in, and what he may do there: the behaviour of docs/api.md, "On the home network". */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore } from "@/server/db/connection";
import { devices } from "@/server/db/devices";
import {
  CODE_LIVES_MS,
  deviceOf,
  isThisMachine,
  letIn,
  MOST_TRIES,
  refuseDevice,
  showCode,
  tokenIn,
} from "@/server/front/devices";

const folder = mkdtempSync(join(tmpdir(), "cuchara-front-"));
process.env.CUCHARA_DATA = folder;
afterAll(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

const wrong = (code: string) => (code === "000000" ? "000001" : "000000");

test("a code lets one device in, which is known by what it carries until it is sent away", () => {
  const { code } = showCode();
  expect(code).toMatch(/^\d{6}$/);
  const { token, device } = letIn(code, "Kitchen phone");
  expect(deviceOf(token)).toMatchObject({ id: device.id, name: "Kitchen phone", mayAct: false });
  expect(() => letIn(code, "Second phone")).toThrow(/No code is being shown/);
  devices.remove(device.id);
  expect(deviceOf(token)).toBeNull();
});

test("a code has few tries and a short life, and a new one makes the old void", () => {
  const { code } = showCode();
  for (let i = 1; i < MOST_TRIES; i++) expect(() => letIn(wrong(code), "x")).toThrow(/not the code\. \d/);
  expect(() => letIn(wrong(code), "x")).toThrow(/last try/);
  expect(() => letIn(code, "x")).toThrow(/No code is being shown/);
  const old = showCode(1000);
  expect(() => letIn(old.code, "x", 1001 + CODE_LIVES_MS)).toThrow(/No code is being shown/);
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

describe("what a device may do", () => {
  const phone = { id: 1, name: "Phone", mayAct: false, version: 1, createdAt: "", seenAt: "" };
  const trusted = { ...phone, mayAct: true };
  test.each([
    ["GET", "/trials/2", false, true, true],
    ["GET", "/let-in", true, true, true],
    ["POST", "/api/let-in", true, true, true],
    ["GET", "/_next/static/x.js", true, true, true],
    ["PUT", "/api/trials/2", false, true, true],
    ["GET", "/api/link/events", false, true, true],
    ["POST", "/api/link/lines", false, false, true],
    ["POST", "/api/link/connect", false, false, true],
    ["POST", "/api/link/job", false, false, true],
    ["POST", "/api/measure/act", false, false, true],
    // Stopping a printer is everybody's.
    ["POST", "/api/link/stop", false, true, true],
    ["GET", "/api/backup", false, false, false],
    ["PUT", "/api/backup", false, false, false],
    ["POST", "/api/devices/code", false, false, false],
    ["PUT", "/api/devices/1", false, false, false],
  ])("%s %s: a stranger %s, one that was let in %s, one that may act %s", (method, path, none, reads, acts) => {
    const may = (device: typeof phone | null) => refuseDevice(device, method, path) === null;
    expect([may(null), may(phone), may(trusted)]).toEqual([none, reads, acts]);
  });
});
