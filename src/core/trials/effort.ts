/** What the first rounds of all kinds take for a printer and a spool: time and material, before anything is printed. */
import { filamentMassG } from "../material/bead";
import { usualLayerMm } from "../printing/process";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { trialKindFor, TrialKindKey, roadKindKeys } from ".";
import { buildTrial } from "./build";
import { firstRound } from "./first-round";
import type { RoundRequest } from "./kind";
import type { SheetPieces } from "./sheet-piece";
import type { Trial, TrialInput } from "./trial";

export interface Effort {
  kind: TrialKindKey;
  /** Without heating, s. */
  seconds: number;
  massG: number;
}

/** What a first round starts from beside printer and spool: where it asks follows from it. */
export type Beside = Pick<RoundRequest, "kept" | "carried" | "expected">;

/** The effort of every kind's first round, in the order of work, each built as it would be printed. */
export function efforts(printer: Printer, spool: Spool, beside: Beside): Effort[] {
  return roadKindKeys.map((kind) => effortOf(kind, printer, spool, beside));
}

/** Time and material of a kind's first round. */
export function effortOf(kind: TrialKindKey, printer: Printer, spool: Spool, beside: Beside): Effort {
  const layerMm = usualLayerMm(printer);
  const heights = { layerHeightMm: layerMm, firstLayerHeightMm: layerMm };
  const round = firstRound(kind, { printer, spool, ...beside, options: {}, ...heights });
  const trial: Trial = {
    id: 1,
    kind,
    name: trialKindFor(kind).question(spool, {}),
    printerId: 1,
    spoolId: 1,
    tool: 0,
    options: {},
    createdAt: "",
    updatedAt: "",
    ...heights,
    plan: round.plan,
    fixed: round.fixed,
  };
  return { kind, ...effortOfTrial({ trial, printer, spool, kept: beside.kept }) };
}

/** Time and material of any trial, built as it would be printed. */
export function effortOfTrial(input: TrialInput, pieces?: SheetPieces): Omit<Effort, "kind"> {
  const { figures } = buildTrial(input, pieces);
  const { diameterMm, densityGCm3 } = input.spool;
  return { seconds: figures.seconds, massG: filamentMassG(figures.filamentMm, diameterMm, densityGCm3) };
}
