/** The values of a simulated printer: those in force, those saved, those of the factory. */
import { valueFor } from "../firmware/values";
import { lineFactorOf } from "../firmware/values/reading";
import { FirmwareValue, valueGroups, valueId } from "../firmware/values/value";
import { firmwareValues } from "../firmware/values";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { Personality } from "./personality";

export type Values = Record<string, number>;

/** What the factory gave a printer: its own figures from the shelf where it has them. */
export function factoryValues(printer: Printer, personality: Personality): Values {
  const p = printer;
  const tools = Array.from({ length: p.tools }, (_, tool) => tool);
  const perTool = (key: string, value: number) => tools.map((tool) => [valueId(key, tool), value] as const);
  const all: Record<string, Values> = {
    steps: { stepsX: 80, stepsY: 80, stepsZ: 400, ...Object.fromEntries(perTool("extruderSteps", 405)) },
    limits: {
      highestFeedX: p.highestFeedXyMmS,
      highestFeedY: p.highestFeedXyMmS,
      highestFeedZ: p.highestFeedZMmS,
      highestFeedE: p.highestFeedEMmS,
      highestAccelerationX: Math.max(3000, p.printAccelerationMmS2),
      highestAccelerationY: Math.max(3000, p.printAccelerationMmS2),
      highestAccelerationZ: p.highestAccelerationZMmS2,
      highestAccelerationE: p.highestAccelerationEMmS2,
    },
    accelerations: {
      printAcceleration: p.printAccelerationMmS2,
      retractAcceleration: p.retractAccelerationMmS2,
      travelAcceleration: p.travelAccelerationMmS2,
    },
    jerk: { jerkX: p.jerkMmS, jerkY: p.jerkMmS, jerkZ: p.jerkZMmS, jerkE: p.jerkEMmS },
    jerkPerMinute: {
      jerkPerMinuteX: p.jerkMmS,
      jerkPerMinuteY: p.jerkMmS,
      jerkPerMinuteZ: p.jerkZMmS,
      jerkPerMinuteE: p.jerkEMmS,
    },
    deviation: { junctionDeviation: p.junctionDeviationMm },
    home: { homeX: 0, homeY: 0, homeZ: 0 },
    retraction: {
      retractionLength: p.retractionMm,
      retractionSpeed: p.retractionMmS,
      retractionLift: p.hopMm,
      restoreExtra: 0,
      restoreSpeed: p.retractionMmS,
    },
    nozzlePid: Object.fromEntries([...perTool("nozzleP", 16), ...perTool("nozzleI", 0.9), ...perTool("nozzleD", 60)]),
    bedPid: { bedP: 60, bedI: 1, bedD: 300 },
    advance: { pressureAdvance: p.pressureAdvanceS },
    advancePerTool: Object.fromEntries(perTool("pressureAdvancePerTool", p.pressureAdvanceS)),
    named: {
      highestFeed: p.highestFeedXyMmS,
      sharedAcceleration: p.printAccelerationMmS2,
      squareCornerSpeed: p.jerkMmS,
      namedPressureAdvance: p.pressureAdvanceS,
      namedRetractionLength: p.retractionMm,
      namedRetractionSpeed: p.retractionMmS,
    },
  };
  return Object.assign(
    {},
    ...personality.valueFamilies.map((family) => all[family]),
    personality.values?.(printer) ?? {},
  ) as Values;
}

export class Memory {
  inForce: Values;
  saved: Values;
  /** Commands that tell a value of this printer. */
  private readonly commands: ReadonlySet<string>;

  constructor(
    readonly factory: Values,
    saved: Values | undefined,
    private readonly feedsPerMinute: boolean,
    private readonly tools: number,
  ) {
    // Only what this printer has: a saved value of an older shelf entry is left aside.
    const known = Object.entries(saved ?? {}).filter(([id]) => id in factory);
    this.saved = { ...factory, ...Object.fromEntries(known) };
    this.inForce = { ...this.saved };
    this.commands = new Set(Object.keys(factory).flatMap((id) => valueFor(id)?.definition.command ?? []));
  }

  /** The figure in force; `otherwise` if this printer does not have it. */
  get(id: string, otherwise: number): number {
    return this.inForce[id] ?? otherwise;
  }

  /** Whether any value of this printer is told by the command. */
  has(command: string): boolean {
    return this.commands.has(command);
  }

  /** Sets the figures of a command's words; returns how many were taken. */
  set(command: string, words: { name: string; value: number }[]): number {
    let taken = 0;
    for (const definition of firmwareValues) {
      if (definition.command !== command) continue;
      const tool = definition.toolWord ? (words.find(({ name }) => name === definition.toolWord)?.value ?? 0) : 0;
      const id = valueId(definition.key, Number.isFinite(tool) ? tool : 0);
      // `M92 E405` has no tool word, `E` is the figure itself.
      const word = words.find(({ name }) => name === definition.word);
      if (!word || !Number.isFinite(word.value) || !(id in this.inForce)) continue;
      this.inForce[id] = word.value / lineFactorOf(definition, this.feedsPerMinute);
      taken++;
    }
    return taken;
  }

  save(): void {
    this.saved = { ...this.inForce };
  }

  load(): void {
    this.inForce = { ...this.saved };
  }

  toFactory(): void {
    this.inForce = { ...this.factory };
  }

  /** The values in force as commands, one a line, a comment before each group. `only` limits it to one command. */
  report(only?: string): string[] {
    const lines: string[] = [];
    let group = "";
    for (const definition of firmwareValues) {
      if (only && definition.command !== only) continue;
      const isFirst =
        firmwareValues.findIndex(({ command }) => command === definition.command) ===
        firmwareValues.indexOf(definition);
      if (!isFirst) continue;
      for (let tool = 0; tool < this.tools; tool++) {
        const words = this.wordsOf(definition.command, tool);
        if (words.length === 0) continue;
        if (!only && definition.group !== group) {
          group = definition.group;
          lines.push(`; ${valueGroups[definition.group]}:`);
        }
        lines.push([definition.command, ...words].join(" "));
      }
    }
    return lines;
  }

  private wordsOf(command: string, tool: number): string[] {
    const words: string[] = [];
    let toolWord: string | null = null;
    for (const definition of firmwareValues) {
      if (definition.command !== command || (tool > 0 && !definition.toolWord)) continue;
      const value = this.inForce[valueId(definition.key, tool)];
      if (value === undefined) continue;
      if (definition.toolWord && (this.tools > 1 || definition.toolWord !== "T")) toolWord = definition.toolWord;
      words.push(this.say(definition, value));
    }
    return toolWord === null || words.length === 0 ? words : [`${toolWord}${tool}`, ...words];
  }

  private say(definition: FirmwareValue, value: number): string {
    const factor = lineFactorOf(definition, this.feedsPerMinute);
    const named = definition.command.includes("_");
    const decimals = factor === 60 ? 2 : Math.max(2, definition.decimals);
    return named
      ? `${definition.word}=${plainNumber(value * factor, decimals)}`
      : `${definition.word}${(value * factor).toFixed(decimals)}`;
  }
}
