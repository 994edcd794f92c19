/** The printer's own start and end lines, filled in for a trial, and the tool chosen. */
import { stateAfter } from "../gcode/follow";
import { readingOf } from "../machine/reading";
import { fillTemplate, TemplateValues } from "../printing/template";
import { templateValuesOf } from "../printing/template-values";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { Followed } from "../heightplan/planned";
import { Sayings } from "./sayings";
import { Trial } from "./trial";

/** What the names in start and end lines stand for; `topMm` is the height of the piece. */
export function templateValues(
  trial: Trial,
  printer: Printer,
  spool: Spool,
  { planned }: Followed,
  tool: number,
  topMm: number,
): TemplateValues {
  const first = (values: Float64Array | undefined) => values?.find((value) => !Number.isNaN(value));
  return templateValuesOf(printer, {
    nozzleC: first(planned.nozzleTemperature) ?? trial.fixed.nozzleTemperature ?? spool.labelMaxC,
    bedC: first(planned.bedTemperature) ?? trial.fixed.bedTemperature ?? spool.bedC,
    tool,
    topMm,
    firstLayerHeightMm: trial.firstLayerHeightMm,
    layerHeightMm: trial.layerHeightMm,
  });
}

/**
 * The start lines, with the tool chosen where there are several: before them, so that what they heat is that tool, and behind them if
 * they choose another.
 */
export function startLines(printer: Printer, values: TemplateValues, sayings: Sayings): string[] {
  const filled = fillTemplate(printer.startLines, values, "startLines");
  if (!filled.ok) {
    sayings.refuse(filled);
    return [];
  }
  if (printer.tools < 2) return filled.value;
  const choose = `T${values.tool}`;
  const lines = [choose, ...filled.value];
  return stateAfter(lines, readingOf(printer)).tool === values.tool ? lines : [...lines, choose];
}

export function endLines(printer: Printer, values: TemplateValues, sayings: Sayings): string[] {
  const filled = fillTemplate(printer.endLines, values, "endLines");
  if (filled.ok) return filled.value;
  sayings.refuse(filled);
  return [];
}
