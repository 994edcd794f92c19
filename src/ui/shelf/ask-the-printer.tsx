"use client";
/** "Link it and ask": what a printer tells of itself fills in its record, and is shown with the lines that told it. */
import { Button } from "antd";
import { useState } from "react";
import type { ToldFigure } from "@/core/firmware/on-the-shelf";
import type { Identity } from "@/core/firmware/reports/identity";
import type { ValueEntry } from "@/core/firmware/values/reading";
import { sayFirmwareValue } from "@/core/firmware/values/say";
import { valueFor } from "@/core/firmware/values";
import { dialects } from "@/core/machine/dialects";
import type { Printer } from "@/core/shelf/printer";
import { plainNumber } from "@/core/units";
import { api, ApiError } from "../common/api";
import { useAct } from "../common/use-act";
import { useAsk } from "../common/talk";
import { freshWay, WayFields, wayOf } from "../common/way-fields";
import styles from "./ask-the-printer.module.css";
import { printerFields } from "./fields";
import type { RecordDraft } from "./record-draft";

interface Asked {
  identity: Identity;
  told: ToldFigure[];
  values: ValueEntry[];
}

const fields = new Map(printerFields.flatMap((group) => group.fields).map((field) => [field.name, field]));

/** A told figure as it stands in the form. */
function sayFigure({ field, value }: ToldFigure): string {
  if (field === "dialect") return dialects[value as Printer["dialect"]].label;
  const known = fields.get(field);
  const unit = known?.kind === "number" ? known.unit : "";
  return `${typeof value === "number" ? plainNumber(value, 4) : String(value)} ${unit}`.trim();
}

export function AskThePrinter({ form }: { form: RecordDraft<Printer> }) {
  const [way, setWay] = useState({ ...freshWay, kind: "serial" as (typeof freshWay)["kind"] });
  const [asked, setAsked] = useState<Asked | null>(null);
  const { busy, act } = useAct();
  const sure = useAsk();
  const transport = wayOf(way);
  const ask = () =>
    act(async () => {
      const send = (confirmed: boolean) => api.post<Asked>("/printers/ask", { transport, confirmed });
      const answer = await send(false).catch(async (error: unknown) => {
        if (!(error instanceof ApiError) || error.field !== "confirmed") throw error;
        return (await sure({ title: error.message, okText: "Yes, ask it" })) ? send(true) : null;
      });
      if (!answer) return;
      setAsked(answer);
      const name = String(form.draft.name ?? "") || (answer.identity.fields.MACHINE_TYPE ?? "").slice(0, 60);
      form.set({ name, ...Object.fromEntries(answer.told.map(({ field, value }) => [field, value])) });
    });
  return (
    <section className="card" aria-label="Ask the printer">
      <h2>Link it and ask</h2>
      <div className="link-row">
        <WayFields kinds={["serial", "tcp"]} way={way} onWay={setWay} />
        <Button className={asked ? "" : "go"} disabled={!transport} loading={busy} onClick={() => void ask()}>
          Ask the printer
        </Button>
        <span className="dim">M115 and a question for its values are sent; nothing moves, nothing changes.</span>
      </div>
      {asked && <Answer asked={asked} />}
    </section>
  );
}

function Answer({ asked: { identity, told, values } }: { asked: Asked }) {
  const steps = values.flatMap((entry) => {
    const definition = valueFor(entry.id)?.definition;
    return definition?.group === "steps" ? [{ ...entry, definition }] : [];
  });
  return (
    <div role="status">
      <p className={styles.sentence}>
        <b>{identity.fields.FIRMWARE_NAME ?? "The printer"}</b>{" "}
        {told.length > 0
          ? `reported ${told.length} of its values. They are in the form now; check them.`
          : "reported nothing that fits the form. Answer the questions instead."}
      </p>
      {told.length > 0 && (
        <dl className={styles.told}>
          {told.map((figure) => (
            <div key={figure.field} title={figure.line}>
              <dt>{fields.get(figure.field)?.label ?? figure.field}</dt>
              <dd>{sayFigure(figure)}</dd>
            </div>
          ))}
          {steps.map(({ id, value, line, definition }) => (
            <div key={id} title={line}>
              <dt>{definition.label}, stays in the printer</dt>
              <dd>{sayFirmwareValue(definition, value)}</dd>
            </div>
          ))}
        </dl>
      )}
    </div>
  );
}
