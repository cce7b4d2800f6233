import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, useId, useRef } from "react";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../ui/basics";
import { isBlock } from "../ui/grid/tabbed";
import { moved, SortableList, SortableRow } from "../ui/Sortable";
import type { EditorProps, KindUi } from "./base";
import { type Column, columnsOf } from "./columns";
import { kindUi } from "./registry";
import { filledDown, type Row, spread, withCell } from "./rows_grid";
import { useDraft } from "./useDraft";

/** Rows as a small grid: every cell has the editor of its column's kind. The last row is where the next one begins. */
function RowsEditor({ id, at, onFill }: EditorProps) {
  const columns = columnsOf(at.field.options.columns).filter((column) => column.key);
  const kept = Array.isArray(at.value.typed) ? (at.value.typed as Row[]) : [];
  const grid = useRef<HTMLFieldSetElement>(null);
  const { now: rows, put: putRows } = useDraft(kept, (next) =>
    onFill(next.filter((row) => Object.keys(row).length > 0)),
  );
  // Leaving a box commits what was typed in it: what follows in the same stroke begins from that.
  const put = (from: (now: Row[]) => Row[]) => void putRows(from);
  const focus = (row: number, column: number) =>
    requestAnimationFrame(() =>
      grid.current
        ?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`)
        ?.querySelector<HTMLElement>("input, textarea, select, button")
        ?.focus(),
    );

  function onPaste(event: ClipboardEvent) {
    const text = event.clipboardData.getData("text/plain");
    const cell = cellOf(event.target);
    if (!cell || !isBlock(text)) return;
    event.preventDefault();
    (event.target as HTMLElement).blur();
    put((now) => spread(now, columns, text, cell.row, cell.column));
  }
  function onKeyDown(event: KeyboardEvent) {
    const cell = cellOf(event.target);
    if (!cell) return;
    const { row, column } = cell;
    const key = columns[column]?.key ?? "";
    if (event.key === "d" && event.ctrlKey && row > 0 && rows[row - 1]?.[key] !== undefined) {
      event.preventDefault();
      put((now) => withCell(now, row, key, now[row - 1]?.[key]));
    } else if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown") && row < rows.length) {
      const to = row + (event.key === "ArrowUp" ? -1 : 1);
      if ((event.target as HTMLElement).closest(".grip") || to < 0 || to >= rows.length) return;
      event.preventDefault();
      (event.target as HTMLElement).blur();
      put((now) => moved(now, row, to));
      focus(to, column);
    } else if (event.key === "Enter" && event.target instanceof HTMLInputElement && event.target.type !== "checkbox") {
      focus(row + 1, column);
    }
  }
  const ids = rows.map((_, index) => `row ${index}`);
  const tracks = `repeat(${columns.length}, minmax(110px, 1fr)) 24px`;
  return (
    <fieldset
      ref={grid}
      className="overflow-x-auto"
      aria-labelledby={`${id}-label`}
      onPaste={onPaste}
      onKeyDown={onKeyDown}
    >
      <div className="grid gap-1.5 pb-1 pl-[28px]" style={{ gridTemplateColumns: tracks }}>
        {columns.map((column) => (
          <Head
            key={column.key}
            column={column}
            onFillDown={rows.length > 1 ? () => put((now) => filledDown(now, column.key ?? "")) : undefined}
          />
        ))}
      </div>
      <SortableList ids={ids} onMove={(from, to) => put((now) => moved(now, from, to))}>
        {[...rows, {}].map((row, index) => (
          <SortableRow
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is known by where it stands
            key={`row ${index}`}
            id={`row ${index}`}
            name={`row ${index + 1}`}
            className="!items-start border-t border-line py-1"
            disabled={index === rows.length}
            onStep={(by) => put((now) => moved(now, index, index + by))}
          >
            <div
              className={`grid min-w-0 flex-1 gap-1.5 ${index === rows.length ? "pl-[28px]" : ""}`}
              style={{ gridTemplateColumns: tracks }}
            >
              {columns.map((column, position) => (
                <Cell
                  key={column.key}
                  id={index === 0 && position === 0 ? id : undefined}
                  at={at}
                  column={column}
                  row={index}
                  position={position}
                  typed={(row as Row)[column.key ?? ""] ?? null}
                  onFill={(value) => put((now) => withCell(now, index, column.key ?? "", value))}
                />
              ))}
              {index < rows.length && (
                <button
                  type="button"
                  className="grid h-6 w-6 place-items-center rounded text-ink-2 hover:bg-woad-tint"
                  aria-label={`Take row ${index + 1} off`}
                  title={`Take row ${index + 1} off`}
                  onClick={() => put((now) => now.filter((_, other) => other !== index))}
                >
                  <X size={14} aria-hidden="true" />
                </button>
              )}
            </div>
          </SortableRow>
        ))}
      </SortableList>
      <p className="hint mt-0.5">
        A table pasted from a spreadsheet fills from the cell on. Ctrl D takes the cell above, Alt with an arrow moves
        the row.
      </p>
    </fieldset>
  );
}

function Head({ column, onFillDown }: { column: Column; onFillDown?: () => void }) {
  return (
    <span className="flex items-baseline gap-1 text-[11.5px] font-semibold text-ink-2">
      <span className="truncate" title={column.label}>
        {column.label}
      </span>
      {column.required && <span className="sr">(required)</span>}
      {onFillDown && (
        <Button look="quiet" onClick={onFillDown} title={`Fill empty cells of ${column.label} from the one above`}>
          <span aria-hidden="true">↓</span>
          <span className="sr">Fill {column.label} down</span>
        </Button>
      )}
    </span>
  );
}

type CellProps = {
  id?: string;
  at: Schemas["EditField"];
  column: Column;
  row: number;
  position: number;
  typed: unknown;
  onFill: (value: unknown) => unknown;
};

function Cell({ id, at, column, row, position, typed, onFill }: CellProps) {
  const own = useId();
  const meta = useQuery(ask.meta()).data;
  const { Editor, look } = kindUi(column.kind);
  const name = `${at.field.name}, row ${row + 1}, ${column.label}`;
  const [wrongRow, wrongColumn] = at.value.wrong_at;
  const wrong = wrongRow === row && (wrongColumn === undefined || wrongColumn === column.key);
  const field: Schemas["Field"] = {
    ...at.field,
    name,
    kind: column.kind,
    options: column.options ?? {},
    limits: column.limits ?? {},
    many: false,
  };
  const example = meta?.kinds.find(({ code }) => code === column.kind)?.example ?? "";
  const cell: Schemas["EditField"] = {
    ...at,
    field,
    example: row === 0 ? example : "",
    value: { ...at.value, typed, value: typed, wrong_at: [] },
  };
  const box = id ?? own;
  return (
    <div data-row={row} data-column={position} className="min-w-0">
      <label className="sr" htmlFor={box} id={`${own}-label`}>
        {name}
      </label>
      <Editor id={box} at={cell} wrong={wrong} onFill={onFill} onTyping={() => undefined} look={look} />
    </div>
  );
}

function cellOf(target: EventTarget): { row: number; column: number } | null {
  const cell = (target as HTMLElement).closest<HTMLElement>("[data-row]");
  return cell ? { row: Number(cell.dataset.row), column: Number(cell.dataset.column) } : null;
}

export const rows: KindUi = { code: "rows", Editor: RowsEditor, tall: () => true, wide: true };
