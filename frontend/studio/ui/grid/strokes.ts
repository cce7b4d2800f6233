import { type At, type Block, spanOf } from "./cells";
import type { Edit, GridColumn, Line } from "./column";
import { asTabbed, tabbed } from "./tabbed";

/** Several cells changed as one, those that can't be with what is wrong, and how many of what was given found no cell. */
export type Stroke = {
  edits: Edit[];
  /** What was typed into cells that can be typed in, as text. */
  texts: { row: string; column: string; text: string; wrong: string | null }[];
  over: number;
};
type Cells<Row> = {
  lines: readonly Line<Row>[];
  columns: readonly GridColumn<Row>[];
  /** The key of a row after the last, where the grid takes more than it has. */
  beyond?: (nth: number) => string;
};

/** Text put into a cell, if it can be read there. */
export function typedInto<Row>(row: string, column: GridColumn<Row>, text: string): Stroke {
  const stroke: Stroke = { edits: [], texts: [], over: 0 };
  put(stroke, row, column, text);
  return stroke;
}

/** Pasted text over a grid: one value over all of a block, or a table of cells from the first on. */
export function pasted<Row>(text: string, block: Block, cells: Cells<Row>): Stroke {
  const stroke: Stroke = { edits: [], texts: [], over: 0 };
  const { lines, columns } = spanOf(block);
  const table = tabbed(text);
  const only = table.length === 1 && table[0]?.length === 1 ? (table[0][0] ?? "") : null;
  if (only !== null) {
    for (const line of lines) for (const column of columns) putAt(stroke, { line, column }, only, cells);
    return stroke;
  }
  const keys = linesFrom(lines[0] ?? 0, table.length, cells);
  for (const [down, given] of table.entries())
    for (const [across, value] of given.entries()) {
      const column = cells.columns[(columns[0] ?? 0) + across];
      const row = keys[down];
      if (row === undefined || !column?.read) stroke.over += 1;
      else put(stroke, row, column, value);
    }
  return stroke;
}

/** The cells of a block emptied. */
export function emptied<Row>(block: Block, cells: Cells<Row>): Stroke {
  const stroke: Stroke = { edits: [], texts: [], over: 0 };
  const { lines, columns } = spanOf(block);
  for (const line of lines) for (const column of columns) putAt(stroke, { line, column }, "", cells);
  return stroke;
}

/** A block filled with what stands in its first line; a single cell, or line, with what stands above it. */
export function filledDown<Row>(block: Block, { lines, columns }: Cells<Row>): Stroke {
  const span = spanOf(block);
  const within = span.lines.filter((line) => isRow(lines[line]));
  const first = within[0] ?? 0;
  const above = within.length > 1 ? first : lines.findLastIndex((line, index) => index < first && isRow(line));
  const from = lines[above]?.key;
  const edits: Edit[] = [];
  for (const line of within.filter((line) => line !== above))
    for (const column of span.columns) {
      const found = columns[column];
      const row = lines[line]?.key;
      if (from !== undefined && row !== undefined && found?.edit) edits.push({ row, column: found.key, from });
    }
  return { edits, texts: [], over: 0 };
}

/** A block as text for the clipboard: tabs between cells, a line a row. */
export function copied<Row>(block: Block, { lines, columns }: Cells<Row>): string {
  const span = spanOf(block);
  return asTabbed(
    span.lines.flatMap((index) => {
      const line = lines[index];
      return line && "row" in line ? [span.columns.map((column) => columns[column]?.text?.(line.row) ?? "")] : [];
    }),
  );
}

function putAt<Row>(stroke: Stroke, at: At, text: string, { lines, columns }: Cells<Row>): void {
  const line = lines[at.line];
  const column = columns[at.column];
  if (line && column && isRow(line)) put(stroke, line.key, column, text);
}

function put<Row>(stroke: Stroke, row: string, column: GridColumn<Row>, text: string): void {
  const read = column.read?.(text);
  if (!read) return;
  stroke.texts.push({ row, column: column.key, text, wrong: "wrong" in read ? read.wrong : null });
  if ("value" in read) stroke.edits.push({ row, column: column.key, value: read.value });
}

/** Keys of so many rows from a line on, bands left out. */
function linesFrom<Row>(first: number, count: number, { lines, beyond }: Cells<Row>): string[] {
  const keys: string[] = [];
  for (let line = first; line < lines.length && keys.length < count; line += 1) {
    const found = lines[line];
    if (found && isRow(found)) keys.push(found.key);
  }
  for (let nth = 0; beyond && keys.length < count; nth += 1) keys.push(beyond(nth));
  return keys;
}

function isRow<Row>(line: Line<Row> | undefined): boolean {
  return line !== undefined && "row" in line;
}
