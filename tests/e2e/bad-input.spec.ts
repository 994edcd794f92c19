import { APIResponse, expect } from "@playwright/test";
import { request as plainRequest } from "node:http";
import { makeTrial, openTrial, test } from "./helpers";

const temperature = { kind: "temperature", printerId: 1, spoolId: 1 };
const band = (heightMm: unknown, nozzleTemperature: unknown = 210) => ({
  plan: { baseHeightMm: 1, bands: [{ heightMm, settings: { nozzleTemperature } }] },
});

async function expectRefused(response: APIResponse, status: number, sentence: RegExp, field?: string): Promise<void> {
  expect(response.status()).toBe(status);
  const { error } = (await response.json()) as { error: { message: string; field?: string } };
  expect(error.message).toMatch(sentence);
  if (field !== undefined) expect(error.field).toBe(field);
}

test.describe("bad trials", () => {
  for (const [name, body, status, sentence, field] of [
    ["band height 0", { ...temperature, ...band(0) }, 400, /at least 0.05 mm/, "plan.bands.0.heightMm"],
    ["negative band height", { ...temperature, ...band(-3) }, 400, /at least 0.05 mm/, "plan.bands.0.heightMm"],
    ["text for a height", { ...temperature, ...band("ten") }, 400, /number in mm/, "plan.bands.0.heightMm"],
    [
      "text for a temperature",
      { ...temperature, ...band(10, "hot") },
      400,
      /number in °C/,
      "plan.bands.0.settings.nozzleTemperature",
    ],
    ["unknown printer", { ...temperature, printerId: 999 }, 400, /no printer 999 on the shelf/, "printerId"],
    ["unknown spool", { ...temperature, spoolId: 999 }, 400, /no spool 999/, "spoolId"],
    ["unknown kind", { ...temperature, kind: "colour" }, 400, /one of temperature/, "kind"],
    ["nothing at all", {}, 400, /./, "kind"],
    ["a list", [], 400, /./, undefined],
  ] as const) {
    test(name, async ({ request }) => {
      await expectRefused(await request.post("/api/trials", { data: body }), status, sentence, field);
    });
  }

  test("a million bands", async ({ request }) => {
    const bands = new Array(60_000).fill({ heightMm: 5, settings: { fan: 5 } });
    await expectRefused(
      await request.post("/api/trials", { data: { ...temperature, plan: { baseHeightMm: 1, bands } } }),
      400,
      /at most 200 bands/,
    );
    const million = `{"kind":"temperature","printerId":1,"spoolId":1,"plan":{"baseHeightMm":1,"bands":[${"{},".repeat(2_000_000)}{}]}}`;
    await expectRefused(
      await request.post("/api/trials", {
        data: Buffer.from(million),
        headers: { "Content-Type": "application/json" },
      }),
      413,
      /larger than 4 MB/,
    );
  });

  test("NaN is not JSON, and a form is not JSON either", async ({ request }) => {
    const send = (data: string, type: string) =>
      request.post("/api/trials", { data: Buffer.from(data), headers: { "Content-Type": type } });
    await expectRefused(
      await send('{"kind":"temperature","printerId":NaN}', "application/json"),
      400,
      /NaN and Infinity/,
    );
    await expectRefused(await send("kind=temperature", "application/x-www-form-urlencoded"), 415, /Send JSON/);
  });

  test("300 °C on a 260 °C printer is stored but not handed out", async ({ request }) => {
    const id = await makeTrial(request, { ...temperature, ...band(10, 300) });
    const response = await request.get(`/api/trials/${id}/gcode`);
    expect(response.status()).toBe(422);
    const { error } = (await response.json()) as { error: { findings: { severity: string; message: string }[] } };
    expect(error.findings).toMatchObject([
      { severity: "stop", message: "The nozzle is set to 300 °C; Ladle 220 allows 260 °C." },
    ]);
  });

  test("unknown ids, everywhere", async ({ request }) => {
    for (const path of [
      "/api/trials/9999",
      "/api/trials/abc/gcode",
      "/api/printers/0",
      "/api/spools/-1",
      "/api/files/9999/report",
      "/api/files/9999/gcode",
      "/api/trials/9999/proof",
    ]) {
      await expectRefused(await request.get(path), 404, /There is no/);
    }
    await expectRefused(await request.put("/api/files/9999/edits", { data: [] }), 404, /no file 9999/);
    await expectRefused(await request.delete("/api/trials/9999"), 404, /no trial 9999/);
  });

  test("a removed spool is said on the page and over HTTP, and nothing is lost", async ({ page, request }) => {
    const spool = (await (await request.get("/api/spools/1")).json()) as object;
    const { id: spoolId } = (await (
      await request.post("/api/spools", { data: { ...spool, name: "Short-lived" } })
    ).json()) as { id: number };
    const id = await makeTrial(request, { ...temperature, spoolId });
    await request.delete(`/api/spools/${spoolId}`);
    await expectRefused(
      await request.get(`/api/trials/${id}/gcode`),
      409,
      /spool of this trial was removed/,
      "spoolId",
    );
    await page.goto(`/trials/${id}`);
    await expect(page.getByRole("alert").filter({ hasText: "The spool of this trial was removed" })).toBeVisible();
    await request.post(`/api/spools/${spoolId}/restore`, { data: {} });
    await openTrial(page, id);
  });

  test("the trial of an unknown id says so on the page", async ({ page }) => {
    await page.goto("/trials/424242");
    await expect(page.getByText("There is no trial 424242.")).toBeVisible();
  });
});

test("bad edits are refused with their field", async ({ request }) => {
  const put = (data: unknown) => request.put("/api/files/2/edits", { data });
  await expectRefused(await put({ kind: "height-plan" }), 400, /list of edits/);
  await expectRefused(await put([{ kind: "paint" }]), 400, /kind is one of/, "0.kind");
  await expectRefused(await put([{ kind: "height-plan", changes: [] }]), 400, /at least one change/, "0.changes");
  await expectRefused(
    await put([{ kind: "height-plan", changes: [{ from: { heightMm: 1 }, settings: { wings: 2 } }] }]),
    400,
    /“wings” is not a setting/,
  );
  expect((await put([])).status()).toBe(200);
});

test("an upload without a name, and one that is too large, are refused", async ({ request, baseURL }) => {
  await expectRefused(await request.post("/api/files", { data: "G28" }), 400, /Give the file a name/, "name");
  const status = await new Promise<number>((resolve, reject) => {
    const { port } = new URL(baseURL!);
    const sent = plainRequest(
      {
        host: "127.0.0.1",
        port,
        path: "/api/files?name=huge.gcode",
        method: "POST",
        headers: { "Content-Length": 300_000_000 },
      },
      (response) => resolve(response.statusCode ?? 0),
    );
    sent.on("error", reject);
    sent.write("G28\n");
  });
  expect(status).toBe(413);
});

test("foreign hosts and origins are refused, whatever they ask", async ({ request, baseURL }) => {
  const { port } = new URL(baseURL!);
  const ask = (headers: Record<string, string>, method = "GET", path = "/api/printers") =>
    new Promise<{ status: number; body: string }>((resolve, reject) => {
      const sent = plainRequest({ host: "127.0.0.1", port, path, method, headers }, (response) => {
        let body = "";
        response.on("data", (chunk: Buffer) => (body += chunk.toString()));
        response.on("end", () => resolve({ status: response.statusCode ?? 0, body }));
      });
      sent.on("error", reject);
      sent.end();
    });
  expect((await ask({ Host: `127.0.0.1:${port}` })).status).toBe(200);
  const foreign: Record<string, string>[] = [
    { Host: "evil.example" },
    { Host: `evil.example:${port}` },
    { Host: `127.0.0.1:${port}`, Origin: "http://evil.example" },
    { Host: `127.0.0.1:${port}`, Origin: "null" },
    { Host: `127.0.0.1:${port}`, "Sec-Fetch-Site": "cross-site" },
  ];
  for (const headers of foreign) {
    for (const method of ["GET", "PUT", "DELETE"]) {
      const { status, body } = await ask(headers, method, "/api/printers/1");
      expect(status).toBe(403);
      expect((JSON.parse(body) as { error: { message: string } }).error.message.length).toBeGreaterThan(10);
    }
  }
  expect((await ask({ Host: "evil.example" }, "GET", "/bench")).status).toBe(403);
  expect((await request.get("/api/health")).status()).toBe(200);
  expect((await request.get("/api/printers/1")).status()).toBe(200);
});

test("pages may load nothing from elsewhere", async ({ page }) => {
  const asked: string[] = [];
  page.on("request", (request) => asked.push(new URL(request.url()).host));
  const response = await page.goto("/bench");
  const policy = response!.headers()["content-security-policy"];
  expect(policy).toContain("default-src 'self'");
  expect(policy).not.toMatch(/https?:|unsafe-eval/);
  await page.waitForLoadState("networkidle");
  expect(new Set(asked).size).toBe(1);
});
