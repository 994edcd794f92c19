"use client";
/** One change of a plan for an opened file: from where, until where, which setting, which value. */
import type { Change } from "@/core/heightplan/change";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { Choice } from "../common/choice";
import { NumberField } from "../common/number-field";
import { SettingField } from "../common/setting-field";
import { placeFigure, placeFrom, PlaceMode, sayOtherCounts } from "./places";

interface Props {
  change: Change;
  index: number;
  layers: readonly { zMm: number; heightMm: number }[];
  mode: PlaceMode;
  /** Tools of the printer. */
  tools: number;
  onSet(part: Partial<Change>): void;
  onLines(): void;
  onRemove(): void;
}

/** The settings of a change besides the one that is shown, in words. */
function sayOthers({ settings }: Change, shown: SettingKey): string {
  return settingKeys
    .filter((key) => key !== shown && settings[key] !== undefined)
    .map(
      (key) =>
        `${settingFor(key).short} ${plainNumber(settings[key]!, settingFor(key).decimals)} ${settingFor(key).unit}`,
    )
    .join(", ");
}

export function ChangeRow({ change, index, layers, mode, tools, onSet, onLines, onRemove }: Props) {
  const key = (Object.keys(change.settings) as SettingKey[])[0] ?? "nozzleTemperature";
  const unit = mode === "height" ? "mm" : "";
  const high = mode === "height" ? 2000 : 1_000_000;
  return (
    <tr>
      <td>
        <NumberField
          label={`Change ${index + 1} from`}
          value={placeFigure(change.from)}
          unit={unit}
          low={0}
          high={high}
          decimals={mode === "height" ? 3 : 0}
          onChange={(figure) => onSet({ from: placeFrom(figure, mode) })}
        />
        <div className="dim small">{sayOtherCounts(change.from, layers)}</div>
      </td>
      <td>
        {change.until ? (
          <>
            <NumberField
              label={`Change ${index + 1} until`}
              value={placeFigure(change.until)}
              unit={unit}
              low={0}
              high={high}
              decimals={mode === "height" ? 3 : 0}
              onChange={(figure) => onSet({ until: placeFrom(figure, mode) })}
            />{" "}
            <button className="link-button" onClick={() => onSet({ until: undefined })}>
              to the next
            </button>
          </>
        ) : (
          <button
            className="link-button"
            onClick={() =>
              onSet({
                until: placeFrom(placeFigure(change.from) + (mode === "height" ? 5 : 25), mode),
              })
            }
          >
            the next change
          </button>
        )}
      </td>
      <td>
        <Choice
          label={`Setting of change ${index + 1}`}
          className="picker"
          value={key}
          options={settingKeys.map((one) => ({ value: one, label: settingFor(one).label }))}
          onChange={(next) => {
            const { lowest, highest } = settingFor(next);
            const { [key]: value, ...others } = change.settings;
            onSet({
              settings: { ...others, [next]: Math.min(highest, Math.max(lowest, value ?? 0)) },
            });
          }}
        />
      </td>
      <td>
        <SettingField
          settingKey={key}
          label={`Value of change ${index + 1}`}
          value={change.settings[key] ?? 0}
          onChange={(value) => onSet({ settings: { ...change.settings, [key]: value } })}
        />
        {Object.keys(change.settings).length > 1 && <div className="dim small">and {sayOthers(change, key)}</div>}
      </td>
      {tools > 1 && (
        <td>
          <Choice
            label={`Tool of change ${index + 1}`}
            value={change.tool ?? 0}
            options={Array.from({ length: tools }, (_, tool) => ({ value: tool, label: String(tool) }))}
            onChange={(tool) => onSet({ tool })}
          />
        </td>
      )}
      <td>
        <button
          className="link-button"
          aria-label={`${change.lines ? `${change.lines.length} …` : "Add …"} own lines of change ${index + 1}`}
          onClick={onLines}
        >
          {change.lines ? `${change.lines.length} …` : "Add …"}
        </button>
      </td>
      <td>
        <button className="link-button" aria-label={`Remove change ${index + 1}`} onClick={onRemove}>
          Remove
        </button>
      </td>
    </tr>
  );
}
