import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type KeyboardEvent, useMemo, useRef } from "react";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../ui/basics";
import type { Edit, GridColumn, GridHandle } from "../ui/grid/column";
import { Grid } from "../ui/grid/Grid";
import { RowGrip, RowsMoved } from "../ui/grid/RowGrip";
import { moved } from "../ui/Sortable";
import type { EditorProps } from "./base";
import { fieldColumn } from "./cells";
import { type Column, columnsOf } from "./columns";
import { kindUi } from "./registry";
import { edited, filledDown, keyOf, type Line, linesOf, type Row } from "./rows_grid";
import { useDraft } from "./useDraft";

/** The height of rows in which something has more lines than one. */
const TALL = 62;

/** Rows as a small grid: every cell has the editor of its column's kind. The last row is where the next one begins. */
export default function RowsGrid({ id, at, onFill }: EditorProps) {
  const meta = useQuery(ask.meta()).data;
  const kept = Array.isArray(at.value.typed) ? (at.value.typed as Row[]) : [];
  const grid = useRef<GridHandle>(null);
  const { now: rows, put } = useDraft(kept, (next) => onFill(next.filter((row) => Object.keys(row).length > 0)));
  const lines = useMemo(() => linesOf(rows), [rows]);
  const columns = columnsOf(at.field.options.columns).filter((column) => column.key);

  const tall = columns.some((column) => kindUi(column.kind).tall?.(fieldOf(at, column)));

  function move(from: number, to: number, column?: string) {
    if (from >= rows.length || to < 0 || to >= rows.length) return;
    void put((now) => moved(now, from, to));
    grid.current?.focus(keyOf(to), column);
  }
  function key(event: KeyboardEvent, { index }: Line, { key: column }: GridColumn<Line>): boolean {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!by || !event.altKey) return false;
    move(index, index + by, column);
    return true;
  }
  const shown: GridColumn<Line>[] = [
    {
      key: "row:",
      name: "Row",
      width: 62,
      frozen: true,
      names: true,
      show: ({ index }) => <RowGrip index={index} fixed={index === rows.length} />,
    },
    ...columns.map((column, position) => ({
      ...fieldColumn<Line>(fieldOf(at, column), {
        key: column.key,
        name: column.label,
        width: 132,
        at: (line) => cellOf(at, column, line),
        instead: ({ index }) =>
          index === 0 ? (meta?.kinds.find(({ code }) => code === column.kind)?.example ?? "") : "",
      }),
      grows: position === 0,
      head: (
        <Head
          column={column}
          onFillDown={rows.length > 1 ? () => void put((now) => filledDown(now, column.key ?? "")) : undefined}
        />
      ),
    })),
    {
      key: "off:",
      name: "Take off",
      head: <span className="sr">Take off</span>,
      width: 44,
      align: "center",
      show: ({ index }) =>
        index < rows.length && (
          <button
            type="button"
            tabIndex={-1}
            className="grid h-6 w-6 place-items-center rounded text-ink-2 hover:bg-woad-tint"
            aria-label={`Take row ${index + 1} off`}
            title={`Take row ${index + 1} off`}
            onClick={() => void put((now) => now.filter((_, other) => other !== index))}
          >
            <X size={14} aria-hidden="true" />
          </button>
        ),
    },
  ];
  return (
    <div id={id}>
      <RowsMoved onMove={move}>
        <Grid
          id={`rows:${at.field.key}`}
          labelledBy={`${id}-label`}
          handle={grid}
          lines={lines}
          columns={shown}
          nameOf={({ index }) => `${at.field.name}, row ${index + 1}`}
          put={async (edits: readonly Edit[]) => {
            await put((now) => edited(now, edits));
            return null;
          }}
          beyond={(nth) => keyOf(rows.length + 1 + nth)}
          onKey={key}
          saysWrong
          lineHeight={tall ? TALL : undefined}
          most={420}
        />
      </RowsMoved>
      <p className="hint mt-0.5">
        A table pasted from a spreadsheet fills from the cell on. Ctrl D takes the cell above, Alt with an arrow moves
        the row.
      </p>
    </div>
  );
}

function Head({ column, onFillDown }: { column: Column; onFillDown?: () => void }) {
  return (
    <>
      <span className="truncate" title={column.label}>
        {column.label}
      </span>
      {column.required && <span className="sr">(required)</span>}
      {onFillDown && (
        <Button
          look="quiet"
          tabIndex={-1}
          onClick={onFillDown}
          title={`Fill empty cells of ${column.label} from the one above`}
        >
          <span aria-hidden="true">↓</span>
          <span className="sr">Fill {column.label} down</span>
        </Button>
      )}
    </>
  );
}

/** A column as the field that its cells are edited as. */
function fieldOf(at: Schemas["EditField"], column: Column): Schemas["Field"] {
  return {
    ...at.field,
    name: column.label,
    kind: column.kind,
    options: column.options ?? {},
    limits: column.limits ?? {},
    many: false,
  };
}

/** A cell as the value of that field, marked where it is wrong. */
function cellOf(at: Schemas["EditField"], column: Column, { index, cells }: Line): Schemas["EditField"] {
  const typed = cells[column.key ?? ""] ?? null;
  const fault = at.value.faults.find(
    ({ at: [row, key] }) => row === index && (key === undefined || key === column.key),
  );
  const state = fault ? "wrong" : typed === null ? "empty" : "good";
  const message = fault?.message ?? null;
  return {
    ...at,
    field: fieldOf(at, column),
    example: "",
    value: { ...at.value, state, message, typed, value: typed, shown: "", faults: [] },
  };
}
