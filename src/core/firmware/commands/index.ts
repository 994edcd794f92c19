/** The firmware table. A new subject is one file and one line here. */
import { Command } from "./command";
import { heat } from "./heat";
import { motion } from "./motion";
import { talk } from "./talk";
import { values } from "./values";

export const commands: Command[] = [...motion, ...heat, ...values, ...talk];

const byCode = new Map(commands.map((command) => [command.code, command]));

/** The command for a code (`M104`, `M0104` and `m104` are one); undefined if the table does not have it. */
export function commandFor(code: string): Command | undefined {
  const upper = code.toUpperCase();
  const plain = /^([GMT])0*(\d+)$/.exec(upper);
  return byCode.get(plain ? plain[1] + plain[2] : upper);
}

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
