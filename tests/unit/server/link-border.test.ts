/** What the link's routes take and refuse at the door. */
import { linesBody } from "@/server/http/link";
import { waySchema } from "@/core/link/way-schema";
import { LineCutter } from "@/server/link/bytes";

const firstProblem = (parsed: { success: boolean; error?: { issues: { message: string; path: PropertyKey[] }[] } }) =>
  parsed.success ? null : [parsed.error!.issues[0].path.join("."), parsed.error!.issues[0].message];

describe("a way to a printer", () => {
  it.each([
    [{ kind: "simulated" }, null],
    [{ kind: "simulated", rate: 501 }, ["rate", "The clock runs at most at 500 ×"]],
    [{ kind: "serial", path: "/dev/ttyUSB0", baud: 250000 }, null],
    [{ kind: "serial", path: "COM3", baud: 115200 }, null],
    [
      { kind: "serial", path: "/dev/../etc/passwd", baud: 115200 },
      ["path", "A port is named like /dev/ttyUSB0 or COM3"],
    ],
    [{ kind: "serial", path: "rm -rf /", baud: 115200 }, ["path", "A port is named like /dev/ttyUSB0 or COM3"]],
    [{ kind: "serial", path: "/dev/ttyUSB0", baud: 1 }, ["baud", expect.stringContaining("115200")]],
    [{ kind: "tcp", host: "192.168.1.20", port: 4750 }, null],
    [{ kind: "tcp", host: "a b", port: 4750 }, ["host", expect.stringContaining("An address")]],
    [{ kind: "tcp", host: "printer.local", port: 70000 }, ["port", "A port is 1 to 65535"]],
    [{ kind: "pigeon" }, ["kind", "The way to the printer is simulated, serial or tcp"]],
  ])("%j", (choice, problem) => {
    expect(firstProblem(waySchema.safeParse(choice))).toEqual(problem);
  });
});

describe("lines to send", () => {
  const check = (lines: unknown) => firstProblem(linesBody.safeParse({ printerId: 1, lines }));
  it("are single lines, as they are typed", () => {
    expect(check(["M117 Grüße: ja", "\tG28"])).toBeNull();
    expect(check(["G28\nG1 X500"])).toEqual(["lines.0", "A line must not hold line breaks or control characters"]);
    expect(check(["M105", "\x18"])![0]).toBe("lines.1");
    expect(check([])).toEqual(["lines", "Give at least one line"]);
    expect(check("M105")![1]).toBe("Give a list of lines");
    expect(check(["x".repeat(501)])![1]).toMatch(/at most 500/);
    expect(check(Array(2001).fill("M105"))![1]).toMatch(/At most 2000/);
  });
});

describe("bytes as lines", () => {
  const cut = (...chunks: (string | number[])[]) => {
    const lines: string[] = [];
    const cutter = new LineCutter((line) => lines.push(line));
    for (const chunk of chunks)
      cutter.push(typeof chunk === "string" ? Buffer.from(chunk, "utf8") : Uint8Array.from(chunk));
    return { lines, cutter };
  };
  it("are cut wherever the chunks end, and nothing is hidden", () => {
    expect(cut("ok\r\nT:2", "00 /200\n", "part").lines).toEqual(["ok", "T:200 /200"]);
    expect(cut([111, 0xff, 107, 10]).lines).toEqual(["o\\xffk"]);
    expect(cut("a\x00b\tc\n").lines).toEqual(["a\\x00b\tc"]);
    expect(cut("Grüße\n").lines).toEqual(["Grüße"]);
  });

  it("that never end are handed out in pieces, or when asked", () => {
    const { lines, cutter } = cut("x".repeat(10_000));
    expect(lines.map(({ length }) => length)).toEqual([4096, 4096]);
    expect(cutter.holdsPart).toBe(true);
    cutter.flush();
    expect(lines[2]).toHaveLength(10_000 - 8192);
  });
});
