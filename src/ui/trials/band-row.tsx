"use client";
/** One band of a plan as a row: its values, its height, the layers it holds. */
import { removeBand, setBandHeight, setValue } from "@/core/heightplan/reshape";
import { HeightPlan, LOWEST_BAND_MM, ResolvedBand } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { NumberField } from "../common/number-field";
import { SettingField } from "../common/setting-field";

interface Props {
  plan: HeightPlan;
  band: ResolvedBand;
  colour: string;
  varied: SettingKey[];
  /** What a setting begins with where the band does not set it. */
  beginsWith(key: SettingKey): number;
  isCursor: boolean;
  onChange(change: (plan: HeightPlan) => HeightPlan): void;
  onLines(): void;
}

export function BandRow({ plan, band, colour, varied, beginsWith, isCursor, onChange, onLines }: Props) {
  const index = band.number - 1;
  return (
    <tr data-on={isCursor}>
      <td className="unbroken">
        <i className="swatch" style={{ background: colour }} />
        {band.number}
      </td>
      {varied.map((key) => (
        <td key={key}>
          <BandValue
            usual={beginsWith(key)}
            band={band}
            settingKey={key}
            onChange={(value) => onChange((now) => setValue(now, index, key, value))}
          />
        </td>
      ))}
      <td>
        <NumberField
          label={`Height of band ${band.number}`}
          value={plan.bands[index].heightMm}
          unit="mm"
          low={LOWEST_BAND_MM}
          high={500}
          width={48}
          onChange={(heightMm) => onChange((now) => setBandHeight(now, index, heightMm))}
        />
      </td>
      <td className="mono">
        {plainNumber(band.fromMm)} – {plainNumber(band.toMm)} mm
        {Math.abs(band.fromMm - band.askedFromMm) > 1e-6 && (
          <span className="dim"> (asked {plainNumber(band.askedFromMm)})</span>
        )}
      </td>
      <td className="mono">
        {band.lastLayer < band.firstLayer ? "none" : `${band.firstLayer + 1} – ${band.lastLayer + 1}`}
      </td>
      <td>
        <button
          className="link-button"
          aria-label={`${band.lines ? `${band.lines.length} …` : "Add …"} own lines of band ${band.number}`}
          onClick={onLines}
        >
          {band.lines ? `${band.lines.length} …` : "Add …"}
        </button>
      </td>
      <td>
        <button
          className="link-button"
          aria-label={`Remove band ${band.number}`}
          disabled={plan.bands.length <= 1}
          onClick={() => onChange((now) => removeBand(now, index))}
        >
          Remove
        </button>
      </td>
    </tr>
  );
}

function BandValue({
  band,
  settingKey,
  usual,
  onChange,
}: {
  band: ResolvedBand;
  settingKey: SettingKey;
  /** What it begins with. */
  usual: number;
  onChange(value: number): void;
}) {
  const value = band.settings[settingKey];
  if (value === undefined) {
    return (
      <button className="link-button" onClick={() => onChange(usual)}>
        not set
      </button>
    );
  }
  return (
    <SettingField
      settingKey={settingKey}
      label={`${settingFor(settingKey).label} of band ${band.number}`}
      value={value}
      width={52}
      onChange={onChange}
    />
  );
}
