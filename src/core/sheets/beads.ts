/** The bead of a stroke as its formulas stand: cross-section and speed. */
import { beadAreaMm2, filamentAreaMm2 } from "../material/bead";
import { refuse, Result, succeed } from "../result";
import { plainNumber } from "../units";
import type { LayNode } from "./compile";
import type { BeadNow } from "./nozzle";
import type { Scope } from "./scope";

const WIDEST_MM = 20;
const HIGHEST_MM = 5;
const SPEED_MM_S = { least: 0.1, most: 2000 };
const MOST_FLOW = 500;
/** Filament for every mm of a stroke, and drawn back at once. */
const MOST_FED_MM = 20;

export class Beads {
  private readonly filamentArea: number;

  constructor(
    private readonly scope: Scope,
    filamentDiameterMm: number,
  ) {
    this.filamentArea = filamentAreaMm2(filamentDiameterMm);
  }

  /** @param bandMmS the speed of a trial's band; null where the stroke's own counts */
  of(node: LayNode, bandMmS: number | null): Result<BeadNow> {
    const { slots } = this.scope;
    const [widthMm, heightMm] = [node.widthMm.at(slots), node.heightMm.at(slots)];
    if (!(widthMm > 0 && widthMm < WIDEST_MM && heightMm > 0 && heightMm < HIGHEST_MM)) {
      return refuse(
        `A bead ${plainNumber(widthMm)} mm wide and ${plainNumber(heightMm)} mm high cannot be laid.`,
        `${node.field}.bead`,
      );
    }
    const speedMmS = (node.followsBands ? bandMmS : null) ?? node.speedMmS.at(slots);
    if (!(speedMmS > SPEED_MM_S.least && speedMmS <= SPEED_MM_S.most))
      return refuse(`A speed of ${plainNumber(speedMmS)} mm/s cannot be.`, `${node.field}.speedMmS`);
    const flow = node.flow.at(slots);
    if (!(flow >= 0 && flow <= MOST_FLOW))
      return refuse(`A flow of ${plainNumber(flow)} % cannot be.`, `${node.field}.flow`);
    const perMm = node.filamentPerMm ? node.filamentPerMm.at(slots) : null;
    if (perMm !== null && !(perMm >= 0 && perMm <= MOST_FED_MM)) {
      return refuse(
        `${plainNumber(perMm)} mm of filament for every mm cannot be fed.`,
        `${node.field}.bead.filamentPerMm`,
      );
    }
    const areaMm2 = perMm === null ? beadAreaMm2(widthMm, heightMm) : perMm * this.filamentArea;
    return succeed({ areaMm2: (areaMm2 * flow) / 100, widthMm, heightMm, speedMmS });
  }

  /** How a stroke draws back: by its distance where it is null; a figure is mm. */
  retractionOf({ retract, field }: LayNode): Result<boolean | number | null> {
    if (retract === null || typeof retract === "boolean") return succeed(retract);
    const mm = retract(this.scope.slots);
    if (!(mm >= 0 && mm <= MOST_FED_MM))
      return refuse(`${plainNumber(mm)} mm cannot be drawn back: 0 to ${MOST_FED_MM} can.`, `${field}.retract`);
    return succeed(mm);
  }
}
