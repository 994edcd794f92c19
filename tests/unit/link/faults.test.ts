/** What goes wrong on real cables: no crash, no hang, nothing carried out twice, and the state told is the true one. */
import { LineStream, LinkSession, MOST_QUEUED } from "@/server/link/session";
import { SessionTimes } from "@/server/link/session-times";
import { Transport, TransportEvents } from "@/server/link/transports/transport";
import { SimulatedTransport } from "@/server/link/transports/simulated";
import { Noise } from "@/core/simulator/noise";
import { ladle, printers } from "../helpers/demo";
import { hostOf, pause, until } from "./ways";

// A slow machine may take its time: what is waited for has bounds of its own.
jest.setTimeout(60_000);

const quick: SessionTimes = {
  silenceMs: 150,
  numberedSilenceMs: 120,
  endedSilenceMs: 60,
  quietMs: 25,
  longestQuietMs: 80,
  partMs: 60,
};

/** A transport whose bytes pass through hands that may spoil them. */
class Spoiled implements Transport {
  readonly label = "Spoiled";
  readonly rate = 1;
  private events: TransportEvents | null = null;

  constructor(
    private readonly inner: Transport,
    private readonly hands: { out?(text: string): string; in?(text: string): string },
  ) {}

  async open(events: TransportEvents): Promise<void> {
    this.events = events;
    await this.inner.open({
      onBytes: (bytes) => {
        const text = Buffer.from(bytes).toString("latin1");
        const kept = this.hands.in ? this.hands.in(text) : text;
        if (kept !== "") events.onBytes(Buffer.from(kept, "latin1"));
      },
      onLost: (reason) => events.onLost(reason),
    });
  }
  write(bytes: Uint8Array): void {
    const text = Buffer.from(bytes).toString("latin1");
    this.inner.write(Buffer.from(this.hands.out ? this.hands.out(text) : text, "latin1"));
  }
  close(): Promise<void> {
    return this.inner.close();
  }
  /** Something comes in that the printer never said. */
  inject(bytes: Uint8Array): void {
    this.events?.onBytes(bytes);
  }
}

class Lines implements LineStream {
  taken: string[] = [];
  broken: string | null = null;
  private at = 0;
  constructor(private readonly lines: string[]) {}
  next(): string | null {
    return this.lines[this.at++] ?? null;
  }
  onTaken(text: string): void {
    this.taken.push(text);
  }
  onBroken(why: string): void {
    this.broken = why;
  }
}

async function talk(hands: ConstructorParameters<typeof Spoiled>[1] = {}, printer = ladle) {
  const host = hostOf(printer);
  const transport = new Spoiled(new SimulatedTransport(host), hands);
  const notes: string[] = [];
  const session = new LinkSession(
    transport,
    {
      onEvent: (direction, _, text) => direction === "note" && notes.push(text),
      onTemperatures: () => undefined,
      onChange: () => undefined,
    },
    quick,
  );
  await session.open();
  return { host, transport, session, notes };
}

/** Relative steps: whoever takes one twice ends up elsewhere. */
const steps = ["G28", "G91", ...Array.from({ length: 60 }, () => "G1 X1 F12000")];

async function printSteps(setup: Awaited<ReturnType<typeof talk>>): Promise<Lines> {
  const stream = new Lines(steps);
  setup.session.start(stream);
  await until(() => stream.taken.length === steps.length || stream.broken !== null, "the stream ends", 20_000);
  return stream;
}

const everyNth = (n: number, spoil: (line: string) => string) => {
  let count = 0;
  return (text: string) => text.replace(/[^\n]+\n/g, (line) => (++count % n === 0 ? spoil(line) : line));
};

describe("a stream of numbered lines", () => {
  it.each([
    ["garbled on the way out", { out: everyNth(7, (line) => line.replace(/X1/, "X7")) }],
    ["cut short on the way out", { out: everyNth(9, (line) => `${line.slice(0, 4)}\n`) }],
    ["answered by a lost ok", { in: everyNth(17, (line) => (line.startsWith("ok") ? "" : line)) }],
    ["answered by a doubled ok", { in: everyNth(5, (line) => (line.startsWith("ok") ? line + line : line)) }],
    ["answered by garbled bytes", { in: everyNth(19, (line) => (line.startsWith("ok") ? "\x00\xffk\n" : line)) }],
  ])("gets every line through once when %s", async (_, hands) => {
    const setup = await talk(hands);
    const stream = await printSteps(setup);
    expect(stream.broken).toBeNull();
    expect(stream.taken).toEqual(steps);
    await until(() => setup.host.machine.planner.empty, "the moves end");
    expect(setup.host.machine.place.x).toBeCloseTo(60, 6);
    setup.host.stop();
  });

  it("does so too with a printer that says no ok after Resend", async () => {
    const setup = await talk({ out: everyNth(7, (line) => line.replace(/X1/, "X7")) }, printers[1]);
    const stream = await printSteps(setup);
    expect(stream.broken).toBeNull();
    await until(() => setup.host.machine.planner.empty, "the moves end");
    expect(setup.host.machine.place.x).toBeCloseTo(60 - 150 + setup.host.machine.axisRange().x[0] + 150, 6);
    setup.host.stop();
  });

  it("lives with any number of Resends as long as lines get through", async () => {
    const setup = await talk({ out: everyNth(2, (line) => line.replace(/X1/, "X7")) });
    const stream = await printSteps(setup);
    expect(stream.broken).toBeNull();
    expect(stream.taken).toEqual(steps);
    setup.host.stop();
  });

  it.each([1, 2, 3, 4])("carries nothing out twice, whatever happens on both ways (seed %i)", async (seed) => {
    const noise = new Noise(seed * 7919);
    const spoil = (lost: (line: string) => string) => (text: string) =>
      text.replace(/[^\n]+\n/g, (line) => {
        const draw = noise.even();
        return draw < 0.04 ? lost(line) : draw < 0.08 ? `\xff${line}` : draw < 0.11 ? line + line : line;
      });
    const setup = await talk({
      out: spoil((line) => line.replace(/X1/, "X7")),
      in: spoil((line) => (line.startsWith("ok") ? "" : line)),
    });
    const stream = await printSteps(setup);
    await until(() => setup.host.machine.idle, "the printer is quiet");
    // Relative steps of one millimetre: more than sixty would be one that was taken twice.
    expect(setup.host.machine.place.x).toBeLessThanOrEqual(60);
    if (stream.broken === null) expect([stream.taken.length, setup.host.machine.place.x]).toEqual([steps.length, 60]);
    setup.host.stop();
  });

  it("that was ended while a line was asked for again leaves the way free", async () => {
    const setup = await talk({ out: everyNth(12, (line) => line.replace(/X1/, "X7")) });
    const stream = new Lines(steps);
    setup.session.start(stream);
    await until(() => stream.taken.length >= 9, "it is under way");
    setup.session.endStream();
    expect((await setup.session.exchange("M114", "console")).outcome).toBe("taken");
    setup.host.stop();
  });

  it("goes on after an error that does not stop the printer", async () => {
    const setup = await talk({ in: (text) => text.replace(/^ok\n/, "Error:endstop hit\nok\n") });
    const stream = await printSteps(setup);
    expect([stream.broken, setup.session.halted]).toEqual([null, null]);
    setup.host.stop();
  });

  it("gives up with a reason in a storm of Resends", async () => {
    const setup = await talk({ out: (text) => text.replace(/X1/, "X7") });
    const stream = await printSteps(setup);
    expect(stream.broken).toMatch(/again and again/);
    expect(setup.host.machine.place.x).toBe(0);
    expect((await setup.session.exchange("M114", "console")).outcome).toBe("taken");
    setup.host.stop();
  });

  it("ends when the printer resets in the middle, and what it was told is forgotten", async () => {
    const setup = await talk();
    const stream = new Lines(["G28", "M104 S200", "M109 S200", ...steps]);
    setup.session.start(stream);
    await until(() => setup.session.told.nozzleC[0] === 200, "it heats");
    setup.host.powerCycle();
    await until(() => stream.broken !== null, "the reset is noticed");
    expect(stream.broken).toMatch(/started anew/);
    expect(setup.session.told.homedX).toBe(false);
    expect(setup.session.told.nozzleC).toEqual([]);
    expect(setup.host.machine.nozzles[0].setC).toBe(0);
    setup.host.stop();
  });
});

/** A printer of a few lines: `answer` says what comes back for a line. */
class Played implements Transport {
  readonly label = "Played";
  readonly rate = 1;
  readonly heard: string[] = [];
  private events: TransportEvents | null = null;
  constructor(private readonly answer: (line: string, count: number) => string) {}
  async open(events: TransportEvents): Promise<void> {
    this.events = events;
  }
  write(bytes: Uint8Array): void {
    for (const line of new TextDecoder().decode(bytes).trimEnd().split("\n")) {
      this.heard.push(line);
      const said = this.answer(line, this.heard.length);
      if (said !== "") setImmediate(() => this.say(said));
    }
  }
  async close(): Promise<void> {
    this.events = null;
  }
  say(text: string): void {
    this.events?.onBytes(new TextEncoder().encode(text));
  }
}

async function play(answer: (line: string, count: number) => string) {
  const transport = new Played(answer);
  const notes: string[] = [];
  const hooks = {
    onEvent: (direction: string, _: string, text: string) => direction === "note" && notes.push(text),
    onTemperatures: () => undefined,
    onChange: () => undefined,
  };
  const session = new LinkSession(transport, hooks, quick);
  await session.open();
  return { transport, session, notes };
}

/** A printer that tells its temperatures every few milliseconds, asked or not. */
function chatter(transport: Played): () => void {
  const timer = setInterval(() => transport.say("T:210.0 /210.0 B:60.0 /60.0\n"), 10);
  return () => clearInterval(timer);
}

describe("a lost ok of a printer that tells temperatures by itself", () => {
  it("is noticed, and the line goes out again under its number", async () => {
    let lost = 0;
    const { transport, session } = await play((line) => {
      if (/^N5 /.test(line) && lost++ === 0) return "";
      return line.startsWith("N5 ") ? "ok\nResend: 6\nok\n" : "ok\n";
    });
    const quiet = chatter(transport);
    const stream = new Lines(["G91", ...Array.from({ length: 9 }, () => "M105")]);
    session.start(stream);
    await until(() => stream.taken.length === 10 || stream.broken !== null, "the stream ends", 5000);
    quiet();
    expect(stream.broken).toBeNull();
    expect(transport.heard.filter((line) => line.startsWith("N5 "))).toHaveLength(2);
  });

  it("does not hold up what comes behind a stream that was ended", async () => {
    const { transport, session } = await play((line) => (line.startsWith("N5 ") ? "" : "ok\n"));
    const quiet = chatter(transport);
    session.start(new Lines(Array.from({ length: 9 }, () => "M105")));
    await until(() => transport.heard.some((line) => line.startsWith("N5 ")), "line 5 is out");
    session.endStream();
    const off = await session.exchange("M104 S0", "job", { withinMs: 50 });
    quiet();
    expect([off.outcome, transport.heard.at(-1)]).toEqual(["taken", "M104 S0"]);
  });
});

describe("storms of Resend", () => {
  it.each([1, 30, 90])("end, a question every %i ms", async (everyMs) => {
    const { transport, session } = await play((line) => (line.startsWith("N3 ") ? "" : "ok\n"));
    const stream = new Lines(Array.from({ length: 9 }, () => "M105"));
    session.start(stream);
    await until(() => transport.heard.some((line) => line.startsWith("N3 ")), "line 3 is out");
    const timer = setInterval(() => transport.say("Resend: 3\n"), everyMs);
    await until(() => stream.broken !== null, "it is given up", 20_000);
    clearInterval(timer);
    expect(stream.broken).toMatch(/again and again/);
  });
});

it("a damaged first line of a second stream is sent again", async () => {
  let counter = 4;
  let damaged = 0;
  const { transport, session } = await play((line) => {
    if (/M110 N0/.test(line)) {
      if (damaged++ === 0) return `Error:checksum does not fit\nResend: ${counter + 1}\nok\n`;
      counter = 0;
      return "ok\n";
    }
    const number = Number(/^N(\d+)/.exec(line)![1]);
    if (number !== counter + 1) return `Resend: ${counter + 1}\nok\n`;
    counter = number;
    return "ok\n";
  });
  const stream = new Lines(["G91", "G1 X1"]);
  session.start(stream);
  await until(() => stream.taken.length === 2 || stream.broken !== null, "the stream ends", 5000);
  expect([stream.broken, stream.taken]).toEqual([null, ["G91", "G1 X1"]]);
  expect(transport.heard.filter((line) => line.includes("M110"))).toHaveLength(2);
});

describe("a command that takes long without a word", () => {
  it.each([
    ["homing", "G28"],
    ["heating", "M109 S210"],
    ["a slow move", "G1 X300 F300"],
  ])("is waited for: %s", async (_, slow) => {
    let answered = false;
    const { transport, session, notes } = await play((line) => (line.includes(slow) ? "" : "ok\n"));
    const stream = new Lines([slow, "M105"]);
    session.start(stream);
    await until(() => transport.heard.some((line) => line.includes(slow)), "it is out");
    // Ten times what a plain line is waited for.
    await pause(quick.numberedSilenceMs * 10);
    answered = true;
    transport.say("ok\n");
    await until(() => stream.taken.length === 2 || stream.broken !== null, "the stream ends", 5000);
    expect([answered, stream.broken, notes.filter((note) => note.startsWith("No answer"))]).toEqual([true, null, []]);
    expect(transport.heard.filter((line) => line.includes(slow))).toHaveLength(1);
  });
});

it("a question with a time limit is given up, and the next one is asked", async () => {
  const { session } = await play((line) => (line === "M503" ? "" : "ok\n"));
  const asked = [
    session.exchange("M503", "values", { withinMs: 40 }),
    session.exchange("M115", "values", { withinMs: 40 }),
  ];
  expect((await Promise.all(asked)).map(({ outcome }) => outcome)).toEqual(["no answer", "taken"]);
});

it.each(["", "   ", "; a note", "(a note)"])("%j holds no command and is not sent", async (line) => {
  const { transport, session } = await play((said) => (/[GM]/.test(said) ? "ok\n" : ""));
  expect(await session.exchange(line, "console")).toEqual({ outcome: "not sent", answers: [] });
  expect((await session.exchange("M105", "console")).outcome).toBe("taken");
  expect([transport.heard, session.unsent]).toEqual([["M105"], []]);
});

it("the queue has an end, and says so", async () => {
  const { session } = await play(() => "");
  for (let i = 0; i <= MOST_QUEUED; i++) void session.exchange(`M117 ${i}`, "console");
  expect(() => session.exchange("M117 more", "console")).toThrow(/4000 lines wait at this printer/);
});

describe("typed lines", () => {
  it("are never sent twice: an answer that does not come is said, and one may go on", async () => {
    let swallow = true;
    const setup = await talk({ in: (text) => (swallow ? "" : text) });
    const first = setup.session.exchange("G91", "console");
    const second = setup.session.exchange("M114", "console");
    await until(() => setup.session.silent, "silence is told");
    expect(setup.session.inFlight).toBe("G91");
    swallow = false;
    setup.session.goOn();
    expect((await first).outcome).toBe("no answer");
    expect((await second).outcome).toBe("taken");
    expect(setup.host.machine.linesTaken).toBe(2);
    setup.host.stop();
  });

  it("live with an answer without a line end", async () => {
    const setup = await talk({ in: (text) => text.replace(/ok\n$/, "ok") });
    expect((await setup.session.exchange("M110 N0", "console")).outcome).toBe("taken");
    setup.host.stop();
  });

  it("live with ten megabytes of noise", async () => {
    const setup = await talk();
    const noise = new Uint8Array(10 << 20);
    for (let i = 0; i < noise.length; i++) noise[i] = (i * 2654435761) >>> 13;
    for (let from = 0; from < noise.length; from += 1 << 16)
      setup.transport.inject(noise.subarray(from, from + (1 << 16)));
    await until(() => !setup.session.hasUnheard, "the noise is heard to its end");
    expect(setup.session.state).toBe("open");
    expect((await setup.session.exchange("M114", "console")).answers.join("\n")).toContain("X:0.00");
    setup.host.stop();
  });

  it("do not hold others up while 300,000 answers come at once, and the stop goes first", async () => {
    const setup = await talk();
    const storm = Buffer.from("ok\n".repeat(300_000));
    let turns = 0;
    const others = setInterval(() => turns++, 1);
    for (let from = 0; from < storm.length; from += 1 << 16)
      setup.transport.inject(storm.subarray(from, from + (1 << 16)));
    expect(setup.session.hasUnheard).toBe(true);
    setup.session.emergencyStop();
    await until(() => setup.host.machine.halted, "the printer halts");
    expect(setup.session.hasUnheard).toBe(true);
    await until(() => !setup.session.hasUnheard, "the storm is heard to its end");
    clearInterval(others);
    expect(turns).toBeGreaterThan(5);
    setup.host.stop();
  });

  it("stop at an emergency stop: heaters off, the rest not sent, until the printer is switched off and on", async () => {
    const setup = await talk();
    setup.host.setRate(1);
    const lines = ["M104 S200", "G28", "G1 X5"].map((line) => setup.session.exchange(line, "console"));
    await lines[0];
    setup.session.emergencyStop();
    expect((await Promise.all(lines)).map(({ outcome }) => outcome)).toEqual(["taken", "no answer", "not sent"]);
    await until(() => setup.host.machine.halted, "the printer halts");
    expect(setup.host.machine.nozzles[0].setC).toBe(0);
    expect((await setup.session.exchange("M105", "console")).outcome).toBe("not sent");
    setup.host.powerCycle();
    await until(() => setup.session.halted === null, "the restart is noticed");
    expect((await setup.session.exchange("M105", "console")).outcome).toBe("taken");
    setup.host.stop();
  });
});
