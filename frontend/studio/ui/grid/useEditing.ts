import { type ReactNode, useEffect, useRef, useState } from "react";
import { useMay } from "../rights";
import { moved } from "./cells";
import type { Editing, GridColumn, How, Then } from "./column";
import type { GridProps } from "./props";
import { pasted, type Stroke, typedInto } from "./strokes";
import type { useCells } from "./useCells";
import { cellOf, type Drafts } from "./useStrokes";

type Open = { row: string; column: string; start: string | null };
const WAYS: Partial<Record<NonNullable<Then>, string>> = {
  down: "ArrowDown",
  up: "ArrowUp",
  left: "ArrowLeft",
  right: "ArrowRight",
};

/** The one cell that is edited: it is the cell at hand, and what goes elsewhere leaves it. */
export function useEditing<Row>(
  props: GridProps<Row>,
  cells: ReturnType<typeof useCells<Row>>,
  write: (stroke: Stroke, how: How) => Promise<void>,
  drafts: Drafts,
) {
  const [given, setOpen] = useState<Open | null>(null);
  const may = useMay("edit");
  const line = props.lines[cells.at.line];
  const column = props.columns[cells.at.column];
  const row = line && "row" in line ? line : null;
  const open = given !== null && given.row === row?.key && given.column === column?.key;

  /** Opens the cell at hand, with what was typed over it; gives whether it is one that is edited. */
  function begin(start: string | null): boolean {
    if (!row || !column?.edit || column.edits?.(row.row) === false) return false;
    if (!may && !column.looks) return false;
    if (start !== null && !(column.read && props.put)) return false;
    setOpen({ row: row.key, column: column.key, start });
    props.onOpen?.({ row: row.key, column: column.key });
    return true;
  }
  function end(mine: Open, then: Then) {
    setOpen((old) => (old === mine ? null : old));
    props.onOpen?.(null);
    if (then === null) return;
    if (then === "down" && props.beyond && cells.at.line === props.lines.length - 1)
      return cells.await(props.beyond(0));
    const key = WAYS[then];
    const bounds = {
      lines: props.lines.length,
      columns: props.columns.length,
      page: 1,
      isBand: cells.isBand,
      head: false,
    };
    const plain = { ctrlKey: false, metaKey: false, altKey: false };
    cells.go((key && moved({ key, ...plain }, cells.at, bounds)) || cells.at);
  }
  useAsked(props, cells, given, setOpen);
  const left = given !== null && !open;
  const { onOpen } = props;
  // Another cell is at hand: what was open is left, and the caller hears it.
  useEffect(() => {
    if (!left) return;
    setOpen(null);
    onOpen?.(null);
  }, [left, onOpen]);
  /** Its editor, as its column makes it. */
  function editor(): ReactNode {
    if (!open || !given || !row || !column?.edit) return null;
    return column.edit(row.row, editingOf(given, row.key, row.row, column));
  }
  /** What stood in the cell when it was opened; unknown while an own stroke is on its way there. */
  const began = useRef<{ open: Open; text: string | undefined } | null>(null);
  function editingOf(mine: Open, key: string, of: Row, column: GridColumn<Row>): Editing {
    const draft = drafts.get(cellOf(key, column.key));
    const stands = column.text?.(of);
    if (began.current?.open !== mine) began.current = { open: mine, text: draft && !draft.wrong ? undefined : stands };
    const before = began.current.text;
    return {
      label: column.look?.(of)?.words ?? `${column.name} of ${props.nameOf(of)}`,
      start: mine.start,
      text: draft?.text ?? column.text?.(of) ?? "",
      refused: Boolean(draft?.wrong),
      type: (text, then) => {
        end(mine, then);
        const over = before !== undefined && stands !== before && stands !== text;
        const wrong = over ? `“${stands}” was written here meanwhile. Enter yours once more to write it over that` : "";
        const texts = [{ row: key, column: column.key, text, wrong }];
        void write(over ? { edits: [], texts, over: 0 } : typedInto(key, column, text), "typed");
      },
      put: (value) => write({ edits: [{ row: key, column: column.key, value }], texts: [], over: 0 }, "typed"),
      paste: (text) => {
        end(mine, "stay");
        void write(pasted(text, { from: cells.at, to: cells.at }, props), "pasted");
      },
      leave: (then) => end(mine, then),
    };
  }
  return { open, begin, editor, row, column };
}

/** Follows the caller, where that keeps which cell is open: to another, or to none. */
function useAsked<Row>(
  { open }: GridProps<Row>,
  cells: ReturnType<typeof useCells<Row>>,
  given: Open | null,
  setOpen: (open: Open | null) => void,
) {
  const line = open ? cells.index.get(open.row) : undefined;
  const column = open ? cells.columnOf(open.column) : -1;
  // Rows and columns may come after the question.
  const is = open && line !== undefined && column >= 0 ? `${open.row} ${open.column}` : undefined;
  const asked = open === null ? "" : is;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another question is followed
  useEffect(() => {
    if (asked === undefined || asked === (given ? `${given.row} ${given.column}` : "")) return;
    if (!open || line === undefined) return setOpen(null);
    cells.go({ line, column }, false, false);
    setOpen({ ...open, start: null });
  }, [asked]);
}
