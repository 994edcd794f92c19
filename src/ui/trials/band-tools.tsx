"use client";
/** What can be done to all bands at once. */
import { Button, Dropdown } from "antd";
import { Chooser } from "../common/chooser";
import { addBand, varySetting } from "@/core/heightplan/reshape";
import { HeightPlan } from "@/core/heightplan/plan";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";

interface Props {
  trialId: number;
  plan: HeightPlan;
  varied: SettingKey[];
  beginsWith(key: SettingKey): number;
  onChange(change: (plan: HeightPlan) => HeightPlan): void;
  onFill(): void;
  onPaste(): void;
  /** Called before an export, so that what is exported is stored. */
  flush(): Promise<void>;
}

export function BandTools({ trialId, plan, varied, beginsWith, onChange, onFill, onPaste, flush }: Props) {
  // What stands side by side cannot go up the height as well.
  const others = settingKeys.filter((key) => !varied.includes(key) && key !== plan.sideBySide?.setting);
  return (
    <div className="line apart">
      {varied.length > 0 && (
        <>
          <Button onClick={() => onChange(addBand)}>Add a band on top</Button>
          <Button onClick={onFill}>Fill values …</Button>
          <Button onClick={onPaste}>Paste a list …</Button>
        </>
      )}
      <Dropdown
        trigger={["click"]}
        menu={{
          items: [
            { key: "csv", label: "As CSV, for a spreadsheet" },
            { key: "json", label: "As JSON" },
          ],
          onClick: ({ key }) => void flush().then(() => location.assign(`/api/trials/${trialId}/plan?as=${key}`)),
        }}
      >
        <Button>Export …</Button>
      </Dropdown>
      <Chooser
        choices={others.map((key) => ({ key, label: settingFor(key).label }))}
        onChoose={(key) => onChange((now) => varySetting(now, key, beginsWith(key)))}
      >
        Vary another setting …
      </Chooser>
    </div>
  );
}
