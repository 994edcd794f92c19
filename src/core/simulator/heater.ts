/** One heater of the simulated printer: a block that is heated, a sensor a little behind it, and a PID regulator. */
import { BLOCK_J_PER_K, MELT_J_PER_G_K, ROOM_C } from "../material/heat";
import { clamp } from "../units";
import { Noise } from "./noise";

/** Farther below its set value than this, a heater is simply full on. Common practice, no source. */
const PID_RANGE_C = 10;
const FULL = 255;
/** A heater that stays full on for so long without getting warmer is taken for broken. Common practice, no source. */
const RUNAWAY_S = 40;
const RUNAWAY_GAIN_C = 2;

export interface HeaterBuild {
  /** At `atC`: full on, and off. */
  riseCPerS: number;
  fallCPerS: number;
  atC: number;
  /** How far the heat is behind the power, and the sensor behind the block. */
  heaterLagS: number;
  sensorLagS: number;
  noiseC: number;
}

export interface Pid {
  p: number;
  i: number;
  d: number;
}

export class Heater {
  setC = 0;
  /** Share of full power now, 0–1. */
  power = 0;
  /** Held by the autotune instead of the regulator. */
  forcedPower: number | null = null;
  /** The heater's wire has come off. */
  broken = false;
  /** Heat that reaches the block, as a share of full power. */
  private heatShare = 0;
  private blockC = ROOM_C;
  private sensorC = ROOM_C;
  private integral = 0;
  private lastC = ROOM_C;
  private fullSinceC = ROOM_C;
  private fullS = 0;

  constructor(
    private readonly build: HeaterBuild,
    private readonly noise: Noise,
  ) {}

  /** What the sensor says now. */
  get measuredC(): number {
    return this.sensorC + this.noise.bell(this.build.noiseC);
  }

  /** What it really is. */
  get trueC(): number {
    return this.sensorC;
  }

  /** Lets `seconds` pass, at most about half a second; returns true if the heater has run away. */
  advance(seconds: number, flowGPerS: number, { p, i, d }: Pid): boolean {
    const { build } = this;
    const error = this.setC - this.sensorC;
    let output = 0;
    if (this.forcedPower !== null) output = this.forcedPower * FULL;
    else if (this.setC <= 0) this.integral = 0;
    else if (error > PID_RANGE_C) {
      output = FULL;
      this.integral = 0;
    } else if (error < -PID_RANGE_C) this.integral = 0;
    else {
      if (i > 0) this.integral = clamp(this.integral + error * seconds, 0, FULL / i);
      output = p * error + i * this.integral - (d * (this.sensorC - this.lastC)) / seconds;
    }
    this.power = clamp(output / FULL, 0, 1);
    this.lastC = this.sensorC;

    const loss = (build.fallCPerS / (build.atC - ROOM_C)) * (this.blockC - ROOM_C);
    const drain = (flowGPerS * MELT_J_PER_G_K * (this.blockC - ROOM_C)) / BLOCK_J_PER_K;
    const given = this.broken ? 0 : this.power;
    this.heatShare += (given - this.heatShare) * (1 - Math.exp(-seconds / build.heaterLagS));
    const heat = this.heatShare * (build.riseCPerS + build.fallCPerS);
    this.blockC += (heat - loss - drain) * seconds;
    this.sensorC += (this.blockC - this.sensorC) * (1 - Math.exp(-seconds / build.sensorLagS));
    return this.runsAway(seconds);
  }

  private runsAway(seconds: number): boolean {
    if (
      this.setC <= 0 ||
      this.forcedPower !== null ||
      this.power < 0.99 ||
      this.sensorC > this.fullSinceC + RUNAWAY_GAIN_C
    ) {
      this.fullS = 0;
      this.fullSinceC = this.sensorC;
      return false;
    }
    this.fullS += seconds;
    return this.fullS > RUNAWAY_S;
  }

  /** Power off: the regulator forgets, the metal stays hot. */
  switchOff(): void {
    this.setC = 0;
    this.power = 0;
    this.forcedPower = null;
    this.integral = 0;
  }
}
