/** The heaters of the simulated printer: nozzles, bed, the autotune, and what is said of them. */
import { materials } from "../material/materials";
import { Printer } from "../shelf/printer";
import { Heater, Pid } from "./heater";
import { Memory } from "./memory";
import { Noise } from "./noise";
import { RelayTune } from "./relay";

export const HEAT_STEP_S = 0.25;

export interface AutoTune {
  relay: RelayTune;
  heater: Heater;
  tool: number;
}

export class HeaterBank {
  readonly nozzles: Heater[];
  readonly bed: Heater;
  tune: AutoTune | null = null;

  constructor(
    private readonly printer: Printer,
    private readonly memory: Memory,
    noise: Noise,
  ) {
    this.nozzles = Array.from(
      { length: printer.tools },
      () =>
        new Heater(
          {
            riseCPerS: printer.heaterRiseCPerS,
            fallCPerS: printer.heaterFallCPerS,
            atC: 200,
            heaterLagS: 3,
            sensorLagS: 1.5,
            noiseC: 0.12,
          },
          noise,
        ),
    );
    this.bed = new Heater(
      { riseCPerS: 0.6, fallCPerS: 0.12, atC: 60, heaterLagS: 4, sensorLagS: 4, noiseC: 0.06 },
      noise,
    );
  }

  get all(): Heater[] {
    return [...this.nozzles, this.bed];
  }

  /** Sends a nozzle (by tool) or the bed (null) to a temperature, held to what the printer allows. Null for a tool it has not. */
  send(tool: number | null, targetC: number): Heater | null {
    const heater = tool === null ? this.bed : this.nozzles[tool];
    if (!heater) return null;
    const highest = tool === null ? this.printer.highestBedC : this.printer.highestNozzleC;
    heater.setC = Math.min(highest, Math.max(0, targetC));
    return heater;
  }

  /** Lets `HEAT_STEP_S` pass; true if a heater ran away. What the autotune has to say goes to `say`. */
  advance(nowS: number, tool: number, flowMm3: number, say: (line: string) => void): boolean {
    if (this.tune) this.turnRelay(this.tune, nowS, say);
    const flowGPerS = (flowMm3 / 1000 / HEAT_STEP_S) * materials.PLA.densityGCm3;
    let ranAway = this.bed.advance(HEAT_STEP_S, 0, this.bedPid);
    this.nozzles.forEach((heater, index) => {
      ranAway = heater.advance(HEAT_STEP_S, index === tool ? flowGPerS : 0, this.pidOf(index)) || ranAway;
    });
    return ranAway;
  }

  /** Everything off. */
  switchOff(): void {
    for (const heater of this.all) heater.switchOff();
    this.tune = null;
  }

  /** `T:200.0 /200.0 B:60.0 /60.0 @:64 B@:30` */
  text(tool: number): string {
    const say = (name: string, heater: Heater) => `${name}:${heater.measuredC.toFixed(1)} /${heater.setC.toFixed(1)}`;
    const tools = this.nozzles.length > 1 ? this.nozzles.map((heater, index) => say(`T${index}`, heater)) : [];
    const power = (heater: Heater) => Math.round(heater.power * 127);
    const active = this.nozzles[tool];
    return [say("T", active), say("B", this.bed), ...tools, `@:${power(active)}`, `B@:${power(this.bed)}`].join(" ");
  }

  private pidOf(tool: number): Pid {
    const suffix = tool === 0 ? "" : `@${tool}`;
    const part = (name: string, otherwise: number) => this.memory.get(`nozzle${name}${suffix}`, otherwise);
    return { p: part("P", 16), i: part("I", 0.9), d: part("D", 60) };
  }

  private get bedPid(): Pid {
    return { p: this.memory.get("bedP", 60), i: this.memory.get("bedI", 1), d: this.memory.get("bedD", 300) };
  }

  private turnRelay({ relay, heater }: AutoTune, nowS: number, say: (line: string) => void): void {
    const happened = relay.take(nowS, heater.trueC);
    heater.forcedPower = relay.power;
    if (happened) say(`autotune: cycle ${relay.cycles}, swing ${relay.lastSwingC.toFixed(1)} C`);
    if (happened !== "done") return;
    heater.switchOff();
    const { p, i, d } = relay.result();
    say(`autotune done: Kp: ${p.toFixed(2)} Ki: ${i.toFixed(2)} Kd: ${d.toFixed(2)}`);
    this.tune = null;
  }
}
