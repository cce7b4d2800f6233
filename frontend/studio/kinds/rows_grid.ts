import type { Edit } from "../ui/grid/column";

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

/** A row of the grid by where it stands; the one after the last is where the next begins. */
export type Line = { index: number; cells: Row };

export const keyOf = (index: number) => `row ${index}`;

export function linesOf(rows: readonly Row[]): { key: string; row: Line }[] {
  return [...rows, {}].map((cells, index) => ({ key: keyOf(index), row: { index, cells } }));
}

/** Rows with cells put, each as given or as it stands in another row. */
export function edited(rows: readonly Row[], edits: readonly Edit[]): Row[] {
  const indexOf = (key: string) => Number(key.slice(keyOf(0).length - 1));
  return edits.reduce<Row[]>(
    (now, edit) =>
      withCell(
        now,
        indexOf(edit.row),
        edit.column,
        "from" in edit ? rows[indexOf(edit.from)]?.[edit.column] : edit.value,
      ),
    [...rows],
  );
}

/** Rows with each empty cell of a column filled by what stands above it. */
export function filledDown(rows: readonly Row[], key: string): Row[] {
  let above: unknown;
  return rows.map((cells) => {
    if (!isEmpty(cells[key])) above = cells[key];
    return isEmpty(cells[key]) && above !== undefined ? { ...cells, [key]: above } : cells;
  });
}
