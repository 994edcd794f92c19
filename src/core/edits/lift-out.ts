import { z } from "zod";
import { succeed } from "../result";
import { SettingKey, settingKeys } from "../settings";
import { EditKind } from "./edit";

export interface LiftOutEdit {
  kind: "lift-out";
  /** `cuchara`: lines an earlier plan put in. `foreign`: changes inside the print that come from elsewhere. */
  what: "cuchara" | "foreign";
  /** Which settings' changes; temperatures if left out. Only for `foreign`. */
  settings?: SettingKey[];
}

const schema: z.ZodType<LiftOutEdit> = z.strictObject({
  kind: z.literal("lift-out"),
  what: z.enum(["cuchara", "foreign"], { error: "Say what to lift out: cuchara or foreign" }),
  settings: z.array(z.enum(settingKeys)).optional(),
});

/** Takes whole lines out of the file. */
export const liftOut: EditKind<LiftOutEdit> = {
  schema,
  apply({ what, settings = ["nozzleTemperature", "bedTemperature"] }, { report, removedLines }) {
    const lines =
      what === "cuchara"
        ? report.cuchara
        : report.changes.filter(
            (change) =>
              !change.ours &&
              settings.includes(change.key) &&
              (change.layer >= 1 || change.within) &&
              change.layer < report.layers.length,
          );
    const taken = new Set(removedLines);
    const splices = lines.flatMap(({ line, startByte, endByte }) => {
      // One line can hold two changes; it goes once.
      if (taken.has(line)) return [];
      taken.add(line);
      return [{ atByte: startByte, removeBytes: endByte - startByte, insert: "", line }];
    });
    return succeed({
      splices,
      findings:
        splices.length > 0
          ? []
          : [
              {
                check: "nothing-to-lift",
                severity: "note" as const,
                where: "whole file",
                message:
                  what === "cuchara"
                    ? "No earlier plan is left in this file."
                    : "The file changes nothing of that inside the print.",
              },
            ],
    });
  },
};
