import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, data, type Problem, type Refused, type Schemas } from "../../../api/client";
import { useSaving } from "../../../state/saving";
import type { Edit, Read } from "../../../ui/grid/column";
import type { Why } from "../../../ui/grid/useStrokes";

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

/** The variants of a product, and the one way to write them: any number of rows in one stroke. A write gives why it is refused. */
export function useVariants(product: number) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const asked = askVariants(product);
  const grid = useQuery(asked).data;
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
    let why: Why | null = null;
    const onRefused = ({ problem }: Refused) => {
      why = whyOf(problem);
    };
    return save(write, { noun: "variant", done, onRefused }).then(() => why as Why | null);
  }
  return { grid, put };
}

/** Why variants are refused, at the cells that are at fault. */
function whyOf(problem: Problem): Why {
  const cells = [problem, ...(problem.also ?? [])].flatMap(({ message, help, where: [part, row, column] }) =>
    part === "edits" && column !== undefined
      ? [{ row: String(row), column: String(column), why: `${message}. ${help}` }]
      : [],
  );
  return { why: `${problem.message}. ${problem.help}`, cells };
}

/** Changes of cells as those of rows; what is taken from another row is what stands there now. */
export function editsOf(edits: readonly Edit[], now: Grid): RowEdit[] {
  const rows = new Map(now.rows.map((row) => [String(row.id), row]));
  const found = new Map<string, RowEdit>();
  for (const edit of edits) {
    const row = rows.get(edit.row);
    const from = "from" in edit ? rows.get(edit.from) : undefined;
    if (!row || ("from" in edit && !from)) continue;
    const held = edit.column === STOCK ? (from?.stock ?? null) : (from?.cells[edit.column]?.typed ?? "");
    const change = found.get(edit.row) ?? { id: row.id, values: {} };
    change.values[edit.column] = "from" in edit ? held : edit.value;
    found.set(edit.row, change);
  }
  return [...found.values()];
}

/** A typed stock: a whole number, nothing where it is not counted, or what is wrong with it. */
export function readStock(text: string): Read {
  const digits = text.trim();
  if (digits === "") return { value: null };
  return /^-?\d{1,10}$/.test(digits)
    ? { value: Number(digits) }
    : { wrong: `“${digits.slice(0, 20)}” is no stock: it is a whole number, or empty where it is not counted` };
}
