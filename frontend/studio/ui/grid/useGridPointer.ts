import { type FocusEvent, type MouseEvent, useRef } from "react";
import { flushSync } from "react-dom";
import type { At } from "./cells";
import { act, type Shared } from "./useGridKeys";

/** Presses and pulls in a grid: a press puts a cell at hand, one more edits it, Shift or a pull chooses a block. */
export function useGridPointer<Row>(shared: Shared<Row>) {
  const { props, cells, edit, box } = shared;
  const latest = useRef(shared);
  latest.current = shared;
  /** Where a pull began, and whether that cell was at hand already. */
  const pull = useRef<{ from: At; again: boolean; grown: boolean } | null>(null);

  function whereOf(target: EventTarget): At | null {
    const found = target as HTMLElement;
    if (!box.current?.contains(found) || found.closest(".cell-box, .pull")) return null;
    const cell = found.closest<HTMLElement>("[data-line]");
    return cell ? { line: Number(cell.dataset.line), column: Number(cell.dataset.column) } : null;
  }
  const isAt = ({ line, column }: At) => line === cells.at.line && column === cells.at.column;

  function onMouseDown(event: MouseEvent) {
    const where = event.button === 0 ? whereOf(event.target) : null;
    // A row is pulled by its grip, not chosen.
    if (!where || where.line < 0 || (event.target as HTMLElement).closest(".grip")) return;
    const within = box.current?.contains(document.activeElement) ?? false;
    pull.current = { from: where, again: within && isAt(where) && !cells.block, grown: event.shiftKey };
    if (event.shiftKey) event.preventDefault();
    cells.go(where, event.shiftKey);
  }
  function onMouseOver(event: MouseEvent) {
    // A pull that ended elsewhere is over.
    if (event.buttons !== 1) pull.current = null;
    const where = pull.current && whereOf(event.target);
    if (!where || where.line < 0 || !pull.current) return;
    if (!pull.current.grown && where.line === pull.current.from.line && where.column === pull.current.from.column)
      return;
    pull.current.grown = true;
    document.getSelection()?.removeAllRanges();
    cells.go(where, true);
  }
  function onClick(event: MouseEvent) {
    const where = whereOf(event.target);
    const began = pull.current;
    pull.current = null;
    if (!where || where.line < 0 || began?.grown || event.shiftKey) return;
    // What can be pressed in a cell is pressed by the press itself.
    if ((event.target as HTMLElement).closest("a, button, input")) return;
    // A press may come without its parts, from what reads the screen.
    if (!isAt(where)) flushSync(() => cells.go(where));
    if (props.columns[where.column]?.quick || began?.again) act(latest.current);
  }
  function onDoubleClick(event: MouseEvent) {
    const where = whereOf(event.target);
    if (where && where.line >= 0 && !edit.open && !props.columns[where.column]?.quick) edit.begin(null);
  }
  function onFocus(event: FocusEvent) {
    const where = whereOf(event.target);
    if (!where) return;
    // Whatever brought the focus here, this is the cell at hand now.
    if (!isAt(where)) cells.go(where, false, false);
    const line = props.lines[where.line];
    const column = props.columns[where.column];
    if (line && column && "row" in line) props.onHere?.(line.row, column);
  }
  return { onMouseDown, onMouseOver, onClick, onDoubleClick, onFocus };
}
