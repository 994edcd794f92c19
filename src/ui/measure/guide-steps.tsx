"use client";
/** The steps of a guide: each shows its part and asks for what comes next. */
import { Button } from "antd";
import { valueFor } from "@/core/firmware/values";
import { inputsOf } from "@/core/measure/inputs";
import type { TuneInput } from "@/core/measure/tune";
import { plainNumber } from "@/core/units";
import { Segments } from "../common/segments";
import { NumberField } from "../common/number-field";
import type { Guide } from "./use-guide";
import fieldStyles from "../common/number-field.module.css";
import { Drawing } from "./drawing";
import styles from "./measure.module.css";

export function Needs({ guide }: { guide: Guide }) {
  const { tune, request, inputs, setInput } = guide;
  return (
    <>
      <ul className={styles.needs}>
        {tune.needs.map((need) => (
          <li key={need}>{need}</li>
        ))}
      </ul>
      <div className="field-row">
        {inputsOf(tune, request.printer).map((input) => (
          <InputField
            key={input.key}
            input={input}
            value={inputs[input.key]}
            onChange={(value) => setInput(input.key, value)}
          />
        ))}
      </div>
    </>
  );
}

/** What the printer has now: read from it, or typed; empty until then. */
export function InForce({ guide }: { guide: Guide }) {
  const { uses, values, setValue, live, busy, readFirmware } = guide;
  return (
    <div className="field-row">
      {uses.map((id) => {
        const definition = valueFor(id)?.definition;
        if (!definition) return null;
        return (
          <NumberField
            key={id}
            hideLabel={false}
            label={definition.label}
            value={values[id]}
            hint={live ? "read it" : "type it"}
            unit={definition.unit}
            low={definition.lowest}
            high={definition.highest}
            decimals={definition.decimals}
            width={76}
            onChange={(value) => setValue(id, value)}
          />
        );
      })}
      {live && (
        <Button loading={busy === "read"} disabled={busy !== null} onClick={() => void readFirmware()}>
          Read from the printer
        </Button>
      )}
    </div>
  );
}

/** `210 °C` for the nozzle, `bed 60 °C`, or both. */
function sayWanted({ nozzleC, bedC }: NonNullable<Guide["wanted"]>): string {
  return [
    nozzleC === undefined ? "" : `${plainNumber(nozzleC, 0)} °C`,
    bedC === undefined ? "" : `bed ${plainNumber(bedC, 0)} °C`,
  ]
    .filter(Boolean)
    .join(", ");
}

export function Heat({ guide }: { guide: Guide }) {
  const { wanted, heatSaid, hot, live, busy, refusal, phase } = guide;
  if (!wanted) return null;
  return (
    <>
      <p className="dim">
        To <b>{sayWanted(wanted)}</b>, and wait until it is there.{" "}
        {live && (heatSaid ? `Now ${heatSaid}.` : "Current temperature unknown.")}
      </p>
      <div className="field-row">
        <Button
          className={hot ? "" : "go"}
          disabled={!live || busy !== null || refusal !== null}
          loading={busy === "heat"}
          onClick={() => void phase("heat")}
        >
          {hot ? "It is hot" : "Heat up"}
        </Button>
        {live && (
          <Button disabled={busy !== null} loading={busy === "cool"} onClick={() => void phase("cool")}>
            Switch the heater off
          </Button>
        )}
      </div>
    </>
  );
}

export function Act({ guide }: { guide: Guide }) {
  const { tune, lines, hot, live, acted, busy, refusal, phase, fileAddress } = guide;
  return (
    <>
      <div className={styles.shown}>
        <p className="dim">{tune.before}</p>
        <Drawing of={tune.draws} moment="before" />
      </div>
      {lines.length > 0 && (
        <>
          <pre className="mono start-lines">{lines.join("\n")}</pre>
          <div className="field-row">
            <Button
              className={hot && !acted ? "go" : ""}
              disabled={!live || !hot || busy !== null || refusal !== null}
              loading={busy === "act"}
              onClick={() => void phase("act")}
            >
              {acted ? "Once more" : "Do it"}
            </Button>
            {tune.asFile && (
              <Button href={fileAddress} download>
                Get it as a file
              </Button>
            )}
          </div>
        </>
      )}
    </>
  );
}

export function Measure({ guide }: { guide: Guide }) {
  const { tune, fields, readings, setReadings, link, readRuler } = guide;
  return (
    <>
      {tune.after && (
        <div className={styles.shown}>
          <p className="dim">{tune.after}</p>
          <Drawing of={tune.draws} moment="after" />
        </div>
      )}
      <div className="field-row">
        {fields.map((field) => (
          <NumberField
            key={field.key}
            hideLabel={false}
            label={field.label}
            unit={field.unit}
            low={field.low}
            high={field.high}
            decimals={field.decimals}
            value={readings[field.key]}
            hint="as read"
            width={64}
            onChange={(value) => setReadings({ ...readings, [field.key]: value })}
            onEmpty={() => {
              const { [field.key]: _, ...others } = readings;
              setReadings(others);
            }}
          />
        ))}
      </div>
      {link?.simulated && tune.fromRuler && fields.length > 0 && (
        <div className="field-row">
          <Button onClick={() => void readRuler()}>Read the ruler</Button>
          <span className="dim">
            This printer is simulated: the ruler shows what would really be there, with its noise.
          </span>
        </div>
      )}
      <Sum guide={guide} />
    </>
  );
}

function Sum({ guide: { result, takeReading } }: { guide: Guide }) {
  if (!result) return null;
  if (!result.ok) {
    return (
      <div className="finding stop" role="alert">
        {result.message}
      </div>
    );
  }
  const { sum, verdict, ask } = result.value;
  return (
    <div className={styles.sum}>
      {sum.map((line) => (
        <div key={line} className="mono">
          {line}
        </div>
      ))}
      <p>
        <b>{verdict}</b>
      </p>
      {ask && <div className="finding">{ask}</div>}
      <Button className="go" onClick={() => takeReading(result.value)}>
        Take this reading
      </Button>
    </div>
  );
}

function InputField({ input, value, onChange }: { input: TuneInput; value: number; onChange(value: number): void }) {
  if (input.choices) {
    return (
      <span className={fieldStyles.field}>
        <span className="dim">{input.label}</span>
        <Segments label={input.label} small value={value} options={input.choices} onChange={onChange} />
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
