import { settingFor } from "../../settings";
import { Check } from "../check";

/** What cannot be said in the printer's language, or stands in its templates under an unknown name. */
export const notSayable: Check = {
  key: "not-sayable",
  passes: null,
  run: ({ refusals }) =>
    refusals.map(({ message, key, band, field }) => ({
      check: "not-sayable",
      severity: "stop",
      where: band !== undefined ? `band ${band}` : key ? settingFor(key).label.toLowerCase() : "printer",
      message,
      ...(field ? { mend: { label: "Look at the printer", open: "printer" as const } } : {}),
    })),
};
