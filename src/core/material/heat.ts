/**
 * The nozzle's temperature as it will really be: C·dT/dt = P(t) − k·(T − T_room) − flow loss, with the melt behind the
 * heater block by a lag of its own. Rates near 200 °C are common practice (no source): up 2–3 °C/s, down about 1 °C/s.
 */

export interface HeaterFigures {
  /** Near 200 °C, heater full on, nothing printed. */
  riseCPerS: number;
  /** Near 200 °C, heater off, nothing printed. */
  fallCPerS: number;
  /** How far the nozzle's tip is behind the heater block. */
  lagS: number;
}

export const ROOM_C = 22;
const REFERENCE_C = 200;
/** Heat capacity of a plain heater block, J/K, and specific heat of molten plastic, J/(g·K): from memory. */
export const BLOCK_J_PER_K = 15;
export const MELT_J_PER_G_K = 1.8;
/** A band is settled when the nozzle is within this of its set value, °C. */
export const SETTLED_WITHIN_C = 1;

/** A stretch of time with one set temperature. */
export interface HeatStep {
  seconds: number;
  setC: number;
  /** Material through the nozzle, g/s. */
  flowGPerS: number;
}

export interface HeatTrace {
  /** Temperature of the tip at the end of each step, °C. */
  endC: Float32Array;
  /** Share of each step (0–1) in which the tip was within 1 °C of the set value. */
  settledShare: Float32Array;
}

/** Runs the heater model along `steps`, starting settled at `startC`. Steps longer than a quarter of a second are divided. */
export function runHeater(steps: HeatStep[], figures: HeaterFigures, startC: number): HeatTrace {
  const loss = figures.fallCPerS / (REFERENCE_C - ROOM_C);
  const power = figures.riseCPerS + figures.fallCPerS;
  const endC = new Float32Array(steps.length);
  const settledShare = new Float32Array(steps.length);
  let block = startC;
  let tip = startC;
  steps.forEach((step, index) => {
    const parts = Math.min(400, Math.max(1, Math.ceil(step.seconds / 0.25)));
    const dt = step.seconds / parts;
    let settled = 0;
    for (let part = 0; part < parts; part++) {
      const drain = loss * (block - ROOM_C) + (step.flowGPerS * MELT_J_PER_G_K * (block - ROOM_C)) / BLOCK_J_PER_K;
      // The regulator gives just the power that holds the set value once the block is there.
      const wanted = dt > 0 ? (step.setC - block) / dt + drain : drain;
      const given = Math.min(power, Math.max(0, wanted));
      block += (given - drain) * dt;
      tip += (block - tip) * (figures.lagS > 0 ? 1 - Math.exp(-dt / figures.lagS) : 1);
      if (Math.abs(tip - step.setC) <= SETTLED_WITHIN_C) settled++;
    }
    endC[index] = tip;
    settledShare[index] = settled / parts;
  });
  return { endC, settledShare };
}
