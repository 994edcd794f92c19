"use client";
/** Setting and watching temperatures. */
import { Button } from "antd";
import { useState } from "react";
import { dangerOf } from "@/core/firmware/danger";
import { readingOf } from "@/core/machine/reading";
import { spoolTitle } from "@/core/shelf/spool-title";
import { plainNumber } from "@/core/units";
import type { SavedPrinter } from "../common/api";
import { NumberField } from "../common/number-field";
import { useBenchPair } from "../common/queries";
import { HeatChart } from "./heat-chart-later";
import type { LinkFeed } from "./link-feed";
import { usePrinterAct } from "./link-queries";
import { useAsk } from "../common/talk";
import styles from "./heat.module.css";

interface Props {
  printer: SavedPrinter;
  feed: LinkFeed;
}

export function HeatView({ printer, feed }: Props) {
  const { status, samples } = feed;
  const { spool } = useBenchPair();
  const ask = useAsk();
  const act = usePrinterAct();
  const open = status?.state === "open" && !status.halted;
  const heat = status?.heat ?? null;
  const tools = Array.from({ length: printer.tools }, (_, tool) => tool);
  const [asked, setAsked] = useState(false);
  const send = async (lines: string[]) => {
    const dangers = lines
      .map((line) => dangerOf(line, { homed: null, nozzleC: null }, readingOf(printer)))
      .filter((danger) => danger !== null);
    if (dangers.length > 0 && !asked) {
      const sure = await ask({
        title: "Heat up?",
        content: `${dangers.map(({ reason }) => reason).join(" ")} Stay near. This is asked once.`,
        okText: "Heat",
        cancelText: "Leave it cold",
      });
      if (!sure) return;
      setAsked(true);
    }
    act.mutate({ path: "/link/lines", body: { printerId: printer.id, lines, source: "heat" } });
  };
  const toolWord = (tool: number) => (printer.tools > 1 ? ` T${tool}` : "");
  const middle = spool ? Math.round((spool.labelMinC + spool.labelMaxC) / 2) : 200;
  const cool = [...tools.map((tool) => `M104 S0${toolWord(tool)}`), "M140 S0"];
  return (
    <div className="two-sides">
      <div>
        <section className="card" aria-label="Temperatures over time">
          <h2>Temperatures, °C</h2>
          <HeatChart samples={samples} heightPx={330} />
          <p className="dim above">
            {open
              ? `While this view is open Cuchara asks for the temperatures (M105) every two seconds of the printer's time, and stops when you leave it.`
              : "Link the printer above; then its temperatures can be watched."}
          </p>
        </section>
      </div>
      <div className="side">
        {tools.map((tool) => (
          <HeaterCard
            key={tool}
            name={printer.tools > 1 ? `Nozzle ${tool + 1}` : "Nozzle"}
            reading={heat?.nozzles[tool] ?? null}
            highest={printer.highestNozzleC}
            usual={middle}
            disabled={!open}
            onSet={(target) => void send([`M104 S${target}${toolWord(tool)}`])}
          />
        ))}
        <HeaterCard
          name="Bed"
          reading={heat?.bed ?? null}
          highest={printer.highestBedC}
          usual={spool?.bedC ?? 60}
          disabled={!open}
          onSet={(target) => void send([`M140 S${target}`])}
        />
        <section className="card" aria-label="For the spool">
          <h2>For the spool on the bench</h2>
          {spool ? (
            <>
              <p className="dim">{spoolTitle(spool)}</p>
              <Button
                block
                className="above"
                disabled={!open}
                onClick={() => void send([`M140 S${spool.bedC}`, `M104 S${middle}${toolWord(0)}`])}
              >
                {middle} °C, bed {plainNumber(spool.bedC)} °C
              </Button>
            </>
          ) : (
            <p className="dim">There is no spool on the bench.</p>
          )}
          <Button className="go above" block disabled={!open} onClick={() => void send(cool)}>
            Cool everything
          </Button>
        </section>
      </div>
    </div>
  );
}

interface HeaterProps {
  name: string;
  reading: { measuredC: number; setC: number | null } | null;
  highest: number;
  usual: number;
  disabled: boolean;
  onSet(target: number): void;
}

function HeaterCard({ name, reading, highest, usual, disabled, onSet }: HeaterProps) {
  const [target, setTarget] = useState(usual);
  return (
    <section className="card" aria-label={name}>
      <div className="spread">
        <h2>{name}</h2>
        <span className={`mono ${styles.now}`}>
          {reading ? plainNumber(reading.measuredC, 1) : "–"} °C
          <small>{reading?.setC ? ` → ${plainNumber(reading.setC, 1)}` : reading ? " off" : ""}</small>
        </span>
      </div>
      <div className="line">
        <NumberField
          label={`${name}, set to`}
          value={target}
          unit="°C"
          low={0}
          high={highest}
          step={5}
          decimals={0}
          width={48}
          onChange={setTarget}
        />
        <Button disabled={disabled} aria-label={`Set the ${name.toLowerCase()}`} onClick={() => onSet(target)}>
          Set
        </Button>
        <Button disabled={disabled} aria-label={`Off: ${name.toLowerCase()}`} onClick={() => onSet(0)}>
          Off
        </Button>
      </div>
    </section>
  );
}
