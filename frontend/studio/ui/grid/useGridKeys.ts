import type { ClipboardEvent, KeyboardEvent, RefObject } from "react";
import { type At, HEAD, moved } from "./cells";
import type { How } from "./column";
import type { GridProps } from "./props";
import { copied, emptied, filledDown, pasted, type Stroke } from "./strokes";
import type { useCells } from "./useCells";
import type { useEditing } from "./useEditing";
import { cellOf } from "./useStrokes";

export type Shared<Row> = {
  props: GridProps<Row>;
  cells: ReturnType<typeof useCells<Row>>;
  view: { page: number };
  edit: ReturnType<typeof useEditing<Row>>;
  write: (stroke: Stroke, how: How) => Promise<void>;
  drop: (cell: string) => boolean;
  cellAt: (at: At) => HTMLElement | null;
  step: (column: string, by: 1 | -1) => void;
  box: RefObject<HTMLDivElement | null>;
};

/** Opens the cell at hand: its editor, its press, or what can be pressed in it. */
export function act<Row>({ edit, cellAt, cells }: Shared<Row>): boolean {
  const { row, column } = edit;
  if (edit.begin(null)) return true;
  if (row && column?.press) {
    column.press(row.row);
    return true;
  }
  const inner = cellAt(cells.at)?.querySelector<HTMLElement>("a, button, input");
  inner?.click();
  return Boolean(inner);
}

/** The keys of a grid, and its clipboard. What floats over a cell, and what is typed in it, keeps its own. */
export function useGridKeys<Row>(shared: Shared<Row>) {
  const { props, cells, edit, write, box } = shared;
  const isMine = (event: { target: EventTarget }) =>
    !edit.open && (box.current?.contains(event.target as Node) ?? false) && !isBox(event.target as HTMLElement);

  function onKeyDown(event: KeyboardEvent) {
    if (event.defaultPrevented || !isMine(event)) return;
    const { row, column } = edit;
    if ((row && column && props.onKey?.(event, row.row, column)) || taken(event, shared)) {
      event.preventDefault();
      event.stopPropagation();
    }
  }
  function onCopy(event: ClipboardEvent) {
    if (!isMine(event) || cells.at.line === HEAD) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", copied(cells.span, props));
  }
  function onCut(event: ClipboardEvent) {
    onCopy(event);
    if (event.defaultPrevented && props.put) void write(emptied(cells.span, props), "emptied");
  }
  function onPaste(event: ClipboardEvent) {
    if (!isMine(event) || !props.put || cells.at.line === HEAD) return;
    event.preventDefault();
    void write(pasted(event.clipboardData.getData("text/plain"), cells.span, props), "pasted");
  }
  return { onKeyDown, onCopy, onCut, onPaste };
}

/** Whether something is typed in: a grid's own boxes are its editors. */
function isBox(target: HTMLElement): boolean {
  return target.matches("input:not([type=checkbox]), textarea, select, [contenteditable=true]");
}

/** Does what a key says; gives whether it says something. */
function taken<Row>(event: KeyboardEvent, shared: Shared<Row>): boolean {
  const { props, cells, edit, write, drop, step } = shared;
  const { at } = cells;
  const column = props.columns[at.column];
  const control = event.ctrlKey || event.metaKey;
  if (event.altKey) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key] as -1 | 1 | undefined;
    if (!by || !event.shiftKey || !column) return false;
    step(column.key, by);
    return true;
  }
  const to = moved(event, at, {
    lines: props.lines.length,
    columns: props.columns.length,
    page: shared.view.page,
    isBand: cells.isBand,
    head: props.columns.some(({ head }) => head !== undefined),
  });
  if (to) {
    // A block goes on from where it ended, not from where it began.
    cells.go(to, event.shiftKey);
    return true;
  }
  if (at.line === HEAD || !column) return false;
  const cell = cellOf(props.lines[at.line]?.key ?? "", column.key);
  if (control) {
    if (event.key.toLowerCase() !== "d" || event.shiftKey || !props.put) return false;
    void write(filledDown(cells.span, props), "filled down");
    return true;
  }
  switch (event.key) {
    case "Enter":
    case "F2":
      return act(shared);
    case "Escape":
      if (!cells.block) return drop(cell);
      cells.clear();
      return true;
    case "Delete":
    case "Backspace":
      if (!props.put) return false;
      if (!drop(cell)) void write(emptied(cells.span, props), "emptied");
      return true;
    default:
      return event.key.length === 1 && event.key !== " " && edit.begin(event.key);
  }
}
