import type { Schemas } from "../../../api/client";
import { fieldColumn } from "../../../kinds/cells";
import type { GridColumn } from "../../../ui/grid/column";
import { LineEditor } from "../../../ui/grid/LineEditor";
import { Input } from "../../../ui/inputs";
import { number } from "../../../ui/locale";
import { type Grid, type GridRow, readStock, STOCK } from "./useVariants";

type Columns = { grid: Grid; ticked: ReadonlySet<number>; head: React.ReactNode; onTick: (row: GridRow) => void };

/** The columns of a product's variants: what they are, what they cost, how many there are, and their fields. */
export function columnsOf({ grid, ticked, head, onTick }: Columns): GridColumn<GridRow>[] {
  const fields = grid.fields.map((held) => columnOf(held));
  return [
    {
      key: "tick:",
      name: "Ticked",
      head,
      width: 44,
      frozen: true,
      quick: true,
      align: "center",
      show: (row) => (
        <Input
          type="checkbox"
          className="tick"
          tabIndex={-1}
          aria-label={`Tick ${row.name}`}
          checked={ticked.has(row.id)}
          onChange={() => onTick(row)}
        />
      ),
    },
    {
      key: "name:",
      name: grid.options.map(({ name }) => name).join(" · "),
      width: 168,
      frozen: true,
      names: true,
      show: (row) => <Name row={row} />,
      look: (row) => ({ title: row.name, wrong: row.clash || undefined }),
      text: ({ name }) => name,
    },
    {
      key: "price:",
      name: "Sells at",
      width: 80,
      align: "right",
      show: (row) => row.price ?? <span className="wrongly">no price</span>,
      text: (row) => row.price ?? "",
    },
    STOCK_COLUMN,
    ...fields,
  ];
}

const STOCK_COLUMN: GridColumn<GridRow> = {
  key: STOCK,
  name: "Stock",
  width: 84,
  align: "right",
  show: ({ stock }) => (typeof stock === "number" ? number(stock) : null),
  text: ({ stock }) => (typeof stock === "number" ? String(stock) : ""),
  read: readStock,
  edit: (_row, editing) => <LineEditor editing={editing} inputMode="numeric" />,
};

function columnOf({ field, own, made }: Schemas["GridFieldOut"]): GridColumn<GridRow> {
  return fieldColumn(field, {
    at: (row) => at(row, field, own),
    instead: made ? (row) => row.made_sku : undefined,
  });
}

function Name({ row }: { row: GridRow }) {
  return (
    <span className="min-w-0 truncate">
      {row.name}
      {row.retired && <span className="hint"> · retired: not offered now</span>}
      {row.clash && <span className="wrongly"> · {row.clash}</span>}
    </span>
  );
}

/** A row's value of a field, as editors take it. */
function at(row: GridRow, field: Schemas["Field"], own: boolean): Schemas["EditField"] {
  const cell = row.cells[field.key];
  const value = {
    state: cell ? (cell.wrong ? "wrong" : "good") : "empty",
    value: cell?.typed ?? null,
    typed: cell?.typed ?? null,
    shown: cell?.shown ?? "",
    code: null,
    message: cell?.wrong || null,
    help: null,
    faults: [],
    named: [],
  };
  const found = { field, need: "optional", own, computed: false, value, surfaces: [], example: "" };
  return found as unknown as Schemas["EditField"];
}
