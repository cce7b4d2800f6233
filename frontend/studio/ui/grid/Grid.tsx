import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useMay } from "../rights";
import { Beyond } from "./Beyond";
import { type At, HEAD, spanOf } from "./cells";
import type { Line } from "./column";
import { GridHead, GridRow } from "./GridRow";
import type { GridProps, Spot } from "./props";
import { Refused } from "./Refused";
import { useCells } from "./useCells";
import { useEditing } from "./useEditing";
import { useGridKeys } from "./useGridKeys";
import { useGridPointer } from "./useGridPointer";
import { useStrokes } from "./useStrokes";
import { useWidths } from "./useWidths";
import { useWindow } from "./useWindow";

const BAND = 28;

/**
 * Rows and columns of cells, moved in by keys, edited where they stand, chosen in blocks, copied and pasted. One stop for Tab;
 * only what is near the window is drawn.
 */
export function Grid<Row>(given: GridProps<Row>) {
  const props = useMay("edit") ? given : { ...given, put: undefined };
  const grid = useGrid(props);
  const { box, keys, pointer } = grid;
  return (
    <div className={`grid-whole ${props.most ? "" : "min-h-0 flex-1"} ${props.className ?? ""}`}>
      {/* biome-ignore lint/a11y/useSemanticElements: a table can't be drawn in part */}
      <div
        ref={box}
        role="grid"
        aria-label={props.label}
        aria-labelledby={props.labelledBy}
        aria-rowcount={props.lines.length + 1}
        aria-colcount={props.columns.length}
        aria-multiselectable="true"
        aria-readonly={props.put ? undefined : true}
        className="grid-box scroll"
        style={props.most ? { maxHeight: props.most } : undefined}
        {...keys}
        {...pointer}
      >
        <Room props={props} grid={grid} />
        {props.lines.length === 0 && props.empty}
      </div>
      <Beyond box={box} placed={grid.placed} names={props.columns.map(({ name }) => name)} />
      <Foot props={props} grid={grid} />
    </div>
  );
}

type Made<Row> = ReturnType<typeof useGrid<Row>>;
type Part<Row> = { props: GridProps<Row>; grid: Made<Row> };

/** All that a grid knows and does: its widths, what is at hand, what is near the window, strokes, keys and presses. */
function useGrid<Row>(props: GridProps<Row>) {
  const { lines, columns, lineHeight = 33, headHeight = 34 } = props;
  const box = useRef<HTMLDivElement>(null);
  const { placed, total, step } = useWidths(props.id, columns, useRoom(box));
  const cells = useCells(lines, columns);
  const { drafts, write, drop, recent } = useStrokes(props.put);
  // The same while the rows are: all of them are measured again when they are not.
  const sizes = useMemo(
    () => ({
      lines: lines.length,
      sizeOf: (index: number) => (isBand(lines[index]) ? BAND : lineHeight),
      keyOf: (index: number) => lines[index]?.key ?? String(index),
      head: headHeight,
    }),
    [lines, lineHeight, headHeight],
  );
  const view = useWindow(box, sizes, cells.at, placed);
  const cellAt = useCallback(
    ({ line, column }: At) =>
      box.current?.querySelector<HTMLElement>(`[data-line="${line}"][data-column="${column}"]`) ?? null,
    [],
  );
  const edit = useEditing(props, cells, write, drafts);
  const shared = { props, cells, view, edit, write, drop, cellAt, step, box };
  const keys = useGridKeys(shared);
  const pointer = useGridPointer(shared);
  useFocus(box, cells, edit.open, view.reveal, cellAt);
  useHere(props, cells, view.reveal);
  const focus = (row: string, column?: string) => {
    const line = cells.index.get(row);
    if (line !== undefined) cells.go({ line, column: column ? Math.max(0, cells.columnOf(column)) : cells.at.column });
  };
  useImperativeHandle(props.handle, () => ({ focus }));
  return { box, cells, drafts, recent, edit, view, placed, total, headHeight, keys, pointer, focus };
}

/** What is drawn: the heads, and the rows and columns near the window. */
function Room<Row>({ props, grid }: Part<Row>) {
  const { cells, view, edit, drafts, placed, headHeight } = grid;
  const { at } = cells;
  const span = cells.block && spanOf(cells.block);
  const [from, to] = span ? [span.columns[0] ?? 0, span.columns.at(-1) ?? 0] : [];
  // One pair for as long as it is the same: rows that are not in it are not drawn again.
  const chosen = useMemo(() => (from === undefined || to === undefined ? null : ([from, to] as const)), [from, to]);
  const shared = { shown: view.columns, columns: props.columns, placed };
  return (
    <div role="presentation" className="grid-room" style={{ width: grid.total, height: view.height + headHeight }}>
      <GridHead {...shared} at={at.line === HEAD ? at.column : null} height={headHeight} />
      {view.lines.map(({ index, start, size, key }) => {
        const line = props.lines[index];
        return (
          line && (
            <GridRow
              key={key}
              {...shared}
              line={line}
              index={index}
              top={start}
              height={size}
              at={index === at.line ? at.column : null}
              here={line.key === props.here}
              chosen={span?.lines.includes(index) ? chosen : null}
              drafts={drafts.size > 0 ? drafts : null}
              editor={edit.open && index === at.line ? edit.editor() : null}
            />
          )
        );
      })}
    </div>
  );
}

/** What is told below a grid: what is wrong, and what can be done with a block of cells. */
function Foot<Row>({ props, grid }: Part<Row>) {
  const { cells, drafts, recent } = grid;
  const { at, block } = cells;
  const span = block && spanOf(block);
  const done = () => {
    cells.clear();
    cells.want();
  };
  const hand = { row: props.lines[at.line]?.key, column: props.columns[at.column]?.key };
  const standing = wrongOf(props, hand, cells.index) ?? wrongOf(props, recent ?? {}, cells.index);
  return (
    <>
      <Refused
        drafts={drafts}
        nameOf={(row, key) => nameOf(props, cells.index, row, key)}
        onGo={grid.focus}
        standing={props.saysWrong ? null : standing}
      />
      {span && props.bar && span.lines.length * span.columns.length > 1 && (
        <div className="absolute inset-x-0 bottom-0 z-10">
          {props.bar(
            {
              rows: span.lines.flatMap((index) => rowOf(props.lines[index])),
              columns: span.columns.flatMap((index) => props.columns[index] ?? []),
            },
            done,
          )}
        </div>
      )}
    </>
  );
}

function isBand<Row>(line: Line<Row> | undefined): boolean {
  return line !== undefined && "band" in line;
}

function rowOf<Row>(line: Line<Row> | undefined): Row[] {
  return line && "row" in line ? [line.row] : [];
}

/** What a cell is called. */
function nameOf<Row>(props: GridProps<Row>, index: ReadonlyMap<string, number>, row: string, key: string): string {
  const column = props.columns.find((found) => found.key === key)?.name ?? key;
  const line = props.lines[index.get(row) ?? -1];
  return line && "row" in line ? `${column} of ${props.nameOf(line.row)}` : column;
}

/** What is wrong with what stands in a cell. */
function wrongOf<Row>(props: GridProps<Row>, { row, column: key }: Partial<Spot>, index: ReadonlyMap<string, number>) {
  const line = props.lines[index.get(row ?? "") ?? -1];
  const column = props.columns.find((found) => found.key === key);
  const wrong = line && "row" in line && column?.look?.(line.row)?.wrong;
  return wrong && row !== undefined ? { row, column: column.key, wrong } : null;
}

/** How wide the box is now. */
function useRoom(box: { current: HTMLDivElement | null }): number {
  const [room, setRoom] = useState(0);
  useLayoutEffect(() => {
    const seen = box.current;
    if (!seen) return;
    const measure = () => setRoom(seen.clientWidth);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(seen);
    return () => observer.disconnect();
  }, [box]);
  return room;
}

type Cells = ReturnType<typeof useCells>;

/** The focus follows the cell at hand, and never falls to nothing when that is drawn anew or goes. */
function useFocus(
  box: { current: HTMLDivElement | null },
  cells: Cells,
  editing: boolean,
  reveal: (at: At) => void,
  cellAt: (at: At) => HTMLElement | null,
) {
  const within = useRef(false);
  useEffect(() => {
    const seen = box.current;
    const enter = () => {
      within.current = true;
    };
    const leave = (event: FocusEvent) => {
      const to = event.relatedTarget as Node | null;
      within.current = to ? Boolean(seen?.contains(to)) : !(event.target as Node).isConnected;
    };
    seen?.addEventListener("focusin", enter);
    seen?.addEventListener("focusout", leave);
    return () => {
      seen?.removeEventListener("focusin", enter);
      seen?.removeEventListener("focusout", leave);
    };
  }, [box]);
  useLayoutEffect(() => {
    const lost = within.current && document.activeElement === document.body;
    if (editing || !(cells.takeWanted() || lost)) return;
    reveal(cells.at);
    const cell = cellAt(cells.at);
    const control = cells.at.line === HEAD ? cell?.querySelector<HTMLElement>("button, a, input") : null;
    (control ?? cell)?.focus({ preventScroll: true });
  });
}

/** Brings a row that is at hand elsewhere into sight, once for each; Tab comes to it then. */
function useHere<Row>({ here, lines, open }: GridProps<Row>, cells: Cells, reveal: (at: At) => void) {
  const shown = useRef<string | null>(null);
  useEffect(() => {
    if (!here || shown.current === here) return;
    const line = lines.findIndex(({ key }) => key === here);
    if (line < 0) return;
    shown.current = here;
    // A cell that is opened by the caller is at hand by that.
    const opened = open?.row === here ? cells.columnOf(open.column) : -1;
    const to = { line, column: opened < 0 ? cells.at.column : opened };
    if (opened < 0 && line !== cells.at.line) cells.go(to, false, false);
    reveal(to);
  }, [here, lines, open, cells, reveal]);
}
