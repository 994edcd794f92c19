/**
 * What holds at each bead of a program, by an interpreter that shares nothing with the core: one command a line, straight moves, figures by
 * expression. Positions after NIST RS274 (G90–G92), the rest common practice, no source.
 */

export interface Bead {
  /** From 1. */
  line: number;
  from: [x: number, y: number, z: number];
  to: [x: number, y: number, z: number];
  filamentMm: number;
  feedMmMin: number;
  tool: number;
  nozzleC: number;
  /** 0–255, of the fan that is asked for. */
  fan: number;
  accelerationMmS2: number;
  advanceS: number;
  flowPercent: number;
  /** Still drawn back when it began. */
  drawnMm: number;
  /** The way to it: how far, how low and how high, how fast; filament fed on it without moving, both ways. */
  way: { lengthMm: number; lowestMm: number; highestMm: number; seconds: number; backMm: number; forthMm: number };
}

export interface Interpreted {
  beads: Bead[];
  end: { x: number; y: number; z: number; nozzleC: number[]; bedC: number; fans: number[]; tool: number };
  /** Filament by tool with drawing back, mm. */
  filamentMm: number[];
  /** The way behind the last bead. */
  wayBehind: Bead["way"];
  /** The lowest the nozzle was behind the last bead. */
  lowestBehindMm: number;
}

/** @param fanPerTool M106 and M107 without P mean the fan of the tool that is in */
export function interpret(text: string, { fanPerTool = false } = {}): Interpreted {
  let [unit, isRelative, isRelativeE, tool, feed] = [1, false, false, 0, 1500];
  const at = { X: 0, Y: 0, Z: 0, E: 0 };
  const named = { X: 0, Y: 0, Z: 0, E: 0 };
  const nozzleC: number[] = [];
  const fans: number[] = [];
  const flow: number[] = [];
  const drawn: number[] = [];
  const filamentMm: number[] = [];
  let [bedC, acceleration, advance, isByFirmware, lowest] = [0, NaN, NaN, false, Infinity];
  const beads: Bead[] = [];
  const noWay = () => ({ lengthMm: 0, lowestMm: Infinity, highestMm: -Infinity, seconds: 0, backMm: 0, forthMm: 0 });
  let way = noWay();
  text.split(/\r\n|\r|\n/).forEach((raw, index) => {
    const code = raw.replace(/;.*$/, "").replace(/\([^)]*\)/g, "");
    const words = [...code.matchAll(/([A-Za-z])\s*([-+]?(?:\d+\.?\d*|\.\d+))/g)].map(
      ([, letter, figure]) => [letter.toUpperCase(), Number(figure)] as const,
    );
    if (words.length === 0) return;
    const value = (letter: string) => words.slice(1).find(([name]) => name === letter)?.[1];
    const command = `${words[0][0]}${words[0][1]}`;
    const ofTool = value("T") ?? tool;
    if (/^G[01]$/.test(command)) {
      feed = (value("F") ?? feed / unit) * unit;
      const from: Bead["from"] = [at.X, at.Y, at.Z];
      const before = at.E;
      for (const axis of ["X", "Y", "Z"] as const) {
        const figure = value(axis);
        if (figure !== undefined) at[axis] = isRelative ? at[axis] + figure * unit : figure * unit + named[axis];
      }
      const e = value("E");
      if (e !== undefined) at.E = isRelativeE ? at.E + e * unit : e * unit + named.E;
      const fed = at.E - before;
      filamentMm[tool] = (filamentMm[tool] ?? 0) + fed;
      const isMoved = from[0] !== at.X || from[1] !== at.Y || from[2] !== at.Z;
      lowest = Math.min(lowest, at.Z);
      if (isMoved && fed > 1e-6) {
        lowest = Infinity;
        beads.push({
          ...{ line: index + 1, from, to: [at.X, at.Y, at.Z], filamentMm: fed, feedMmMin: feed, tool },
          ...{ nozzleC: nozzleC[tool] ?? 0, fan: fans[fanPerTool ? tool : 0] ?? 0 },
          ...{ accelerationMmS2: acceleration, advanceS: advance, flowPercent: flow[tool] ?? 100 },
          drawnMm: isByFirmware ? 1 : (drawn[tool] ?? 0),
          way,
        });
        way = noWay();
      } else {
        const lengthMm = Math.hypot(at.X - from[0], at.Y - from[1], at.Z - from[2]);
        way.lengthMm += lengthMm;
        way.seconds += ((lengthMm || Math.abs(fed)) / feed) * 60;
        if (isMoved) way.lowestMm = Math.min(way.lowestMm, at.Z);
        if (isMoved) way.highestMm = Math.max(way.highestMm, at.Z);
        if (fed < 0) way.backMm -= fed;
        else way.forthMm += fed;
      }
      drawn[tool] = Math.max(0, (drawn[tool] ?? 0) - fed);
      if (isMoved && fed > 1e-6) drawn[tool] = 0;
    } else if (command === "G20") unit = 25.4;
    else if (command === "G21") unit = 1;
    else if (command === "G90" || command === "G91") isRelative = isRelativeE = command === "G91";
    else if (command === "M82" || command === "M83") isRelativeE = command === "M83";
    else if (command === "G92") {
      for (const axis of ["X", "Y", "Z", "E"] as const) {
        const figure = value(axis);
        if (figure !== undefined) named[axis] = at[axis] - figure * unit;
      }
    } else if (command === "G28") Object.assign(at, { X: 0, Y: 0, Z: 0 });
    else if (command === "G10" || command === "G11") isByFirmware = command === "G10";
    else if (words[0][0] === "T") tool = words[0][1];
    else if (command === "M104" || command === "M109") nozzleC[ofTool] = value("S") ?? value("R") ?? nozzleC[ofTool];
    else if (command === "M140" || command === "M190") bedC = value("S") ?? bedC;
    else if (command === "M106" || command === "M107") {
      const fan = value("P") ?? (fanPerTool ? tool : 0);
      fans[fan] = command === "M107" ? 0 : (value("S") ?? 255);
    } else if (command === "M204") acceleration = value("S") ?? value("P") ?? acceleration;
    else if (command === "M900") advance = value("K") ?? advance;
    else if (command === "M221") flow[ofTool] = value("S") ?? 100;
  });
  const end = { x: at.X, y: at.Y, z: at.Z, nozzleC, bedC, fans, tool };
  return { beads, end, filamentMm, wayBehind: way, lowestBehindMm: lowest };
}
