import { numberedLine } from "@/core/gcode/checksum";
import { tooLongToSend } from "@/core/gcode/bounds";
import { commandAt, commandLengths, countCommands, lineEndByteOf } from "@/core/gcode/transmit";
import { bytesOf } from "../helpers/programs";

const commandsOf = (text: string) => {
  const bytes = bytesOf(text);
  const end = lineEndByteOf(bytes);
  const found: string[] = [];
  for (let at = 0; at < bytes.length;) {
    const { text: command, next } = commandAt(bytes, at, end);
    if (command !== "") found.push(command);
    at = next;
  }
  expect(countCommands(bytes, end)).toBe(found.length);
  return found;
};

test("a program goes out as its commands: comments, numbers and checksums of its own stay behind", () => {
  expect(commandsOf("; top\nN12 G28*20\nG1 X5 ; there\n\n  M84\nN13\nM117 N5 is text\n")).toEqual([
    "G28",
    "G1 X5",
    "M84",
    "M117 N5 is text",
  ]);
  // `N5 G28*22`: common, from memory.
  expect(numberedLine(5, commandsOf("N12 G28*20\n")[0])).toBe("N5 G28*22");
});

test.each(["\n", "\r\n", "\r"])("whatever ends its lines (%j)", (lineEnd) => {
  expect(commandsOf(["G28", "; note", "G1 X5", "M84", ""].join(lineEnd))).toEqual(["G28", "G1 X5", "M84"]);
});

test("comments in brackets and counters of its own stay behind, too", () => {
  expect(commandsOf("(note)\nM110 N0\nN4 M110\nm110 n7\n(open\nM1101\n(a) G28\n(a) (b) ; c\n")).toEqual([
    "M1101",
    "(a) G28",
  ]);
});

test("a command longer than a printer takes is told with its line", () => {
  const bytes = bytesOf(`G28\n; ${"x".repeat(9000)}\nM117 ${"(".repeat(80_000)}\n`);
  expect(tooLongToSend(commandLengths(bytes))).toBe("Line 3 is 80005 characters long; a printer takes 500 at most.");
  expect(tooLongToSend(commandLengths(bytesOf("G28\n")))).toBeNull();
});
