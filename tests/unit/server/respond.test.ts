import { z } from "zod";
import { readBody } from "@/server/http/body";
import { attachment, fileName } from "@/server/http/download";
import { handle, json, pathId } from "@/server/http/respond";
import { Refused } from "@/server/refused";

const open = { who: "bench" } as const;
const atBench = { Host: "127.0.0.1", "x-cuchara-rank": "bench" };
const context = { params: Promise.resolve({ id: "7" }) };
const post = (body: BodyInit, headers: Record<string, string> = { "Content-Type": "application/json" }) =>
  new Request("http://127.0.0.1/api/x", { method: "POST", body, headers: { ...atBench, ...headers } });
const schema = z.object({ heightMm: z.number({ error: "Height must be a number" }) });
const echo = handle(async (request) => json(await readBody(request, schema)), open);
const answer = async (response: Response) => ({
  status: response.status,
  body: (await response.json()) as { error?: { message: string; field?: string } },
});

test("a good body comes through checked", async () => {
  expect(await answer(await echo(post('{"heightMm": 5, "more": 1}'), context))).toEqual({
    status: 200,
    body: { heightMm: 5 },
  });
});

test.each([
  ['{"heightMm": "5"}', 400, /Height must be a number/, "heightMm"],
  ["{", 400, /not JSON/, undefined],
  ['{"heightMm": NaN}', 400, /NaN and Infinity are not allowed/, undefined],
  ["[]", 400, /./, ""],
])("%s is refused with %i", async (body, status, sentence, field) => {
  const { status: got, body: said } = await answer(await echo(post(body), context));
  expect(got).toBe(status);
  expect(said.error!.message).toMatch(sentence);
  expect(said.error!.field).toBe(field);
});

test("what is not JSON by its header is refused, so that no form of another site gets in", async () => {
  expect((await answer(await echo(post("{}", { "Content-Type": "text/plain" }), context))).status).toBe(415);
});

test.each(["text/plain; x=json", "multipart/form-data; boundary=json", "application/jsonp"])(
  "%s is not JSON either",
  async (type) => {
    expect((await answer(await echo(post("{}", { "Content-Type": type }), context))).status).toBe(415);
  },
);

test("too large a body is refused before it is read to its end", async () => {
  expect((await answer(await echo(post(`"${"x".repeat(5 << 20)}"`), context))).status).toBe(413);
});

test("errors with a status keep it; bugs become a plain 500", async () => {
  const teapot = handle(() => {
    throw new Refused("conflict", "Not now.", { field: "spoolId" });
  }, open);
  expect(await answer(await teapot(post("{}"), context))).toEqual({
    status: 409,
    body: { error: { kind: "conflict", message: "Not now.", field: "spoolId" } },
  });
  const bug = handle(() => {
    throw new TypeError("secret detail");
  }, open);
  const { status, body } = await answer(await bug(post("{}"), context));
  expect(status).toBe(500);
  expect(JSON.stringify(body)).not.toContain("secret");
});

test("requests from elsewhere never reach a handler", async () => {
  const asked = jest.fn(() => json({}));
  const foreign = new Request("http://127.0.0.1/api/x", {
    headers: { ...atBench, Origin: "http://evil.example" },
  });
  expect((await answer(await handle(asked, open)(foreign, context))).status).toBe(403);
  expect(asked).not.toHaveBeenCalled();
});

test("ids of paths", () => {
  expect(pathId({ id: "12" }, "trial")).toBe(12);
  for (const id of ["0", "-1", "1.5", "abc", "1e99", "", "0x1", "1e0", "1.0", "01", " 1", "+1", "٣"])
    expect(() => pathId({ id }, "trial")).toThrow(/There is no trial/);
});

describe("names of downloads", () => {
  test.each([
    ["How hot does Saffron want to be?.gcode", "How hot does Saffron want to be.gcode"],
    ["../../etc/passwd", "etc-passwd"],
    ["\r\n", "program"],
    // A hundred letters are allowed in a trial's name; the ending stays whole.
    [`${"x".repeat(100)}.gcode`, `${"x".repeat(80)}.gcode`],
    // A letter of two code units (U+1D400) is kept or cut as one: half of one has no URI form (ECMA-262, encodeURIComponent).
    [`${"a".repeat(79)}\u{1D400}\u{1D400}.gcode`, `${"a".repeat(79)}\u{1D400}.gcode`],
    // Names that are devices on some systems ("Naming Files, Paths, and Namespaces", Microsoft Learn).
    ["con.gcode", "programcon.gcode"],
    ["a\0b.gcode", "a-b.gcode"],
  ])("%j is stored as %j", (name, stored) => {
    expect(fileName(name)).toBe(stored);
    expect(() => attachment(name)).not.toThrow();
  });

  test("are said in plain letters and in all (RFC 6266, RFC 8187)", () => {
    expect(attachment('a"b é.gcode')["Content-Disposition"]).toBe(
      `attachment; filename="a-b _.gcode"; filename*=UTF-8''a-b%20%C3%A9.gcode`,
    );
  });
});
