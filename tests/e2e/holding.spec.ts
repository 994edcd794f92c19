/** What must hold: two pages on one thing, a phone in the network, a backup, a second program, odd requests, kills and an hour of jobs. */
import { Browser, expect } from "@playwright/test";
import Database from "better-sqlite3";
import { spawnSync } from "node:child_process";
import { copyFileSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { request as plainRequest } from "node:http";
import { networkInterfaces, tmpdir } from "node:os";
import { join } from "node:path";
import { freePort, good, OwnProgram, plainPrinter, plainSpool, startProgram } from "../../scripts/own-program.cjs";
import { expectAccessible, test } from "./helpers";

let data: string;
let program: OwnProgram;

/** A program with a printer, a spool and a trial. */
async function begin(host?: string): Promise<number> {
  data = mkdtempSync(join(tmpdir(), "cuchara-holding-"));
  program = await startProgram(data, { host });
  const printerId = good(await program.ask("POST", "/api/printers", plainPrinter)).id as number;
  const spoolId = good(await program.ask("POST", "/api/spools", plainSpool)).id as number;
  good(await program.ask("PUT", "/api/bench", { printerId, spoolId }));
  return good(await program.ask("POST", "/api/trials", { kind: "temperature", name: "Tower", printerId, spoolId }))
    .id as number;
}

test.afterEach(async () => {
  await program.kill();
  rmSync(data, { recursive: true, force: true });
});

const named = async (id: number) =>
  good(await program.ask("GET", `/api/trials/${id}`)) as unknown as {
    name: string;
    layerHeightMm: number;
    version: number;
  };

/** Two browsers with the trial open in each. */
async function twoPages(browser: Browser, id: number) {
  const contexts = await Promise.all([browser.newContext(), browser.newContext()]);
  const pages = await Promise.all(contexts.map((context) => context.newPage()));
  for (const page of pages) {
    await page.goto(`${program.address}/trials/${id}`);
    await expect(page.getByLabel("Name of the trial")).toHaveValue("Tower");
  }
  return { pages, close: () => Promise.all(contexts.map((context) => context.close())) };
}

test("two pages on one trial: neither loses what it changed, and each follows the other", async ({ browser }) => {
  const id = await begin();
  const { pages, close } = await twoPages(browser, id);
  const [one, two] = pages;
  await one.getByLabel("Name of the trial").fill("Renamed in one");
  await expect(async () => expect((await named(id)).name).toBe("Renamed in one")).toPass();
  await two.getByLabel("Layers", { exact: true }).fill("0.24");
  await expect(async () => expect((await named(id)).layerHeightMm).toBe(0.24)).toPass();
  expect((await named(id)).name).toBe("Renamed in one");
  await expect(two.getByLabel("Name of the trial")).toHaveValue("Renamed in one");
  await expect(one.getByLabel("Layers", { exact: true })).toHaveValue("0.24");
  await close();
});

test("two pages that change the same are asked, and both are kept", async ({ browser }) => {
  const id = await begin();
  const { pages, close } = await twoPages(browser, id);
  const [one, two] = pages;
  // What one stores while the other is being typed in meets it when that is stored.
  await two.route("**/api/changes*", (route) => route.abort());
  await one.getByLabel("Name of the trial").fill("From one");
  await expect(async () => expect((await named(id)).name).toBe("From one")).toPass();
  await two.getByLabel("Name of the trial").fill("From two");
  const dialog = two.getByRole("dialog");
  await expect(dialog).toContainText("Another page has changed its name");
  expect((await named(id)).name).toBe("From one");
  await dialog.getByRole("button", { name: "Keep mine as a copy" }).click();
  await expect(two.getByLabel("Name of the trial")).toHaveValue("From one");
  const names = (good(await program.ask("GET", "/api/trials")) as unknown as { name: string }[]).map(
    ({ name }) => name,
  );
  expect(names.sort()).toEqual(["From one", "From two (mine)"]);
  await close();
});

test("what is typed just before the page is closed is not lost", async ({ browser }) => {
  const id = await begin();
  const { pages, close } = await twoPages(browser, id);
  await pages[0].getByLabel("Name of the trial").fill("Typed last");
  await pages[0].goto("about:blank");
  await expect(async () => expect((await named(id)).name).toBe("Typed last")).toPass();
  await close();
});

test("over HTTP: a change of an older version is refused with the record as it is; what names none is taken as now", async () => {
  const id = await begin();
  expect((await named(id)).version).toBe(1);
  good(await program.ask("PUT", `/api/trials/${id}`, { version: 1, name: "Second" }));
  const stale = await program.ask("PUT", `/api/trials/${id}`, { version: 1, layerHeightMm: 0.3 });
  expect(stale).toMatchObject({
    status: 409,
    body: { error: { kind: "conflict", current: { id, version: 2, name: "Second" } } },
  });
  good(await program.ask("PUT", `/api/trials/${id}`, { layerHeightMm: 0.24 }));
  expect(await named(id)).toMatchObject({ name: "Second", layerHeightMm: 0.24, version: 3 });
  for (const path of ["/api/printers/1", "/api/spools/1", "/api/bench"]) {
    const { version } = good(await program.ask("GET", path)) as { version: number };
    expect([path, (await program.ask("PUT", path, { version: version + 7 })).status]).toEqual([path, 409]);
    expect([path, (await program.ask("PUT", path, { version })).status]).toEqual([path, 200]);
  }
});

test("a save whose body comes slowly does not put back what was changed meanwhile", async () => {
  const id = await begin();
  const body = JSON.stringify({ name: "Slow" });
  const slow = new Promise<number>((resolve, reject) => {
    const request = plainRequest(
      {
        host: "127.0.0.1",
        port: program.port,
        path: `/api/trials/${id}`,
        method: "PUT",
        headers: { "Content-Type": "application/json", "Content-Length": body.length },
      },
      (response) => resolve(response.statusCode!),
    );
    request.on("error", reject);
    request.write(body.slice(0, 5));
    setTimeout(() => request.end(body.slice(5)), 400);
  });
  good(await program.ask("PUT", `/api/trials/${id}`, { layerHeightMm: 0.28 }));
  expect(await slow).toBe(200);
  expect(await named(id)).toMatchObject({ name: "Slow", layerHeightMm: 0.28 });
});

test("every answer under /api is JSON with a sentence, and none is a fault of ours", async () => {
  const id = await begin();
  const plain = (method: string, path: string) =>
    new Promise<{ status: number; type: string; text: string; nosniff: unknown }>((resolve, reject) => {
      const request = plainRequest({ host: "127.0.0.1", port: program.port, path, method }, (response) => {
        let text = "";
        response.on("data", (chunk) => (text += chunk));
        response.on("end", () =>
          resolve({
            status: response.statusCode!,
            type: String(response.headers["content-type"]),
            text,
            nosniff: response.headers["x-content-type-options"],
          }),
        );
      });
      request.on("error", reject);
      request.end();
    });
  const odd = [
    ["GET", "/api/nothing"],
    ["GET", "/api/trials/%"],
    ["GET", "/api/trials/%zz"],
    ["GET", "/api/trials/%ff"],
    ["GET", "/api//trials"],
    ["GET", "/api/trials/"],
    ["GET", "/api/../api/trials/x"],
    ["GET", "/api/trials/0x1"],
    ["GET", "/api/trials/1e0"],
    ["GET", "/api/trials/01"],
    ["GET", "/api/trials/%201"],
    ["TRACE", "/api/trials"],
    ["DELETE", "/api/trials"],
    ["PATCH", `/api/trials/${id}`],
    ["POST", "/api/health"],
    ["PUT", "/api/nothing/at/all"],
    ["GET", "/api/link/log?printerId=1&day=2026-99-99"],
    ["GET", "/api/link/heat?printerId=0x1"],
  ];
  for (const [method, path] of odd) {
    const { status, type, text, nosniff } = await plain(method, path);
    expect([path, status >= 400 && status < 500, type.startsWith("application/json"), nosniff]).toEqual([
      path,
      true,
      true,
      "nosniff",
    ]);
    expect((JSON.parse(text) as { error: { message: string } }).error.message).toMatch(/\w+ \w+.*\.$/);
  }
});

test("a backup is taken while everything runs, and put in place again on a page; what was there is kept", async ({
  page,
}) => {
  const id = await begin();
  const bytes = Buffer.from(await (await fetch(`${program.address}/api/backup`)).arrayBuffer());
  const file = join(data, "my.db");
  writeFileSync(file, bytes);
  const copy = new Database(file, { readonly: true });
  expect(copy.pragma("integrity_check", { simple: true })).toBe("ok");
  expect(copy.prepare("SELECT name FROM trials").pluck().all()).toEqual(["Tower"]);
  copy.close();
  good(await program.ask("PUT", `/api/trials/${id}`, { name: "Changed later" }));

  await page.goto(`${program.address}/shelf/program`);
  await expectAccessible(page);
  await page.getByLabel("Backup", { exact: true }).setInputFiles(file);
  await page.getByRole("button", { name: "Put it in place" }).click();
  await expect(page.getByText(/The backup is restored. The data from before is kept as/)).toBeVisible();
  expect((await named(id)).name).toBe("Tower");

  for (const bad of [bytes.subarray(0, bytes.length / 2), Buffer.from("no database at all")]) {
    const refused = await fetch(`${program.address}/api/backup`, { method: "PUT", body: new Uint8Array(bad) });
    expect(refused.status).toBe(422);
  }
  expect((await named(id)).name).toBe("Tower");
  // A clean end leaves everything in the one file.
  await program.end();
  copyFileSync(join(data, "cuchara.db"), join(data, "copied.db"));
  const whole = new Database(join(data, "copied.db"), { readonly: true });
  expect(whole.prepare("SELECT name FROM trials").pluck().all()).toEqual(["Tower"]);
  whole.close();
});

test("a second program on the same data, and one on the same port, say so and end", async () => {
  await begin();
  const second = await startProgram(data);
  expect(await second.ended).toBe(1);
  expect(second.said()).toMatch(/Another Cuchara is running on the data in/);
  const other = mkdtempSync(join(tmpdir(), "cuchara-other-"));
  const same = spawnSync(process.execPath, [".build/server.cjs"], {
    env: { ...process.env, NODE_ENV: "production", PORT: String(program.port), HOST: "127.0.0.1", CUCHARA_DATA: other },
    encoding: "utf8",
  });
  rmSync(other, { recursive: true, force: true });
  expect([same.status, same.stdout.includes("ready")]).toEqual([1, false]);
  expect(same.stderr).toMatch(/^Port \d+ is in use by another program\. End it, or choose another port/);
  expect((await program.ask("GET", "/api/health")).body).toMatchObject({ status: "ok" });
});

test("a damaged database is said on the page, by health and on the terminal, and left as it is", async ({ page }) => {
  data = mkdtempSync(join(tmpdir(), "cuchara-damaged-"));
  writeFileSync(join(data, "cuchara.db"), "this is a shopping list ".repeat(500));
  program = await startProgram(data);
  expect(program.said()).toMatch(/The database is damaged\. It was left unchanged/);
  expect(await program.ask("GET", "/api/health")).toMatchObject({ status: 503, body: { status: "trouble" } });
  expect((await program.ask("POST", "/api/printers", plainPrinter)).status).toBe(503);
  await page.goto(`${program.address}/trials`);
  await expect(page.getByRole("alert").first()).toContainText("The database is damaged");
});

const ownAddress = Object.values(networkInterfaces())
  .flatMap((addresses) => addresses ?? [])
  .find(({ family, internal }) => family === "IPv4" && !internal)?.address;

test("a phone in the network is let in by a code, reads and marks, and is kept from heating until the bench allows it", async ({
  browser,
}) => {
  test.skip(!ownAddress, "this machine has no address but its own");
  const id = await begin("0.0.0.0");
  const outside = `http://${ownAddress}:${program.port}`;
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await phone.goto(`${outside}/trials`);
  await expect(phone.getByRole("heading", { name: "Let this device in" })).toBeVisible();
  await expectAccessible(phone);
  expect((await fetch(`${outside}/api/trials`)).status).toBe(403);

  const bench = await (await browser.newContext()).newPage();
  await bench.goto(`${program.address}/shelf/program`);
  await bench.getByRole("button", { name: "Let a device in" }).click();
  const code = (await bench.getByText(/^\d{4} \d{4}$/).textContent())!;
  await phone.getByLabel("The code it shows").fill(code);
  await phone.getByLabel("What to call this device").fill("Kitchen phone");
  await phone.getByRole("button", { name: "Let me in" }).click();
  await expect(phone).toHaveURL(/\/bench/);

  const from = (method: string, path: string, body?: unknown) =>
    phone.evaluate(
      async ([how, where, what]) =>
        (
          await fetch(where, {
            method: how,
            headers: { "Content-Type": "application/json" },
            body: what === undefined ? undefined : JSON.stringify(what),
          })
        ).status,
      [method, path, body] as const,
    );
  expect(await from("GET", `/api/trials/${id}`)).toBe(200);
  expect(await from("POST", `/api/trials/${id}/runs`, {})).toBe(201);
  expect(await from("PUT", `/api/trials/${id}`, { name: "Changed by phone" })).toBe(403);
  const heat = { printerId: 1, transport: { kind: "simulated", rate: 1 } };
  expect(await from("POST", "/api/link/connect", heat)).toBe(403);
  expect(await from("GET", "/api/backup")).toBe(403);
  expect(await from("POST", "/api/devices/code", {})).toBe(403);
  await bench.getByLabel("What Kitchen phone may do").selectOption({ label: "also move and heat printers" });
  await expect(async () => expect(await from("POST", "/api/link/connect", heat)).toBe(201)).toPass();
  expect(await from("GET", "/api/backup")).toBe(403);

  // A machine without a screen: the code comes from its terminal, with all rights.
  const { stdout } = spawnSync(process.execPath, ["scripts/let-in.mjs", "--may", "all"], {
    encoding: "utf8",
    env: { ...process.env, PORT: new URL(program.address).port },
  });
  const typed = /Code: (\d{4} \d{4})/.exec(stdout)![1];
  await phone.goto(`${outside}/let-in`);
  await phone.getByLabel("The code it shows").fill(typed);
  await phone.getByLabel("What to call this device").fill("Desk");
  await phone.getByRole("button", { name: "Let me in" }).click();
  await expect(phone).toHaveURL(/\/bench/);
  expect(await from("PUT", `/api/trials/${id}`, { name: "Changed from the desk" })).toBe(200);
  expect(await from("DELETE", "/api/devices/2")).toBe(200);
  expect(await from("GET", "/api/trials")).toBe(403);
  await context.close();
});

test("kills at random moments lose nothing acknowledged", async () => {
  data = mkdtempSync(join(tmpdir(), "cuchara-kills-"));
  program = await startProgram(data, { port: await freePort() });
  // How fast a start is belongs to the whole run; here the machine is busy with other tests.
  const few = ["scripts/kills.mjs", "--rounds", "2", "--start-ms", "30000"];
  const { status, stdout, stderr } = spawnSync(process.execPath, few, { encoding: "utf8" });
  expect(`${stdout}${stderr}`).toContain("nothing acknowledged was lost");
  expect(status).toBe(0);
});

test("jobs over a line with faults leave memory, delay and database bounded", async () => {
  data = mkdtempSync(join(tmpdir(), "cuchara-soak-"));
  program = await startProgram(data);
  const short = ["scripts/soak.mjs", "--minutes", "0.1", "--delay-ms", "1000"];
  const { status, stdout, stderr } = spawnSync(process.execPath, short, { encoding: "utf8" });
  expect(`${stdout}${stderr}`).toMatch(/^bounded$/m);
  expect(status).toBe(0);
});
