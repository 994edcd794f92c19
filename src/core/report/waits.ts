/** What passes before and between the moves of a program: homing, and waiting for heat. Said apart from its time, for nobody can know it well. */
import { EventKind, MoveKind } from "../gcode/moves";
import { ProgramTables } from "../gcode/tables";
import { ROOM_C } from "../material/heat";

export interface Waits {
  /** How often it homes. */
  homings: number;
  /** Waits for a nozzle or the bed to be hot. */
  heatings: number;
  /** About how long those take together, s. */
  heatingSeconds: number;
}

export interface HeaterRates {
  nozzleRiseCPerS: number;
  nozzleFallCPerS: number;
}

/** What most printers do near 200 °C, and a bed. Common practice, no source. */
export const usualHeater: HeaterRates = { nozzleRiseCPerS: 2.5, nozzleFallCPerS: 1 };
const BED_RISE_C_PER_S = 0.5;

/** The waits of a program that starts with everything at room temperature. Heaters that are not waited for get warm meanwhile. */
export function waitsOf({ events, moves }: ProgramTables, heater: HeaterRates): Waits {
  const nozzles = new Map<number, number>();
  let bedC = ROOM_C;
  let heatingSeconds = 0;
  let heatings = 0;
  // Set, but not waited for yet: it follows while something else is waited for.
  const underway = new Map<number, number>();
  const pass = (seconds: number) => {
    for (const [tool, target] of underway) {
      const now = nozzles.get(tool) ?? ROOM_C;
      nozzles.set(tool, Math.min(target, now + seconds * heater.nozzleRiseCPerS));
    }
  };
  for (let i = 0; i < events.count; i++) {
    const value = events.value[i];
    const tool = events.tool[i];
    switch (events.kind[i]) {
      case EventKind.nozzleTemperature:
        underway.set(tool, value);
        break;
      case EventKind.nozzleTemperatureWait: {
        const rise = value - (nozzles.get(tool) ?? ROOM_C);
        underway.delete(tool);
        nozzles.set(tool, value);
        if (rise <= 0) break;
        heatings++;
        heatingSeconds += rise / heater.nozzleRiseCPerS;
        pass(rise / heater.nozzleRiseCPerS);
        break;
      }
      case EventKind.bedTemperatureWait: {
        const rise = value - bedC;
        bedC = Math.max(bedC, value);
        if (rise <= 0) break;
        heatings++;
        heatingSeconds += rise / BED_RISE_C_PER_S;
        pass(rise / BED_RISE_C_PER_S);
      }
    }
  }
  let homings = 0;
  for (let i = 0; i < moves.count; i++) if (moves.kind[i] === MoveKind.home) homings++;
  return { homings, heatings, heatingSeconds };
}
