"use client";
/** One measured tune, step by step: what is needed, heat, act, measure, the new value, again, kept. */
import { useQueryClient } from "@tanstack/react-query";
import { Button, Segmented } from "antd";
import Link from "next/link";
import { useMemo, useState } from "react";
import { tuneFor, TuneKey } from "@/core/measure";
import { inputsOf } from "@/core/measure/inputs";
import { actLines } from "@/core/measure/program";
import { usualInputs } from "@/core/measure/request";
import type { TuneInput, TuneOutcome, TuneRequest } from "@/core/measure/tune";
import { valueFor } from "@/core/firmware/values";
import type { SettingValues } from "@/core/settings";
import type { RulerReadings } from "@/core/simulator/ruler";
import { plainNumber } from "@/core/units";
import { api, SavedPrinter, SavedSpool } from "../common/api";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { NumberField } from "../common/number-field";
import { useBenchPair, useKept, useTell } from "../common/queries";
import { useFirmwareValues, useLinks } from "../printer/link-queries";
import { ReadingFields } from "./reading-fields";
import { RunList } from "./run-list";
import { Step } from "./step";
import { keys } from "../common/keys";

export function TunePage({ tuneKey }: { tuneKey: TuneKey }) {
  const { printer, spool } = useBenchPair();
  const kept = useKept(printer?.id ?? 0, spool?.id ?? 0).data;
  const firmware = useFirmwareValues(printer?.id ?? 0).data;
  if (printer === undefined || spool === undefined) return <Loading rows={8} />;
  if (printer === null) return <NoPrinter />;
  if (!firmware || (spool && !kept)) return <Loading rows={8} />;
  const known = Object.fromEntries(firmware.snapshots[0]?.entries.map(({ id, value }) => [id, value]) ?? []);
  const settings = Object.fromEntries(kept?.map(({ setting, value }) => [setting, value]) ?? []);
  return (
    <Guide
      key={`${tuneKey}-${printer.id}`}
      tuneKey={tuneKey}
      printer={printer}
      spool={spool}
      kept={settings}
      known={known}
    />
  );
}

export interface Run {
  outcome: TuneOutcome;
  /** Its new value was tried: what is read from here on is with that in force. */
  tried: boolean;
}

interface GuideProps {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  kept: SettingValues;
  /** Firmware values of the last reading. */
  known: Record<string, number>;
}

type Phase = "heat" | "act" | "cool";

function Guide({ tuneKey, printer, spool, kept, known }: GuideProps) {
  const tune = tuneFor(tuneKey);
  const client = useQueryClient();
  const tell = useTell();
  const link = useLinks().data?.find(({ printerId }) => printerId === printer.id);
  const live = link?.state === "open" && !link.halted;
  const about = { printer, spool, kept };
  const [inputs, setInputs] = useState(() => usualInputs(tuneKey, { ...about, values: known }));
  const [typed, setTyped] = useState<Record<string, number>>({});
  const [busy, setBusy] = useState<Phase | "read" | null>(null);
  const [heated, setHeated] = useState(false);
  const [acted, setActed] = useState(false);
  const [readings, setReadings] = useState<Record<string, number>>({});
  const [runs, setRuns] = useState<Run[]>([]);
  const uses = tune.uses({ printer, inputs });
  const values = useMemo(() => ({ ...known, ...typed }), [known, typed]);
  const request: TuneRequest = { ...about, inputs, values };
  const refusal = tune.refuses?.(printer) ?? null;
  const needsHeat = tune.heat(request) !== null;
  const lines = actLines(tune, request);
  const fields = tune.readings(request);
  const complete = fields.every(({ key }) => readings[key] !== undefined);
  const result = complete ? tune.sum(request, readings) : null;

  const phase = async (which: Phase) => {
    setBusy(which);
    try {
      const body = { printerId: printer.id, tune: tuneKey, inputs, values: pick(values, uses), phase: which };
      const { answers } = await api.post<{ answers: string[] }>("/measure/act", body);
      if (which === "heat") setHeated(true);
      if (which === "cool") setHeated(false);
      if (which === "act") {
        setActed(true);
        const found = tune.fromAnswers?.(answers);
        if (found) setReadings(found);
      }
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(null);
    }
  };
  const readFirmware = async () => {
    setBusy("read");
    try {
      await api.post("/link/values/read", { printerId: printer.id });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
      setTyped({});
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(null);
    }
  };
  const ruler = async () => {
    try {
      const query = new URLSearchParams({ printerId: String(printer.id) });
      for (const key of ["wallMm", "flowPercent"]) if (inputs[key] !== undefined) query.set(key, String(inputs[key]));
      const seen = await api.get<RulerReadings>(`/link/ruler?${query.toString()}`);
      const offered = tune.fromRuler?.(seen, request) ?? {};
      setReadings(
        Object.fromEntries(
          fields.filter(({ key }) => offered[key] !== undefined).map(({ key }) => [key, offered[key]]),
        ),
      );
    } catch (error) {
      tell.error(error);
    }
  };
  const query = new URLSearchParams({
    printerId: String(printer.id),
    tune: tuneKey,
    inputs: JSON.stringify(inputs),
    values: JSON.stringify(pick(values, uses)),
  });
  const readyToAct = live && (!needsHeat || heated) && busy === null;
  let number = 1;

  return (
    <>
      <div className="page-head">
        <div>
          <h1>{tune.title}</h1>
          <p className="sub">
            {tune.question} {printer.name}
            {spool && needsHeat ? `, ${spool.name}` : ""}.{" "}
            {live ? (
              <>
                Linked: {link.transport}
                {link.rate > 1 && `, clock ${link.rate} ×`}.
              </>
            ) : (
              <>
                Not linked: <Link href={`/printer/${printer.id}`}>link it</Link>
                {tune.asFile && ", or take the file below"}.
              </>
            )}
          </p>
        </div>
        <Link href="/measure">All tunes</Link>
      </div>
      {refusal && <div className="finding stop">{refusal}</div>}
      <div className="two-sides">
        <div className="guide">
          <Step number={number++} title="What you need">
            <ul className="needs">
              {tune.needs.map((need) => (
                <li key={need}>{need}</li>
              ))}
            </ul>
            <div className="field-row">
              {inputsOf(tune, printer).map((input) => (
                <InputField
                  key={input.key}
                  input={input}
                  value={inputs[input.key]}
                  onChange={(value) => setInputs({ ...inputs, [input.key]: value })}
                />
              ))}
            </div>
          </Step>
          {uses.length > 0 && (
            <Step number={number++} title="What it has now">
              <div className="field-row">
                {uses.map((id) => {
                  const definition = valueFor(id)?.definition;
                  if (!definition) return null;
                  return (
                    <NumberField
                      key={`${id}-${values[id] ?? ""}`}
                      hideLabel={false}
                      label={definition.label}
                      value={values[id] ?? 0}
                      unit={definition.unit}
                      low={definition.lowest}
                      high={definition.highest}
                      decimals={definition.decimals}
                      width={76}
                      onChange={(value) => setTyped({ ...typed, [id]: value })}
                    />
                  );
                })}
                {live && (
                  <Button loading={busy === "read"} disabled={busy !== null} onClick={() => void readFirmware()}>
                    Read from the printer
                  </Button>
                )}
              </div>
            </Step>
          )}
          {needsHeat && (
            <Step number={number++} title="Heat">
              <p className="dim">
                To <b>{plainNumber(tune.heat(request)?.nozzleC ?? 0)} °C</b>, and wait until it is there.
                {link?.heat && ` Now ${plainNumber(link.heat.nozzles[0]?.measuredC ?? 0, 0)} °C.`}
              </p>
              <div className="field-row">
                <Button
                  className={heated ? "" : "go"}
                  disabled={!live || busy !== null || refusal !== null}
                  loading={busy === "heat"}
                  onClick={() => void phase("heat")}
                >
                  {heated ? "It is hot" : "Heat up"}
                </Button>
                {heated && (
                  <Button disabled={busy !== null} loading={busy === "cool"} onClick={() => void phase("cool")}>
                    Switch the heater off
                  </Button>
                )}
              </div>
            </Step>
          )}
          <Step number={number++} title={lines.length > 0 ? "Act" : "Get ready"}>
            <p className="dim">{tune.before}</p>
            {lines.length > 0 && (
              <>
                <pre className="mono start-lines">{lines.join("\n")}</pre>
                <div className="field-row">
                  <Button
                    className={heated && !acted ? "go" : ""}
                    disabled={!readyToAct || refusal !== null}
                    loading={busy === "act"}
                    onClick={() => void phase("act")}
                  >
                    {acted ? "Once more" : "Do it"}
                  </Button>
                  {tune.asFile && (
                    <Button href={`/api/measure/file?${query.toString()}`} download>
                      Get it as a file
                    </Button>
                  )}
                </div>
              </>
            )}
          </Step>
          <Step number={number++} title={fields.length > 0 ? "Measure" : "The sum"}>
            {tune.after && <p className="dim">{tune.after}</p>}
            <ReadingFields fields={fields} readings={readings} onChange={setReadings} />
            {link?.simulated && tune.fromRuler && fields.length > 0 && (
              <div className="field-row">
                <Button onClick={() => void ruler()}>Read the ruler</Button>
                <span className="dim">
                  This printer is simulated: the ruler shows what would really be there, with its noise.
                </span>
              </div>
            )}
            {result && !result.ok && (
              <div className="finding stop" role="alert">
                {result.message}
              </div>
            )}
            {result?.ok && (
              <div className="sum">
                {result.value.sum.map((line) => (
                  <div key={line} className="mono">
                    {line}
                  </div>
                ))}
                <p>
                  <b>{result.value.verdict}</b>
                </p>
                {result.value.ask && <div className="finding">{result.value.ask}</div>}
                <Button
                  className="go"
                  onClick={() => {
                    setRuns([...runs, { outcome: result.value, tried: false }]);
                    if (fields.length > 0) setReadings({});
                    setActed(false);
                  }}
                >
                  Take this reading
                </Button>
              </div>
            )}
          </Step>
        </div>
        <div className="side stays">
          <RunList tuneKey={tuneKey} printer={printer} spool={spool} runs={runs} live={live} onRuns={setRuns} />
        </div>
      </div>
    </>
  );
}

function pick(values: Record<string, number>, ids: string[]): Record<string, number> {
  return Object.fromEntries(ids.filter((id) => values[id] !== undefined).map((id) => [id, values[id]]));
}

function InputField({ input, value, onChange }: { input: TuneInput; value: number; onChange(value: number): void }) {
  if (input.choices) {
    return (
      <span className="number-field">
        <span className="dim">{input.label}</span>
        <Segmented aria-label={input.label} size="small" value={value} options={input.choices} onChange={onChange} />
      </span>
    );
  }
  return (
    <NumberField
      hideLabel={false}
      label={input.label}
      value={value}
      unit={input.unit}
      low={input.low}
      high={input.high}
      step={input.step}
      decimals={input.decimals}
      width={60}
      onChange={onChange}
    />
  );
}
