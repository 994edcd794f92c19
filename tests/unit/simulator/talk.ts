/** A talk with a simulated printer whose clock the test moves itself. */
import { Printer } from "@/core/shelf/printer";
import { SimulatedPrinter } from "@/core/simulator/machine";
import { personalities } from "@/core/simulator/personalities";

export class Talk {
  readonly machine: SimulatedPrinter;
  private said = "";

  constructor(printer: Printer, options: { saved?: Record<string, number>; seed?: number } = {}) {
    this.machine = new SimulatedPrinter(
      printer,
      personalities[printer.dialect],
      (text) => (this.said += text),
      options,
    );
  }

  /** What was said since the last time this was asked. */
  heard(): string[] {
    const lines = this.said.split("\n").slice(0, -1);
    this.said = "";
    return lines;
  }

  /** Sends lines one by one, each after the `ok` of the one before; returns everything that came back. */
  say(...lines: string[]): string[] {
    const all: string[] = [];
    for (const line of lines) {
      this.machine.receive(`${line}\n`);
      let heard = this.heard();
      for (let passed = 0; !heard.some((answer) => answer.startsWith("ok")) && !this.machine.halted; passed += 1) {
        if (passed > 4000) throw new Error(`No ok to ${line}: ${heard.join(" | ")}`);
        this.machine.advance(1);
        heard = heard.concat(this.heard());
      }
      all.push(...heard);
    }
    return all;
  }

  /** Seconds until everything planned is done. */
  settle(): number {
    const start = this.machine.nowS;
    while (!this.machine.idle) this.machine.advance(0.05);
    return this.machine.nowS - start;
  }
}
