import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../../api/client";
import { useSaving } from "../../../state/saving";
import { tabbed } from "../../../ui/grid/tabbed";

export type Grid = Schemas["VariantGridOut"];
export type GridRow = Schemas["GridRowOut"];
/** Values as typed by field; stock stands under STOCK. */
export type RowEdit = { id: number; values: Record<string, unknown> };
export const STOCK = "stock:";

export function askVariants(product: number) {
  return queryOptions({
    queryKey: ["variants", product],
    queryFn: () => data(client.GET("/api/products/{number}/variants", { params: { path: { number: product } } })),
  });
}

/** The variants of a product, and the one way to write them: any number of rows in one stroke. */
export function useVariants(product: number) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const asked = askVariants(product);
  const grid = useQuery(asked).data;
  const [wrong, setWrong] = useState<string | null>(null);

  /** Write edits, as given or made of the grid as it stands when their turn comes. */
  function put(given: readonly RowEdit[] | ((now: Grid) => readonly RowEdit[]), done?: string) {
    const write = async () => {
      const now = queries.getQueryData(asked.queryKey) as Grid;
      const edits = typeof given === "function" ? given(now) : given;
      const rows = new Map(now.rows.map((row) => [row.id, row]));
      const body: Schemas["VariantsIn"] = { edits: [], stocks: [] };
      for (const edit of edits) {
        const row = rows.get(edit.id);
        if (!row) continue;
        const { [STOCK]: stock, ...values } = edit.values;
        if (Object.keys(values).length > 0) body.edits?.push({ id: row.id, version: row.version, values });
        if (STOCK in edit.values)
          body.stocks?.push({ id: row.id, expected: row.stock ?? null, amount: (stock as number | null) ?? null });
      }
      const answer = await data(
        client.PATCH("/api/products/{number}/variants", { params: { path: { number: product } }, body }),
      );
      // What a write answered stands: the next goes on from its versions and stock.
      await queries.cancelQueries({ queryKey: asked.queryKey });
      queries.setQueryData(asked.queryKey, answer);
      return answer;
    };
    return save(write, {
      noun: "variant",
      done,
      onRefused: ({ problem }) => setWrong(`${problem.message}. ${problem.help}`),
    }).then((answer) => {
      if (answer) setWrong(null);
      return answer;
    });
  }
  return { grid, put, wrong, setWrong };
}

/** A typed stock: a whole number, nothing where it is not counted, or what is wrong with it. */
export function readStock(text: string): { amount: number | null } | { wrong: string } {
  const digits = text.trim();
  if (digits === "") return { amount: null };
  return /^-?\d{1,10}$/.test(digits)
    ? { amount: Number(digits) }
    : { wrong: `“${digits.slice(0, 20)}” is no stock: it is a whole number, or empty where it is not counted` };
}

/** A pasted block laid over the grid from a cell: rows by lines, columns by tabs; what hangs over is counted. */
export function pasted(
  text: string,
  rows: readonly GridRow[],
  columns: readonly string[],
  at: { row: number; column: string },
): { edits: RowEdit[]; over: number; wrong: string | null } {
  const first = columns.indexOf(at.column);
  const edits: RowEdit[] = [];
  let over = 0;
  let wrong: string | null = null;
  for (const [down, line] of tabbed(text).entries()) {
    const row = rows[at.row + down];
    const values: Record<string, unknown> = {};
    for (const [right, cell] of line.entries()) {
      const column = columns[first + right];
      if (!row || !column) {
        over += 1;
        continue;
      }
      if (column === STOCK) {
        const read = readStock(cell);
        if ("wrong" in read) wrong ??= read.wrong;
        else values[column] = read.amount;
      } else values[column] = cell;
    }
    if (row && Object.keys(values).length > 0) edits.push({ id: row.id, values });
  }
  return { edits, over, wrong };
}
