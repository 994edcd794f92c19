/** The top of a trial's program. */
import { sayBands } from "../checks/say";
import { outOfReach } from "../heightplan/reach";
import { ResolvedBand, HeightPlan, variedKeys } from "../heightplan/plan";
import { filamentMassG } from "../material/bead";
import { settingFor, settingKeys } from "../settings";
import { spoolTitle } from "../shelf/spool-title";
import { PieceShape } from "../specimens/specimen";
import { plainNumber, roundTo, sayDuration, sayKey } from "../units";
import { trialKindFor } from ".";
import { sayOverAirFan } from "./over-air-fan";
import { sayFirstLayers } from "./first-layers";
import { Trial, TrialInput } from "./trial";
import { Printer } from "../shelf/printer";
import { costOf } from "../shelf/spool";
import { optionsOf } from "../options/option";

/** What this is, a drawing of the piece, the plan as a table, and what it takes. */
export function headerLines(
  { trial, printer, spool }: TrialInput,
  shape: PieceShape,
  bands: readonly ResolvedBand[],
  { layers, seconds, filamentMm }: { layers: number; seconds: number; filamentMm: number },
): string[] {
  const kind = trialKindFor(trial.kind);
  const firstLayers = sayFirstLayers({ trial, printer, spool });
  const options = optionsOf(kind.options, trial.options, printer);
  const varied = variedKeys(bands);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  const fixed = settingKeys
    // What varies is not fixed, unless the kind holds it in between (bridging warms the nozzle below its spans).
    .filter((key) => trial.fixed[key] !== undefined && (kind.spread !== undefined || !varied.includes(key)))
    .map(
      (key) =>
        `${settingFor(key).short} ${plainNumber(trial.fixed[key]!, settingFor(key).decimals)} ${settingFor(key).unit}`,
    );
  const overAir = sayOverAirFan(trial.fixed.fan, options);
  if (overAir) fixed.push(overAir);
  const price = costOf(massG, spool);
  const cost = price === null ? "" : `, ${roundTo(price, 2).toFixed(2)} ${spool.currency}`;
  const rows = bands.map((band) => {
    const values = varied.flatMap((key) => {
      const { short, unit, decimals } = settingFor(key);
      const value = band.settings[key];
      return value === undefined ? [] : [`${short} ${plainNumber(value, decimals)} ${unit}`];
    });
    const note = kind.bandNote?.(band.settings, printer, trial.layerHeightMm);
    if (note) values.push(note);
    const from = plainNumber(band.fromMm).padStart(7);
    const to = plainNumber(band.toMm).padStart(7);
    return `${String(band.number).padStart(4)}  ${from} to ${to} mm  layers ${band.firstLayer + 1} to ${band.lastLayer + 1}  ${values.join(", ")}`;
  });
  return [
    `Cuchara: ${kind.label.toLowerCase()}, ${trial.name}`,
    `printer  ${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`,
    `spool    ${spoolTitle(spool)}, ${spool.material}, label ${spool.labelMinC} to ${spool.labelMaxC} °C`,
    `date     ${trial.updatedAt.slice(0, 10)}`,
    `layers   ${layers} of ${plainNumber(trial.layerHeightMm)} mm, the first ${plainNumber(trial.firstLayerHeightMm)} mm, counted from 1`,
    ...(fixed.length > 0 ? [`fixed    ${fixed.join(", ")}`] : []),
    ...(firstLayers ? [`begins   ${firstLayers}`] : []),
    ...(printer.tools > 1 ? [`tool     ${trial.tool}`] : []),
    ...(trial.plan.leadLayers ? [`early    the nozzle changes ${trial.plan.leadLayers} layers before its band`] : []),
    `time     ${sayDuration(seconds)} without heating`,
    `filament ${roundTo(filamentMm / 1000, 2).toFixed(2)} m, ${roundTo(massG, 1).toFixed(1)} g${cost}`,
    "",
    ...(trial.sheet ? [] : [`${sayKey(kind.specimen(options))}, seen from the front`]),
    ...shape.drawing,
    shape.legend,
    ...sideBySideRows(trial.plan),
    ...alikeRows(trial, printer),
    "",
    "band  from            to            value, bottom first",
    ...rows,
    "",
  ].map((line) => (line === "" ? ";" : `; ${line.replace(/[\r\n]/g, " ")}`));
}

/** Lengths over which the extruder never comes to the speed of some bands. */
function alikeRows(trial: Trial, printer: Printer): string[] {
  const rows = outOfReach(trial, printer).map(
    ({ lengthMm, reachesMmS, bands }) =>
      `  ${plainNumber(lengthMm, 2)} mm never exceeds ${plainNumber(reachesMmS, 0)} mm/s: ${sayBands(bands)} no faster`,
  );
  return rows.length > 0 ? ["", "as fast as the extruder gets", ...rows] : [];
}

/** The values that stand side by side, in the order they are printed. */
function sideBySideRows({ sideBySide }: HeightPlan): string[] {
  if (!sideBySide) return [];
  const { short, unit, decimals } = settingFor(sideBySide.setting);
  const values = sideBySide.values.map((value, i) => `${i + 1}: ${plainNumber(value, decimals)}`);
  const rows: string[] = [];
  for (let i = 0; i < values.length; i += 8) rows.push(`  ${values.slice(i, i + 8).join("  ")}`);
  return ["", `side by side, ${short} in ${unit}`, ...rows];
}
