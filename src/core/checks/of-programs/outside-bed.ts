import { Finding } from "../../findings/finding";
import { Reach } from "../../report/facts";
import { outsideBedMm, Printer } from "../../shelf/printer";
import { plainNumber } from "../../units";
import { ProgramCheck } from "../check";

/** Wipers and parking places stand beside the bed; farther off than this the axis is at its end. mm, common practice, no source. */
const BESIDE_MM = 20;
/** Below the bed by so much something is broken. mm, common practice, no source. */
const INTO_BED_MM = 1;

/** Material outside the bed or above the highest Z, and ways that lead far beyond the axes. Round beds too. */
export const outsideBed: ProgramCheck = {
  key: "outside-bed",
  passes: "Everything stays on the bed.",
  run({ report: { facts }, printer }) {
    const findings: Finding[] = [];
    const add = (severity: Finding["severity"], line: number, message: string, open = false) =>
      findings.push({
        check: "outside-bed",
        severity,
        where: `line ${line}`,
        message,
        ...(open ? { mend: { label: "Look at the printer", open: "printer" as const } } : {}),
      });
    const laid = farthest(facts.laid, printer);
    if (laid && laid.outsideMm > 0.01) {
      add(
        "stop",
        laid.line,
        `At ${say(laid)} the print runs ${plainNumber(laid.outsideMm, 1)} mm off the bed of ${printer.name}. Choose a printer with a larger bed, or check its origin.`,
        true,
      );
    }
    const { highestLaid, highest, lowest } = facts;
    if (highestLaid && highestLaid.value > printer.buildHeightMm + 0.001) {
      add(
        "stop",
        highestLaid.line,
        `The piece is ${plainNumber(highestLaid.value, 1)} mm high; ${printer.name} reaches ${plainNumber(printer.buildHeightMm, 1)} mm. Make it lower, or choose another printer.`,
      );
    } else if (highest && highest.value > printer.buildHeightMm + 0.001) {
      add(
        "warn",
        highest.line,
        `The nozzle is sent up to ${plainNumber(highest.value, 1)} mm; ${printer.name} reaches ${plainNumber(printer.buildHeightMm, 1)} mm.`,
      );
    }
    const away = farthest(facts.travelled, printer);
    if (away && away.outsideMm > 0.01) {
      const far = away.outsideMm > BESIDE_MM;
      add(
        far ? "stop" : "note",
        away.line,
        far
          ? `The nozzle is sent to ${say(away)}, ${plainNumber(away.outsideMm, 0)} mm off the bed of ${printer.name}: the axis would run into its end.`
          : `The nozzle goes to ${say(away)}, ${plainNumber(away.outsideMm, 1)} mm beside the bed.`,
        far,
      );
    }
    if (lowest && lowest.value < -0.05) {
      add(
        lowest.value < -INTO_BED_MM ? "stop" : "warn",
        lowest.line,
        `The nozzle is sent ${plainNumber(-lowest.value, 2)} mm below the bed.`,
      );
    }
    return findings;
  },
};

function farthest(places: readonly Reach[], printer: Printer): (Reach & { outsideMm: number }) | null {
  let worst: (Reach & { outsideMm: number }) | null = null;
  for (const place of places) {
    const outsideMm = outsideBedMm(printer, place.x, place.y);
    if (!worst || outsideMm > worst.outsideMm) worst = { ...place, outsideMm };
  }
  return worst;
}

const say = ({ x, y }: Reach) => `X${plainNumber(x, 1)} Y${plainNumber(y, 1)}`;
