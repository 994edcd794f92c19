/**
 * The proof: what a finished file really commands, layer by layer, read back from its own text and held against the plan.
 * It knows nothing of how the file was made.
 */
import { EventKind } from "../gcode/moves";
import { ProgramTables } from "../gcode/read";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../settings";
import { seeMoves } from "../settings/measure";
import { Printer } from "../shelf/printer";
import { PlannedValues } from "./planned";

/** Values in force per layer; NaN where the program has not said anything yet. */
export type LayerSettings = Record<SettingKey, Float64Array>;

/** A change of a setting while a layer is being laid or between layers, with its place. */
export interface SettingChange {
  key: SettingKey;
  value: number;
  line: number;
  startByte: number;
  endByte: number;
  /** Tool (or fan) it is meant for. */
  tool: number;
  /** Layer from which it is in force; -1 before the first. */
  layer: number;
  /** It stands in the middle of that layer. */
  within: boolean;
  /** Put in by a plan of Cuchara's. */
  ours: boolean;
  /** The waiting kind: the nozzle stands until it is reached. */
  waits: boolean;
}

/** What is in force for one tool when the first material is laid. */
export interface ToolSettings {
  tool: number;
  settings: SettingValues;
}

/**
 * The value of every setting that is in force when the first material of each layer is laid, for the tool that lays it.
 *
 * @param ofTool look at this tool instead, whichever lays
 */
export function settingsByLayer(
  tables: ProgramTables,
  ofTool?: number,
): { byLayer: LayerSettings; changes: SettingChange[]; start: ToolSettings[] } {
  const { events, layers, cucharaLines } = tables;
  const byLayer = Object.fromEntries(
    settingKeys.map((key) => [key, new Float64Array(layers.length).fill(NaN)]),
  ) as LayerSettings;
  const changes: SettingChange[] = [];
  const ourLines = new Set(cucharaLines.map(({ line }) => line));
  const current = Object.fromEntries(settingKeys.map((key) => [key, new Map<number, number>()])) as Record<
    SettingKey,
    Map<number, number>
  >;
  const lastWasOurs: Partial<Record<SettingKey, boolean>> = {};
  let tool = 0;
  let event = 0;
  const takeUpTo = (move: number, layer: number, within: boolean) => {
    while (event < events.count && events.move[event] <= move) {
      const kind = events.kind[event] as EventKind;
      if (kind === EventKind.tool) tool = events.value[event];
      for (const key of settingKeys) {
        const value = settingFor(key).hear(kind, events.value[event]);
        if (value === null) continue;
        const index = settingFor(key).perTool ? events.tool[event] : 0;
        const before = current[key].get(index);
        current[key].set(index, value);
        const ours = ourLines.has(events.line[event]);
        // Said again without changing anything; but behind a line of ours it would count once that is lifted out.
        if (before === value && !ours && !lastWasOurs[key]) continue;
        lastWasOurs[key] = ours;
        changes.push({
          key,
          value,
          tool: index,
          line: events.line[event],
          startByte: events.startByte[event],
          endByte: events.endByte[event],
          layer,
          within,
          ours,
          waits: kind === EventKind.nozzleTemperatureWait || kind === EventKind.bedTemperatureWait,
        });
      }
      event++;
    }
  };
  let start: ToolSettings[] = [];
  const measured = settingKeys.flatMap((key) => {
    const measure = settingFor(key).measure?.();
    return measure ? [{ key, measure }] : [];
  });
  const measures = measured.map(({ measure }) => measure);
  const tools = ofTool === undefined ? null : toolsOfMoves(tables);
  for (const layer of layers) {
    if (layer.index === 0) takeUpTo(layer.firstMove - 1, -1, false);
    takeUpTo(layer.firstPrintMove, layer.index, false);
    if (layer.index === 0) start = startOf(current);
    // What is drawn back behind the last material is not given back, and no retraction.
    const next = layer.index + 1 < layers.length ? openingMove(tables, layer.index + 1) : layer.lastMove + 1;
    seeMoves(measures, tables.moves, openingMove(tables, layer.index), next - 1, tools && { tools, tool: ofTool! });
    for (const key of settingKeys) {
      const values = current[key];
      byLayer[key][layer.index] =
        (settingFor(key).perTool ? values.get(ofTool ?? tool) : undefined) ?? values.get(0) ?? NaN;
    }
    // What the moves do is what counts; a command about it only tells where no move shows it.
    for (const { key, measure } of measured) {
      const value = measure.take();
      if (!Number.isNaN(value)) byLayer[key][layer.index] = value;
    }
    takeUpTo(layer.lastMove, layer.index, true);
  }
  takeUpTo(Infinity, layers.length, false);
  return { byLayer, changes, start };
}

/** What each tool is set to, tools in their order. Values of the whole printer stand with every tool. */
function startOf(current: Record<SettingKey, Map<number, number>>): ToolSettings[] {
  const tools = [...new Set(settingKeys.flatMap((key) => [...current[key].keys()]))].sort((a, b) => a - b);
  return tools.map((tool) => {
    const settings: SettingValues = {};
    for (const key of settingKeys) {
      const value = current[key].get(settingFor(key).perTool ? tool : 0);
      if (value !== undefined) settings[key] = value;
    }
    return { tool, settings };
  });
}

/** Which tool makes each move. */
export function toolsOfMoves({ moves, events }: ProgramTables): Uint8Array {
  const tools = new Uint8Array(moves.count);
  let tool = 0;
  let from = 0;
  for (let i = 0; i < events.count; i++) {
    if (events.kind[i] !== EventKind.tool) continue;
    tools.fill(tool, from, events.move[i]);
    tool = events.value[i];
    from = events.move[i];
  }
  return tools.fill(tool, from);
}

/** First move behind the place where a line for the layer would stand: drawing back for the way to it belongs to it if it stands there. */
function openingMove({ layers, moves }: ProgramTables, index: number): number {
  const layer = layers[index];
  let first = layer.firstMove;
  while (first < layer.firstPrintMove && moves.line[first] < layer.insertLine) first++;
  while (first > 0 && moves.line[first - 1] >= layer.insertLine) first--;
  return first;
}

export interface ProofLayer {
  index: number;
  zMm: number;
  settings: SettingValues;
}

export interface Mismatch {
  key: SettingKey;
  layer: number;
  zMm: number;
  planned: number;
  /** NaN if the program never says. */
  commanded: number;
}

/** The proof as a list, layer by layer; settings that the program never says are left out. */
export function proofLayers(tables: ProgramTables, byLayer: LayerSettings): ProofLayer[] {
  return tables.layers.map(({ index, zMm }) => {
    const values: SettingValues = {};
    for (const key of settingKeys) {
      const value = byLayer[key][index];
      if (!Number.isNaN(value)) values[key] = Math.round(value * 100) / 100;
    }
    return { index, zMm, settings: values };
  });
}

/** Every layer and setting in which the program does not command what is planned. */
export function comparePlan(
  layers: readonly { zMm: number }[],
  byLayer: LayerSettings,
  planned: PlannedValues,
  printer: Printer,
): Mismatch[] {
  const mismatches: Mismatch[] = [];
  for (const key of settingKeys) {
    const wanted = planned[key];
    if (!wanted) continue;
    const setting = settingFor(key);
    for (let layer = 0; layer < Math.min(wanted.length, layers.length); layer++) {
      if (Number.isNaN(wanted[layer])) continue;
      const commanded = byLayer[key][layer];
      // A layer in which the filament is never drawn back contradicts no wish about it.
      if (Number.isNaN(commanded) && setting.inside?.on(printer)) continue;
      if (!(Math.abs(commanded - setting.effective(wanted[layer], printer)) <= setting.tolerance)) {
        mismatches.push({ key, layer, zMm: layers[layer].zMm, planned: wanted[layer], commanded });
      }
    }
  }
  return mismatches.sort((a, b) => a.layer - b.layer);
}
