/** What the first rounds of all kinds take for a printer and a spool: time and material, before anything is printed. */
import { filamentMassG } from "../material/bead";
import { usualLayerMm } from "../printing/process";
import { SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { trialKindFor, TrialKindKey, trialKindKeys } from ".";
import { buildTrial } from "./build";
import { firstRound } from "./first-round";
import type { Trial } from "./trial";

export interface Effort {
  kind: TrialKindKey;
  /** Without heating, s. */
  seconds: number;
  massG: number;
}

/** The effort of every kind's first round, in the order of work, each built as it would be printed. */
export function efforts(printer: Printer, spool: Spool, kept: SettingValues): Effort[] {
  return trialKindKeys.map((kind) => effortOf(kind, printer, spool, kept));
}

/** Time and material of a kind's first round. */
export function effortOf(kind: TrialKindKey, printer: Printer, spool: Spool, kept: SettingValues): Effort {
  const layerMm = usualLayerMm(printer);
  const heights = { layerHeightMm: layerMm, firstLayerHeightMm: layerMm };
  const round = firstRound(kind, { printer, spool, kept, options: {}, ...heights });
  const trial: Trial = {
    id: 1,
    kind,
    name: trialKindFor(kind).question(spool),
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
  const { figures } = buildTrial({ trial, printer, spool, kept });
  return {
    kind,
    seconds: figures.seconds,
    massG: filamentMassG(figures.filamentMm, spool.diameterMm, spool.densityGCm3),
  };
}
