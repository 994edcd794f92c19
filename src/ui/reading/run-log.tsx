"use client";
/** What was told and measured while a piece was printed, on its height log. */
import { useMemo, useState } from "react";
import { measuredByLayer } from "@/core/link/job-facts";
import { sayValue } from "@/core/settings";
import { bandsOfTrial } from "@/core/trials/run";
import { variedOf } from "@/core/trials/shown";
import { plainNumber } from "@/core/units";
import { curvesColumn } from "../heightlog/columns/curves";
import { layersColumn } from "../heightlog/columns/layers";
import { marksColumn } from "../heightlog/columns/marks";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { HeightLog } from "../heightlog/height-log";
import { logBands } from "../trials/log-bands";
import styles from "./reading.module.css";
import type { SentRun } from "./run-data";

const ROOM_PX = 380;

export function RunLog({ run }: { run: SentRun }) {
  const [cursor, setCursor] = useState(0);
  const { trial, printer, told, byHand, samples } = run;
  const [key] = variedOf(trial, printer);
  const log = useMemo(() => logBands(trial, key, ({ index }) => sayTold(told[index])), [trial, key, told]);
  const columns = useMemo(() => {
    const set = new Float64Array(log.tops.length).fill(trial.fixed.nozzleTemperature ?? NaN);
    for (const { settings, firstLayer, lastLayer } of bandsOfTrial(trial)) {
      if (settings.nozzleTemperature !== undefined) set.fill(settings.nozzleTemperature, firstLayer, lastLayer + 1);
    }
    return [
      millimetresColumn(),
      layersColumn({ title: "layer", widthPx: 60 }),
      curvesColumn({
        title: "Nozzle, °C",
        widthPx: 300,
        unit: "°C",
        curves: [
          { label: "set", values: set, style: "planned" },
          { label: "measured", values: measuredByLayer(log.tops, samples), style: "expected" },
        ],
      }),
      marksColumn({
        title: "By hand",
        widthPx: 150,
        marks: byHand.map(({ heightMm, setting, value }) => ({ heightMm, text: sayValue(setting, value) })),
      }),
    ];
  }, [trial, log, samples, byHand]);
  const band = log.bands.find(({ firstLayer, lastLayer }) => cursor >= firstLayer && cursor <= lastLayer);
  return (
    <div className={styles.runLog}>
      <HeightLog
        label="Log of the printed piece"
        columns={columns}
        bands={log.bands}
        tops={log.tops}
        topMm={log.topMm}
        cursorLayer={cursor}
        onCursor={setCursor}
        roomPx={ROOM_PX}
      >
        <span>{band && `Band ${band.number}: ${band.label}. ${band.note ?? ""}`}</span>
      </HeightLog>
    </div>
  );
}

/** `measured 210.1 ± 0.3 °C, settled in 96 %` */
function sayTold(told: SentRun["told"][number] | undefined): string | undefined {
  if (!told || told.meanC === null) return undefined;
  const share = `settled in ${Math.round(told.settledShare * 100)} %`;
  return `measured ${plainNumber(told.meanC, 1)} ± ${plainNumber(told.spreadC ?? 0, 1)} °C, ${share}`;
}
