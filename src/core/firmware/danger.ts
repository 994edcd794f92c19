/** Lines that deserve a question before they are sent. */
import { readTalkLine, wordOf } from "./commands/line";

/** What is known of a printer while talking to it; null where it is not known. */
export interface KnownState {
  homed: boolean | null;
  nozzleC: number | null;
}

export type DangerKind = "heater" | "saving" | "unhomed" | "cold";

export interface Danger {
  kind: DangerKind;
  reason: string;
}

/** Below this most materials do not melt, and the drive gear grinds the filament. Common practice, no source. */
export const COLDEST_FEED_C = 170;

/** Why a line should be asked about, or null. */
export function dangerOf(text: string, known: KnownState): Danger | null {
  const line = readTalkLine(text);
  const figure = (name: string) => wordOf(line, name);
  switch (line.code) {
    case "M104":
    case "M109":
    case "M140":
    case "M190": {
      const target = Math.max(figure("S") ?? 0, figure("R") ?? 0);
      const what = line.code === "M140" || line.code === "M190" ? "bed" : "nozzle";
      return target > 0 ? { kind: "heater", reason: `Heats the ${what} to ${target} °C and keeps it there.` } : null;
    }
    case "M303":
      return { kind: "heater", reason: "Heats up and swings about the temperature for some minutes." };
    case "M500":
      return { kind: "saving", reason: "Overwrites the values saved in the printer with those in force now." };
    case "M502":
      return { kind: "saving", reason: "Replaces every value in force by the factory's." };
    case "SAVE_CONFIG":
      return { kind: "saving", reason: "Overwrites the saved values and starts the printer anew: heaters go off." };
    case "G0":
    case "G1":
    case "G2":
    case "G3": {
      const goes = line.words.some(({ name }) => "XYZ".includes(name));
      if (goes && known.homed !== true) {
        return {
          kind: "unhomed",
          reason: "The printer has not been homed, so it may run into its own end. G28 homes it.",
        };
      }
      if (figure("E") !== undefined && (known.nozzleC === null || known.nozzleC < COLDEST_FEED_C)) {
        return {
          kind: "cold",
          reason:
            known.nozzleC === null
              ? "Feeds filament, and the nozzle's temperature is not known."
              : `Feeds filament through a nozzle of ${Math.round(known.nozzleC)} °C; below ${COLDEST_FEED_C} °C the gear grinds it.`,
        };
      }
      return null;
    }
    default:
      return null;
  }
}
