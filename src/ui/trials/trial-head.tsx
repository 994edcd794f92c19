"use client";
import { Choice } from "../common/choice";
import { ReactNode } from "react";
import { variedKeys } from "@/core/heightplan/plan";
import { settingFor, settingKeys } from "@/core/settings";
import { spoolTitle } from "@/core/shelf/spool-title";
import { sayFirstLayers } from "@/core/trials/first-layers";
import { trialKindFor } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import type { SavedPrinter, SavedSpool } from "../common/api";
import { useBenchRows } from "../common/queries";
import { NumberField } from "../common/number-field";
import { TextField } from "../common/text-field";
import { SettingField } from "../common/setting-field";
import type { TrialEdit } from "./editor";
import styles from "./trial-head.module.css";

interface Props {
  trial: Trial;
  printers: SavedPrinter[];
  spools: SavedSpool[];
  onEdit(change: TrialEdit): void;
  right: ReactNode;
  /** What is said of a printed piece in place of what can be chosen for the next. */
  printed?: string;
}

/** Name, what is asked, for which printer and spool, on which layers. */
export function TrialHead({ trial, printers, spools, onEdit, right, printed }: Props) {
  const kind = trialKindFor(trial.kind);
  const rows = useBenchRows(trial.printerId, trial.spoolId).data;
  const needs = rows?.find((row) => row.kind === trial.kind)?.needs;
  const heights = trial.plan.bands.map(({ heightMm }) => heightMm);
  const printer = printers.find(({ id }) => id === trial.printerId);
  const spool = spools.find(({ id }) => id === trial.spoolId);
  const tools = printer?.tools ?? 1;
  const begins = printer && spool ? sayFirstLayers({ trial, printer, spool }) : null;
  const even = heights.every((height) => height === heights[0]);
  const count = `${trial.plan.bands.length} band${trial.plan.bands.length === 1 ? "" : "s"}`;
  const beside = trial.plan.sideBySide;
  const besideText = beside ? `${beside.values.length} values side by side` : "";
  const bandText = even ? `${count} of ${plainNumber(heights[0])} mm` : count;
  return (
    <>
      <div className="page-head">
        <div className={styles.about}>
          {printed !== undefined ? (
            <h1>{trial.name}</h1>
          ) : (
            <h1>
              <TextField
                plain
                aria-label="Name of the trial"
                value={trial.name}
                maxLength={100}
                onChange={(name) => onEdit({ name })}
                className={styles.name}
              />
            </h1>
          )}
          {printed !== undefined ? (
            <p className="sub">{printed}</p>
          ) : (
            <p className="sub" title={kind.explains}>
              {kind.label}, {trial.sheet ? `on “${trial.sheet.name}”, ` : ""}
              {[besideText, bandText].filter(Boolean).join(", ")}
              {trial.plan.baseHeightMm > 0 && ` on a ${plainNumber(trial.plan.baseHeightMm)} mm base`}.{" "}
              {otherFixed(trial)} {begins && `${begins[0].toUpperCase()}${begins.slice(1)}.`}
              {needs && ` Settle first: ${needs}.`}
            </p>
          )}
        </div>
        {right}
      </div>
      {printed === undefined && (
        <div className="line above">
          <Choice
            label="Printer"
            className="picker"
            value={printers.some(({ id }) => id === trial.printerId) ? trial.printerId : undefined}
            hint="Printer was removed"
            options={printers.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(printerId) => onEdit({ printerId })}
          />
          <Choice
            label="Spool"
            className="picker"
            value={spools.some(({ id }) => id === trial.spoolId) ? trial.spoolId : undefined}
            hint="Spool was removed"
            options={spools.map((spool) => ({ value: spool.id, label: spoolTitle(spool) }))}
            onChange={(spoolId) => onEdit({ spoolId })}
          />
          {/* A sheet brings its own heights along. */}
          {!trial.sheet && (
            <>
              <HeightField
                label="Layers"
                value={trial.layerHeightMm}
                onChange={(layerHeightMm) => onEdit({ layerHeightMm })}
              />
              <HeightField
                label="First layer"
                value={trial.firstLayerHeightMm}
                onChange={(firstLayerHeightMm) => onEdit({ firstLayerHeightMm })}
              />
            </>
          )}
          <Fixed trial={trial} onEdit={onEdit} />
          {tools > 1 && (
            <Choice
              label="Tool"
              value={trial.tool}
              options={Array.from({ length: tools }, (_, tool) => ({ value: tool, label: `Tool ${tool}` }))}
              onChange={(tool) => onEdit({ tool })}
            />
          )}
        </div>
      )}
    </>
  );
}

function HeightField({ label, value, onChange }: { label: string; value: number; onChange(value: number): void }) {
  return (
    <span className="inline-line">
      <span className="dim" aria-hidden>
        {label}
      </span>
      <NumberField
        label={label}
        value={value}
        unit="mm"
        low={0.04}
        high={1.2}
        step={0.05}
        width={56}
        onChange={onChange}
      />
    </span>
  );
}

/** What is held fixed while the bands vary: bed, nozzle and fan, where the trial holds them. */
function Fixed({ trial, onEdit }: { trial: Trial; onEdit(change: TrialEdit): void }) {
  const varied = variedKeys(trial.plan.bands);
  const spreads = trialKindFor(trial.kind).spread !== undefined;
  return (
    <>
      {(["nozzleTemperature", "bedTemperature", "fan"] as const).map((key) => {
        const value = trial.fixed[key];
        // A kind that spreads its bands holds a varied value in between.
        if (value === undefined || (varied.includes(key) && !spreads)) return null;
        const { short } = settingFor(key);
        return (
          <span key={key} className="inline-line">
            <span className="dim" aria-hidden>
              {short[0].toUpperCase() + short.slice(1)}
            </span>
            <SettingField
              settingKey={key}
              value={value}
              width={46}
              onChange={(next) => onEdit({ fixed: { ...trial.fixed, [key]: next } })}
            />
          </span>
        );
      })}
    </>
  );
}

/** Settings held fixed that have no field of their own, in words. */
function otherFixed({ fixed }: Trial): string {
  const shown = ["nozzleTemperature", "bedTemperature", "fan"];
  return settingKeys
    .filter((key) => fixed[key] !== undefined && !shown.includes(key))
    .map(
      (key) =>
        `${settingFor(key).label} ${plainNumber(fixed[key]!, settingFor(key).decimals)} ${settingFor(key).unit}.`,
    )
    .join(" ");
}
