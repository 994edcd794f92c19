import { SettingKey, settingKeys } from "@/core/settings";
import { handle, json, pairOf } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { expectedFor, rangesFor } from "@/server/work/expected";
import { checkPair } from "@/server/work/trials";

/**
 * What earlier spools lead one to expect: ?printerId=1&spoolId=1&setting=nozzleTemperature; null where nothing comparable is kept. Without a
 * setting all of them that anything is known of, by setting.
 */
export const GET = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    checkPair(printerId, spoolId);
    const setting = new URL(request.url).searchParams.get("setting") as SettingKey | null;
    if (setting === null) return json(rangesFor(printerId, spoolId));
    if (!settingKeys.includes(setting)) {
      throw new Refused("invalid", `Say which setting: one of ${settingKeys.join(", ")}.`, { field: "setting" });
    }
    return json(expectedFor(printerId, spoolId)[setting] ?? null);
  },
  { who: "reader" },
);
