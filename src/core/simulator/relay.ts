/**
 * PID autotune by a relay: full on below the temperature, off above it, and the swing that comes of it tells the figures.
 * Relay: K. J. Åström and T. Hägglund, “Automatic tuning of simple regulators …”, Automatica 20 (1984): Ku = 4·d / (π·a).
 * Figures from Ku and Tu: J. G. Ziegler and N. B. Nichols, “Optimum settings for automatic controllers”, Trans. ASME 64 (1942):
 * Kp = 0.6·Ku, Ti = Tu/2, Td = Tu/8.
 */
import { Pid } from "./heater";

/** Ziegler–Nichols figures for a swing of `swingC` from lowest to highest with period `periodS` under a relay of ±`stroke`. */
export function pidFromSwing(swingC: number, periodS: number, stroke: number): Pid {
  const ku = (4 * stroke) / (Math.PI * (swingC / 2));
  const p = 0.6 * ku;
  return { p, i: (2 * p) / periodS, d: (p * periodS) / 8 };
}

export class RelayTune {
  private heating = true;
  private highestC = -Infinity;
  private lowestC = Infinity;
  private cycleStartS: number | null = null;
  private readonly swings: { swingC: number; periodS: number }[] = [];
  /** Cycles seen so far, the first (from cold) left out. */
  get cycles(): number {
    return this.swings.length;
  }

  constructor(
    private readonly setC: number,
    private readonly wantedCycles: number,
  ) {}

  /** Full power or none for the next moment. */
  get power(): number {
    return this.heating ? 1 : 0;
  }

  /** Takes the temperature at a time; says what happened: a cycle ended, all are done, or nothing. */
  take(nowS: number, measuredC: number): "cycle" | "done" | null {
    this.highestC = Math.max(this.highestC, measuredC);
    this.lowestC = Math.min(this.lowestC, measuredC);
    if (this.heating && measuredC > this.setC + 0.3) {
      this.heating = false;
      const started = this.cycleStartS;
      this.cycleStartS = nowS;
      const swing = started === null ? null : { swingC: this.highestC - this.lowestC, periodS: nowS - started };
      this.highestC = this.lowestC = measuredC;
      if (!swing) return null;
      this.swings.push(swing);
      return this.swings.length >= this.wantedCycles ? "done" : "cycle";
    }
    if (!this.heating && measuredC < this.setC - 0.3) this.heating = true;
    return null;
  }

  /** The figures from the mean of all cycles but the first, which still settles. */
  result(): Pid {
    const settled = this.swings.length > 1 ? this.swings.slice(1) : this.swings;
    const mean = (of: (swing: { swingC: number; periodS: number }) => number) =>
      settled.reduce((sum, swing) => sum + of(swing), 0) / settled.length;
    return pidFromSwing(
      mean(({ swingC }) => swingC),
      mean(({ periodS }) => periodS),
      127.5,
    );
  }

  /** The swing of the last cycle, °C from lowest to highest. */
  get lastSwingC(): number {
    return this.swings.at(-1)?.swingC ?? 0;
  }
}
