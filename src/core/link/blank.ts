/** Lines without a command: printers answer them with `ok`, with nothing, or with an error, so they are never sent. */

/** Whether a line holds nothing but blanks and comments (`;` to the end, or in brackets). */
export function readBlank(text: string): boolean {
  let inBrackets = false;
  for (const letter of text) {
    if (inBrackets) inBrackets = letter !== ")";
    else if (letter === ";") return true;
    else if (letter === "(") inBrackets = true;
    else if (letter.trim() !== "") return false;
  }
  return true;
}
