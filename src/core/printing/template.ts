/** Start and end lines with names in them: `M104 S{{nozzleFirst}}`. Unknown names are refused, never passed on. */
import { refuse, Result, succeed } from "../result";
import { plainNumber } from "../units";

/** What each name stands for, and the number of decimals it is written with. */
export const templateNames = {
  nozzleFirst: { says: "nozzle temperature of the first band, °C", decimals: 0 },
  bedFirst: { says: "bed temperature at the start, °C", decimals: 0 },
  tool: { says: "tool that prints", decimals: 0 },
  bedCentreX: { says: "X of the bed's middle, mm", decimals: 3 },
  bedCentreY: { says: "Y of the bed's middle, mm", decimals: 3 },
  frontY: { says: "Y a centimetre behind the bed's front edge, mm", decimals: 3 },
  backY: { says: "Y a centimetre before the bed's back edge, mm", decimals: 3 },
  bedWidth: { says: "X size of the bed, mm", decimals: 3 },
  bedDepth: { says: "Y size of the bed, mm", decimals: 3 },
  buildHeight: { says: "highest Z, mm", decimals: 3 },
  topZ: { says: "height of the piece, mm", decimals: 3 },
  parkZ: { says: "a safe height above the piece, mm", decimals: 3 },
  firstLayerHeight: { says: "height of the first layer, mm", decimals: 3 },
  layerHeight: { says: "height of the other layers, mm", decimals: 3 },
  nozzleSize: { says: "nozzle diameter, mm", decimals: 3 },
} as const;

export type TemplateName = keyof typeof templateNames;
export type TemplateValues = Record<TemplateName, number>;

/** A name in its brackets, on one line. One pass: nothing in it can be matched in two ways. */
const bracketed = /\{\{([^{}\r\n]*)\}\}/g;

/** The names in `text` that no value exists for, with their line (from 1); brackets that do not close on their line, too. */
export function unknownNames(text: string): { name: string; line: number }[] {
  const unknown: { name: string; line: number }[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    const rest = line.replace(bracketed, (_, inside: string) => {
      const name = inside.trim();
      if (!Object.hasOwn(templateNames, name)) unknown.push({ name, line: index + 1 });
      return "";
    });
    const open = rest.indexOf("{{");
    if (open >= 0)
      unknown.push({
        name: rest
          .slice(open + 2)
          .trim()
          .slice(0, 40),
        line: index + 1,
      });
  });
  return unknown;
}

/** Whether the lines leave a figure to the trial. */
export function speaksOf(lines: string, name: TemplateName): boolean {
  return [...lines.matchAll(bracketed)].some(([, inside]) => inside.trim() === name);
}

/** The fields of a printer that hold templates, and what they are called. */
const fieldNames = { startLines: "Start lines", endLines: "End lines" } as const;

/** The lines with every name replaced; refused with field, name and line if one is unknown. */
export function fillTemplate(text: string, values: TemplateValues, field: keyof typeof fieldNames): Result<string[]> {
  const unknown = unknownNames(text)[0];
  if (unknown) {
    const known = Object.keys(templateNames).join(", ");
    return refuse(
      `${fieldNames[field]}, line ${unknown.line}: there is no “{{${unknown.name}}}”. The names are ${known}.`,
      field,
    );
  }
  const filled = text.replace(bracketed, (_, inside: string) => {
    const name = inside.trim() as TemplateName;
    return plainNumber(values[name], templateNames[name].decimals);
  });
  return succeed(filled.split(/\r?\n/).filter((line) => line.trim() !== ""));
}

/**
 * Start lines most printers can take: home, wait at the front edge where drips do no harm, and heat. The nozzle is kept at 150 °C, where nothing
 * oozes, until the bed is warm (common practice, no source).
 */
export const usualStartLines = `G28
M140 S{{bedFirst}}
M104 S150
G90
G0 Z10 F600
G0 X{{bedCentreX}} Y{{frontY}} F6000
M190 S{{bedFirst}}
M104 S{{nozzleFirst}}
M109 S{{nozzleFirst}}
G92 E0`;

/** End lines most printers can take: everything off, the nozzle up and behind the piece, which comes forward with the bed. */
export const usualEndLines = `M104 S0
M140 S0
M107
G90
G0 Z{{parkZ}} F600
G0 X{{bedCentreX}} Y{{backY}} F6000
M84`;
