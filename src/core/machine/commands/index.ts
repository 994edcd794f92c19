/** The command table: what a printer understands. A new subject is one file and one line here, a new command one entry in its file. */
import { Command } from "../command";
import { factors } from "./factors";
import { fans } from "./fans";
import { files } from "./files";
import { heat } from "./heat";
import { limits } from "./limits";
import { modes } from "./modes";
import { motion } from "./motion";
import { retraction } from "./retraction";
import { choosesTool, talk } from "./talk";
import { values } from "./values";

export const commands: Command[] = [
  ...motion,
  ...modes,
  ...heat,
  ...fans,
  ...factors,
  ...limits,
  ...retraction,
  ...values,
  ...talk,
  ...files,
];

const byCode = new Map(commands.map((command) => [command.code, command]));

const keyOf = (letter: number, number: number) => letter * 1e6 + number;
const byNumber = new Map(
  commands.flatMap((command) => {
    const numbered = /^([GM])(\d+)$/.exec(command.code);
    return numbered ? [[keyOf(numbered[1].charCodeAt(0), Number(numbered[2])), command] as const] : [];
  }),
);

/** The command for a code (`M104`, `M0104` and `m104` are one; `T7` chooses a tool); undefined if the table does not have it. */
export function commandFor(code: string): Command | undefined {
  const upper = code.toUpperCase();
  const plain = /^([GMT])0*(\d+)$/.exec(upper);
  if (!plain) return byCode.get(upper);
  return byCode.get(plain[1] + plain[2]) ?? (plain[1] === "T" ? choosesTool(Number(plain[2])) : undefined);
}

/** The same for a letter G or M (a byte) and its number: no text is made. */
export function commandForNumber(letter: number, number: number): Command | undefined {
  return byNumber.get(keyOf(letter, number));
}

/** Numbers of the M commands whose rest is text: its letters are not words. */
export const textCommands: ReadonlySet<number> = new Set(
  commands.flatMap(({ code, takesText }) => (takesText && code.startsWith("M") ? [Number(code.slice(1))] : [])),
);

/** Commands that a typed beginning may become, in the table's order; those whose meaning holds the text come last. */
export function completions(typed: string, most = 8): Command[] {
  const start = typed.trim().toUpperCase();
  if (start === "") return [];
  const begins = commands.filter(({ code }) => code.startsWith(start));
  const means = commands.filter(
    (command) => !begins.includes(command) && start.length > 2 && command.does.toUpperCase().includes(start),
  );
  return [...begins, ...means].slice(0, most);
}
