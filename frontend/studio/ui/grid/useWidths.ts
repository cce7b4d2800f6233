import {
  type ColumnSizingState,
  columnPinningFeature,
  columnResizingFeature,
  columnSizingFeature,
  tableFeatures,
  type Updater,
  useTable,
} from "@tanstack/react-table";
import { useCallback, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import type { GridColumn } from "./column";

const FEATURES = tableFeatures({ columnPinningFeature, columnResizingFeature, columnSizingFeature });
const NO_ROWS: object[] = [];
const NARROWEST = 44;
const WIDEST = 900;
const STEP = 16;

/** A column as it stands: how wide, how far from the side, and what a pull on its edge does. */
export type Placed = { size: number; start: number; frozen: boolean; pull: (event: unknown) => void };

/**
 * How wide columns are: as they say, until somebody pulls at one; that is remembered under the grid's name. The column that
 * grows takes what is left of the room.
 */
export function useWidths<Row>(id: string, columns: readonly GridColumn<Row>[], room: number) {
  const [columnSizing, setSizing] = useState<ColumnSizingState>(() => remembered(id));
  const put = useCallback(
    (change: Updater<ColumnSizingState>) =>
      setSizing((old) => {
        const next = typeof change === "function" ? change(old) : change;
        localStorage.setItem(nameOf(id), JSON.stringify(next));
        return next;
      }),
    [id],
  );
  const defs = useMemo(
    () => columns.map(({ key, width }) => ({ id: key, size: width, minSize: NARROWEST, maxSize: WIDEST })),
    [columns],
  );
  const columnPinning = useMemo(
    () => ({ start: columns.filter(({ frozen }) => frozen).map(({ key }) => key), end: [] }),
    [columns],
  );
  const table = useTable({
    features: FEATURES,
    columns: defs,
    data: NO_ROWS,
    columnResizeMode: "onChange",
    state: { columnSizing, columnPinning },
    onColumnSizingChange: put,
  });
  const total = table.getTotalSize();
  const spare = Math.max(0, room - total);
  // One that somebody made wider or narrower is as wide as that.
  const growing = columns.find(({ key, grows }) => grows && columnSizing[key] === undefined)?.key;
  const headers = new Map(table.getLeafHeaders().map((header) => [header.column.id, header]));
  let start = 0;
  const placed: Placed[] = columns.map(({ key, frozen = false }) => {
    const header = headers.get(key);
    const size = (header?.getSize() ?? NARROWEST) + (key === growing ? spare : 0);
    start += size;
    const pull = (event: unknown) => {
      if (key === growing) flushSync(() => put((old) => ({ ...old, [key]: size })));
      header?.getResizeHandler()(event);
    };
    return { size, start: start - size, frozen, pull };
  });
  /** A column wider or narrower by a step. */
  const step = (key: string, by: 1 | -1) =>
    put((old) => {
      const size = placed[columns.findIndex((column) => column.key === key)]?.size ?? NARROWEST;
      return { ...old, [key]: Math.max(NARROWEST, Math.min(WIDEST, size + by * STEP)) };
    });
  // The same for as long as they are: rows are not drawn again for a scroll.
  const mark = placed.map(({ size, frozen }) => `${size}${frozen}`).join();
  const kept = useRef({ mark: "", columns, placed });
  if (kept.current.mark !== mark || kept.current.columns !== columns) kept.current = { mark, columns, placed };
  return { placed: kept.current.placed, total: start, step };
}

const nameOf = (id: string) => `widths:${id}`;

/** Widths as they were left; what is no width is left out. */
function remembered(id: string): ColumnSizingState {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(nameOf(id)) ?? "{}");
    return Object.fromEntries(
      Object.entries((kept ?? {}) as object).filter(([, size]) => typeof size === "number" && size >= NARROWEST),
    );
  } catch {
    return {};
  }
}
