import { tabbed } from "../ui/grid/tabbed";
import type { Column } from "./columns";

/** A row's cells by column, as typed. */
export type Row = Record<string, unknown>;

const isEmpty = (value: unknown) =>
  value === null || value === undefined || value === "" || (Array.isArray(value) && value.length === 0);

/** Rows with one cell put, or taken out where it is empty; rows up to it are there. */
export function withCell(rows: readonly Row[], row: number, key: string, value: unknown): Row[] {
  const next = rows.map((cells) => ({ ...cells }));
  while (next.length <= row) next.push({});
  const { [key]: _, ...rest } = next[row] as Row;
  next[row] = isEmpty(value) ? rest : { ...rest, [key]: value };
  return next;
}

/** Rows with a table of text put from a cell on, one line a row, tabs between cells; what reaches over is left out. */
export function spread(rows: readonly Row[], columns: readonly Column[], text: string, row: number, column: number) {
  let next = [...rows];
  tabbed(text).forEach((line, down) => {
    line.forEach((cell, across) => {
      const key = columns[column + across]?.key;
      if (key) next = withCell(next, row + down, key, cell);
    });
  });
  return next;
}

/** Rows with each empty cell of a column filled by what stands above it. */
export function filledDown(rows: readonly Row[], key: string): Row[] {
  let above: unknown;
  return rows.map((cells) => {
    if (!isEmpty(cells[key])) above = cells[key];
    return isEmpty(cells[key]) && above !== undefined ? { ...cells, [key]: above } : cells;
  });
}
