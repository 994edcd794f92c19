import { SettingKey, settingKeys } from "@/core/settings";
import { kept } from "@/server/db/kept";
import { handle, json, pairOf } from "@/server/http/respond";
import { Refused } from "@/server/refused";

/** All that was ever kept of a setting for a pair, newest first: ?printerId=1&spoolId=1&setting=fan */
export const GET = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    const setting = new URL(request.url).searchParams.get("setting");
    if (!settingKeys.includes(setting as SettingKey)) {
      throw new Refused("invalid", `The setting is one of ${settingKeys.join(", ")}`, { field: "setting" });
    }
    return json(kept.history(printerId, spoolId, setting as SettingKey));
  },
  { who: "reader" },
);
