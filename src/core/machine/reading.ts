/**
 * How one printer reads the common language where printers differ. All of it is common practice, no source; which printer does
 * what stands in its dialect (`dialects/`).
 */
import type { DialectKey } from "./dialects";
import { dialects } from "./dialects";

export interface Reading {
  /** Null for a printer that is not known: then every command of the table is taken. */
  dialect: DialectKey | null;
  /** G90 and G91 say how the extruder counts too, whatever M82 or M83 said before. */
  modesCarryE: boolean;
  /** G10 with P and S sets the temperature of a tool. */
  setsToolsByG10: boolean;
  /** Highest feeds (M203) are told in mm/min, not in mm/s. */
  feedsPerMinute: boolean;
  /** M106 and M107 without P mean the active tool's fan; where there is one fan, they mean that one. */
  fanPerTool: boolean;
}

/** What is assumed of a printer that nothing is known of: what most do. */
export const usualReading: Reading = {
  dialect: null,
  modesCarryE: true,
  setsToolsByG10: true,
  feedsPerMinute: false,
  fanPerTool: false,
};

/** How a printer on the shelf reads. */
export function readingOf(printer: { dialect: DialectKey; tools: number; fanPerTool: boolean }): Reading {
  const { modesCarryE, setsToolsByG10, feedsPerMinute } = dialects[printer.dialect];
  return {
    dialect: printer.dialect,
    modesCarryE,
    setsToolsByG10,
    feedsPerMinute,
    fanPerTool: printer.fanPerTool && printer.tools > 1,
  };
}
