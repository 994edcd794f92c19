/** A built trial read back from its own text and looked at from all sides. */
import { runChecks } from "../checks";
import { CheckedTrial } from "../checks/check";
import { readingOf } from "../machine/reading";
import { Finding } from "../findings/finding";
import { ProgramTables, readProgram } from "../gcode/read";
import { LayerSettings } from "../heightplan/proof";
import { filamentMassG } from "../material/bead";
import { limitsFor } from "../motion/limits";
import { fanProfile } from "../material/fan";
import { HeatProfile, heatProfile, ProgramReport, reportOf } from "../report/report";
import { bestLeadLayers, settledShares } from "../report/settling";
import { headOf, heaterOf } from "../shelf/printer";
import { costOf } from "../shelf/spool";
import { BuiltTrial, followTrial } from "./build";
import { TrialInput } from "./trial";
import { leadOf, tellEarlier, withLead } from "./earlier";
import { firstRound, sayAssumed } from "./first-round";
import { Round, RoundRequest } from "./kind";
import { roomOn } from "./room";
import { optionsOf } from "../options/option";
import { sayOverAirFan } from "./over-air-fan";
import { trialKindFor, TrialKindKey } from ".";

export interface InspectedTrial {
  tables: ProgramTables;
  report: ProgramReport;
  byLayer: LayerSettings;
  heat: HeatProfile;
  /** Share (0–1) of each band's height in which the nozzle is settled. */
  bandSettled: number[];
  /** Layers by which the nozzle is best told earlier, and the worst band's settled share then; null if it does not vary. */
  lead: { layers: number; share: number } | null;
  /** What the fan really blows at the end of each layer, %. */
  fanPercent: Float32Array;
  filamentMm: number;
  massG: number;
  /** In the spool's currency; null where the spool has no price. */
  cost: number | null;
  findings: Finding[];
  passed: string[];
}

/**
 * Reads the finished bytes back and runs every check on what they say.
 *
 * @example
 * const input = { trial, printer, spool };
 * inspectTrial(input, buildTrial(input)).findings.filter(({ severity }) => severity === "stop"); // []
 */
export function inspectTrial(input: TrialInput, built: BuiltTrial): InspectedTrial {
  const { trial, printer, spool } = input;
  const tables = readProgram(built.bytes, { reading: readingOf(printer), asksProgram: false });
  const tops = built.slices.map(({ zTopMm }) => zTopMm);
  const { report, byLayer } = reportOf(tables, limitsFor(printer), headOf(printer));
  const heat = heatProfile(report.layers, byLayer.nozzleTemperature, heaterOf(printer), spool);
  const heights = report.layers.map(({ heightMm }) => heightMm);
  const bandSettled = settledShares(built.bands, built.followed, heat, heights);
  const nozzleVaries = new Set(built.bands.map(({ settings }) => settings.nozzleTemperature)).size > 1;
  const lead =
    nozzleVaries || built.followed.judged
      ? bestLeadLayers((layers) => {
          const followed = followTrial({ ...input, trial: withLead(trial, layers) }, built.bands, tops);
          const set = followed.planned.nozzleTemperature ?? byLayer.nozzleTemperature;
          return settledShares(
            built.bands,
            followed,
            heatProfile(report.layers, set, heaterOf(printer), spool),
            heights,
          );
        })
      : null;
  const fanPercent = fanProfile(report.layers, byLayer.fan, printer.fanRunUpS);
  const filamentMm = report.filament.reduce((sum, { mm }) => sum + mm, 0);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  const { findings, passed } = runChecks({
    printer,
    spool,
    trial: asChecked(input, built),
    bands: built.bands,
    planned: built.followed.planned,
    shape: built.shape,
    slices: built.slices,
    tables,
    report,
    byLayer,
    heat,
    bandSettled,
    lead,
    refusals: built.refusals,
    ceiling: input.ceiling ?? null,
  });
  const cost = costOf(massG, spool);
  return { tables, report, byLayer, heat, bandSettled, lead, fanPercent, filamentMm, massG, cost, findings, passed };
}

/** The first round that was made last: a key stroke in the plan asks for the same again. */
let madeLast: { asked: string; round: Round } | null = null;

function roundOnce(kind: TrialKindKey, request: RoundRequest): Round {
  const asked = JSON.stringify([kind, request]);
  if (madeLast?.asked !== asked) madeLast = { asked, round: firstRound(kind, request) };
  return madeLast.round;
}

/** The trial as checks see it. */
function asChecked(
  { trial, printer, spool, kept = {}, expected = {} }: TrialInput,
  { shape }: BuiltTrial,
): CheckedTrial {
  const { kind, plan, fixed, options, tool, layerHeightMm, firstLayerHeightMm } = trial;
  const { label, spread } = trialKindFor(kind);
  // What is fixed now may be half of what was kept when the round was made: the fan is what the pair keeps, or the spool wants.
  const round = roundOnce(kind, {
    ...{ printer, spool, kept: { ...fixed, fan: kept.fan }, expected, options, layerHeightMm, firstLayerHeightMm },
  });
  const isThatRound = JSON.stringify(round.plan.bands) === JSON.stringify(plan.bands);
  // Said as long as the plan is still that round, and what it says of the fan as long as that is the round's too.
  const notes = isThatRound && round.fixed.fan === fixed.fan ? [...round.notes] : [];
  notes.push(...sayAssumed({ printer, spool }, { fixed, kept, expected }));
  const room = roomOn(printer);
  if (shape.widthMm > room.widthMm + 1e-6 || shape.depthMm > room.depthMm + 1e-6) {
    notes.push(
      `The ${label.toLowerCase()} piece comes close to the edge of the bed: no room is left for the usual margin.`,
    );
  }
  return {
    plan,
    fixed,
    options,
    tool,
    layerHeightMm: trial.layerHeightMm,
    firstLayerHeightMm,
    readInParts: spread !== undefined,
    overAir: sayOverAirFan(trial.fixed.fan, optionsOf(trialKindFor(trial.kind).options, trial.options, printer)),
    notes,
    leadLayers: leadOf(trial),
    toldEarlier: (layers) => tellEarlier(trial, layers),
  };
}
