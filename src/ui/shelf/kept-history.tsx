"use client";
/** All that was ever kept of one setting for a pair, newest first; an earlier one can be put back. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { sayValue, SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { api, KeptValue } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import { When } from "../common/when";
import styles from "./kept-page.module.css";

interface Props {
  printerId: number;
  spoolId: number;
  setting: SettingKey;
}

export function KeptHistory({ printerId, spoolId, setting }: Props) {
  const client = useQueryClient();
  const tell = useTell();
  const query = `printerId=${printerId}&spoolId=${spoolId}&setting=${setting}`;
  const history = useQuery({
    queryKey: keys.keptHistory(printerId, spoolId, setting),
    queryFn: () => api.get<KeptValue[]>(`/kept/history?${query}`),
  }).data;
  const refresh = () => client.invalidateQueries({ queryKey: keys.kept });
  const putBack = async (one: KeptValue) => {
    try {
      const again = await api.post<KeptValue>(`/kept/${one.id}/again`);
      await refresh();
      tell.undo(`${sayValue(setting, one.value)} counts again.`, async () => {
        await api.remove(`/kept/${again.id}`);
        await refresh();
      });
    } catch (error) {
      tell.error(error);
    }
  };
  if (!history || history.length === 0) return <p className="dim">Nothing was kept yet.</p>;
  return (
    <ul className="rows" aria-label={`All that was kept of ${settingFor(setting).label.toLowerCase()}`}>
      {history.map((one, i) => (
        <li key={one.id} className={`list-row ${styles.once}`}>
          <div>
            <b className="mono">{sayValue(setting, one.value)}</b> <span className="dim">{sayFoundWith(one)}</span>{" "}
            <span className="dim">
              <When at={one.keptAt} format="D MMM YYYY, HH:mm" />
            </span>
            {one.note && <p className="dim">{one.note}</p>}
          </div>
          {i === 0 ? (
            <span className="dim">counts now</span>
          ) : (
            <Button onClick={() => void putBack(one)}>Put it back</Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** `good from 206 to 211 °C, 0.4 mm nozzle, layers of 0.2 mm` */
function sayFoundWith({ setting, fromValue, toValue, nozzleMm, layerHeightMm, carriedFrom }: KeptValue): string {
  const { unit, decimals } = settingFor(setting);
  const say = (value: number) => plainNumber(value, decimals + 1);
  return [
    fromValue !== null && toValue !== null ? `good from ${say(fromValue)} to ${say(toValue)} ${unit}` : "",
    nozzleMm !== null ? `${plainNumber(nozzleMm)} mm nozzle` : "",
    layerHeightMm !== null ? `layers of ${plainNumber(layerHeightMm)} mm` : "",
    carriedFrom !== null ? "taken over, not tried here" : "",
  ]
    .filter(Boolean)
    .join(", ");
}
