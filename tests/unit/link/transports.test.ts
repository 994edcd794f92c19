/** One contract for every way to a printer: the same talk over a simulated, a serial and a network link. */
import { readIdentity } from "@/core/firmware/reports/identity";
import { readPosition } from "@/core/firmware/reports/position";
import { readValues } from "@/core/firmware/values/reading";
import { serialSpeeds } from "@/core/link/way";
import { LinkSession } from "@/server/link/session";
import { ladle } from "../helpers/demo";
import { pause, until, Way, WayKind, wayTo } from "./ways";

// A slow machine may take its time: what is waited for has bounds of its own.
jest.setTimeout(60_000);

function talkOver(way: Way) {
  const said: { direction: string; text: string }[] = [];
  const session = new LinkSession(way.transport, {
    onEvent: (direction, _, text) => said.push({ direction, text }),
    onTemperatures: () => undefined,
    onChange: () => undefined,
  });
  return { said, session };
}

describe.each<WayKind>(["simulated", "serial", "tcp"])("a %s link", (kind) => {
  let way: Way;
  beforeEach(async () => {
    way = await wayTo(kind, ladle);
  });
  afterEach(() => way.end());

  it("sends nothing when it is made", async () => {
    const { session, said } = talkOver(way);
    await session.open();
    await pause(80);
    expect(way.host.machine.linesTaken).toBe(0);
    expect(said.filter(({ direction }) => direction !== "note")).toEqual([]);
    await session.close();
  });

  it("brings lines there and answers back, one at a time and in order", async () => {
    const { session, said } = talkOver(way);
    await session.open();
    const [identity, values, home, place] = await Promise.all(
      ["M115", "M503", "G28", "M114"].map((line) => session.exchange(line, "console")),
    );
    expect([identity, values, home, place].map(({ outcome }) => outcome)).toEqual(Array(4).fill("taken"));
    expect(readIdentity(identity.answers).fields.MACHINE_TYPE).toBe("Ladle 220");
    expect(readValues(values.answers).entries).toContainEqual(
      expect.objectContaining({ id: "extruderSteps", value: 405 }),
    );
    expect(home.answers).toEqual([]);
    expect(readPosition(place.answers.join("\n"))).toEqual({ xMm: 0, yMm: 0, zMm: 0, eMm: 0 });
    const talk = said
      .filter(({ direction, text }) => direction === "out" || text.startsWith("ok"))
      .map(({ direction }) => direction);
    expect(talk).toEqual(["out", "in", "out", "in", "out", "in", "out", "in"]);
    expect(said.some(({ text }) => text === "echo:busy: processing")).toBe(true);
    await session.close();
  });

  it("is noticed within two seconds when it is lost; what waits is kept as not sent", async () => {
    const { session } = talkOver(way);
    await session.open();
    await session.exchange("M105", "console");
    way.host.setRate(1);
    const outcomes = ["G28", "G1 X10", "G1 Y10"].map((line) => session.exchange(line, "console"));
    const start = Date.now();
    way.pull();
    await until(() => session.state === "lost", "the loss is noticed", 4000);
    expect(Date.now() - start).toBeLessThan(2000);
    expect((await Promise.all(outcomes)).map(({ outcome }) => outcome)).toEqual(["no answer", "not sent", "not sent"]);
    expect(session.unsent).toEqual(["G1 X10", "G1 Y10"]);
    expect(await session.exchange("M105", "console")).toEqual({ outcome: "not sent", answers: [] });
  });
});

it("ports are listed with their names, or not at all, but never fail", async () => {
  const { listPorts } = await import("@/server/link/transports/serial");
  const ports = await listPorts();
  expect(ports.filter(({ path, name }) => !name.includes(path))).toEqual([]);
  expect(serialSpeeds.slice(0, 2)).toEqual([115200, 250000]);
});

describe("a link that cannot be made", () => {
  it("says which and why", async () => {
    const { TcpTransport } = await import("@/server/link/transports/tcp");
    const { SerialTransport } = await import("@/server/link/transports/serial");
    const nobody = { onBytes: () => undefined, onLost: () => undefined };
    await expect(new TcpTransport("127.0.0.1", 1).open(nobody)).rejects.toThrow(/127\.0\.0\.1:1 cannot be reached/);
    await expect(new SerialTransport("/dev/no-such-port", 115200).open(nobody)).rejects.toThrow(/cannot be opened/);
  });
});
