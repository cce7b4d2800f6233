/** Whether pasted text is a block of cells rather than a value: it has tabs, or more lines than one. */
export function isBlock(text: string): boolean {
  return /[\t\n]/.test(text.trim());
}

/**
 * The cells of pasted text, line by line, as spreadsheets put them on the clipboard: tabs between cells, a line a row; a cell with tabs, breaks
 * or quotes of its own stands in quotes, those in it doubled. A quote that none closes is a sign like any.
 */
export function tabbed(text: string): string[][] {
  const rest = text.replace(/\r\n?/g, "\n").replace(/\n$/, "");
  const rows: string[][] = [[]];
  let at = 0;
  while (at <= rest.length) {
    const [cell, end] = cellFrom(rest, at);
    rows[rows.length - 1]?.push(cell.trim());
    if (rest[end] === "\n") rows.push([]);
    at = end + 1;
  }
  return rows;
}

const QUOTED = /"((?:[^"]|"")*)"(?=[\t\n]|$)/y;
const PLAIN = /[^\t\n]*/y;

/** The cell that begins at a place, and where it ends. */
function cellFrom(text: string, at: number): [string, number] {
  QUOTED.lastIndex = at;
  const quoted = QUOTED.exec(text);
  if (quoted) return [(quoted[1] ?? "").replaceAll('""', '"'), QUOTED.lastIndex];
  PLAIN.lastIndex = at;
  return [PLAIN.exec(text)?.[0] ?? "", PLAIN.lastIndex];
}

/** Cells as text for the clipboard, as `tabbed` reads them. */
export function asTabbed(rows: readonly (readonly string[])[]): string {
  return rows
    .map((cells) => cells.map((cell) => (/["\t\n\r]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join("\t"))
    .join("\n");
}
