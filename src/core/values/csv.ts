/** A table as CSV (RFC 4180): comma, CRLF, quotes where they are needed. */
export const csvOf = (rows: readonly (readonly string[])[]): string =>
  rows.map((row) => `${row.map(cell).join(",")}\r\n`).join("");

// A cell that begins like a formula is text to every table program; a plain number is none.
const cell = (text: string) => {
  const plain = /^\s*[=+@-]|^[\t\r\n]/.test(text) && !/^-?\d+(\.\d+)?$/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(plain) ? `"${plain.replace(/"/g, '""')}"` : plain;
};
