/** Every word of a line and every field of an answer, in plain language. Stands beside the raw text, never instead of it. */
import { plainNumber } from "../units";
import { xorChecksum } from "../gcode/checksum";
import { hasCommand } from "../machine/command";
import { Reading, usualReading } from "../machine/reading";
import { commandFor } from "../machine/commands";
import { readTalkLine } from "../gcode/talk-line";
import { readAnswer } from "./reports/answer";
import { capabilityMeanings, fieldMeanings, readIdentity } from "./reports/identity";
import { readPosition } from "./reports/position";
import { readTemperatures } from "./reports/temperatures";
import { firmwareValues } from "./values";

export interface Part {
  /** The piece of the line, as it stands there. */
  text: string;
  means: string;
}

export interface Explanation {
  /** The whole in one short sentence. */
  title: string;
  parts: Part[];
}

/**
 * Explains a line that is sent, as the printer that `reading` tells of takes it.
 *
 * @example
 * explainLine("M104 S215").title; // "Sets the nozzle's temperature and goes on"
 */
export function explainLine(text: string, reading: Reading = usualReading): Explanation {
  const line = readTalkLine(text);
  const parts: Part[] = [];
  if (line.number !== null) parts.push({ text: `N${line.number}`, means: "number of the line, so that none is lost" });
  if (line.code === "") {
    if (line.comment) return { title: "A comment; the printer passes over it", parts };
    return { title: text.trim() === "" ? "Nothing" : "Not a command Cuchara knows; it is sent unchanged", parts };
  }
  const command = commandFor(line.code);
  const does = !command
    ? "Not in the firmware table; it is sent unchanged"
    : hasCommand(command, reading)
      ? command.does
      : `${command.does}; this printer's dialect has no such command`;
  parts.push({ text: line.code, means: does });
  for (const { name, value, text: written } of line.words) {
    const meaning = command?.words?.[name];
    const bare = name === "E" && Number.isNaN(value) ? "extruder" : undefined;
    parts.push({ text: written, means: meaning ?? bare ?? "not a word this command is known to have" });
  }
  if (command?.takesText && line.text) parts.push({ text: line.text, means: "the text" });
  if (line.checksum !== null) {
    const summed = text.slice(0, text.lastIndexOf("*"));
    const right = xorChecksum(new TextEncoder().encode(summed));
    parts.push({
      text: `*${line.checksum}`,
      means: right === line.checksum ? "checksum, fits the line" : `checksum; the line's own is ${right}`,
    });
  }
  if (line.comment) parts.push({ text: `; ${line.comment}`, means: "comment" });
  return { title: does, parts };
}

/** Explains a line that came back. */
export function explainAnswer(text: string): Explanation {
  const answer = readAnswer(text);
  const temperatures = readTemperatures(text);
  if (temperatures)
    return { title: answer.kind === "ok" ? "Taken; temperatures" : "Temperatures", parts: temperatureParts(text) };
  const position = readPosition(text);
  if (position) {
    return {
      title: "Where it stands",
      parts: [
        ...(["X", "Y", "Z"] as const).map((letter) => ({
          text: `${letter}:${plainNumber(position[`${letter.toLowerCase() as "x" | "y" | "z"}Mm`], 2)}`,
          means: `${letter}, mm`,
        })),
        { text: `E:${plainNumber(position.eMm, 2)}`, means: "filament, mm" },
        ...(text.includes("Count")
          ? [{ text: text.slice(text.indexOf("Count")), means: "the same in motor steps" }]
          : []),
      ],
    };
  }
  switch (answer.kind) {
    case "ok":
      return { title: "Taken", parts: [{ text: "ok", means: "the line was taken; the next may come" }] };
    case "busy":
      return { title: "Still at work", parts: [{ text: text.trim(), means: "the command goes on; nothing is wrong" }] };
    case "resend":
      return {
        title: `Asks for line ${answer.number} again`,
        parts: [{ text: text.trim(), means: "a line came damaged or out of order" }],
      };
    case "error":
      return { title: "Something is wrong", parts: [{ text: text.trim(), means: "the printer says what" }] };
    case "started":
      return {
        title: "The printer has just started",
        parts: [{ text: text.trim(), means: "values are as they were saved; nothing is homed" }],
      };
    default:
      return explainOther(text);
  }
}

function temperatureParts(text: string): Part[] {
  const parts: Part[] = [];
  for (const [, piece, name, measured, set] of text.matchAll(/((T\d*|B|C)\s*:\s*(-?[\d.]+)(?:\s*\/\s*(-?[\d.]+))?)/g)) {
    const what =
      name === "B" ? "bed" : name === "C" ? "chamber" : name === "T" ? "nozzle" : `nozzle ${Number(name.slice(1)) + 1}`;
    const target =
      set === undefined ? "" : Number(set) > 0 ? `, told to reach ${plainNumber(Number(set), 1)} °C` : ", heater off";
    parts.push({ text: piece, means: `${what} at ${plainNumber(Number(measured), 1)} °C${target}` });
  }
  for (const [piece, name, power] of text.matchAll(/(B?)@\d*\s*:\s*(-?\d+)/g)) {
    parts.push({ text: piece, means: `${name ? "bed" : "nozzle"} heater's power, ${power} of 127 or 255` });
  }
  return parts;
}

function explainOther(text: string): Explanation {
  const { fields, capabilities } = readIdentity([text]);
  const [capability] = Object.entries(capabilities);
  if (capability) {
    const [name, can] = capability;
    return {
      title: can ? "It can" : "It cannot",
      parts: [
        { text: name, means: `${capabilityMeanings[name] ?? "a capability not known here"}: ${can ? "yes" : "no"}` },
      ],
    };
  }
  if (Object.keys(fields).length > 0 && "FIRMWARE_NAME" in fields) {
    return {
      title: "What the firmware is",
      parts: Object.entries(fields).map(([key, value]) => ({
        text: `${key}:${value}`,
        means: fieldMeanings[key] ?? "a field not known here",
      })),
    };
  }
  const bare = text.replace(/^\s*(echo:|\/\/)\s*/i, "");
  const line = readTalkLine(bare);
  const values = firmwareValues.filter(({ command }) => command === line.code);
  if (values.length > 0) {
    const command = commandFor(line.code);
    return {
      title: command?.does ?? "A value",
      parts: line.words.map(({ name, text: written }) => {
        // `E0` names the nozzle in a report of M301, and is a figure elsewhere: the table of commands tells them apart.
        const value = values.find(({ word }) => word === name);
        const meaning = command?.words?.[name] ?? (value && `${value.label}${value.unit ? `, ${value.unit}` : ""}`);
        return { text: written, means: meaning ?? "not known here" };
      }),
    };
  }
  if (bare.startsWith(";")) return { title: "A comment of the report", parts: [] };
  if (/unknown/i.test(text)) return { title: "It does not know the command", parts: [] };
  return { title: "", parts: [] };
}
