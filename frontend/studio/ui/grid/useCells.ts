import { useMemo, useRef, useState } from "react";
import { type At, type Block, HEAD, stop } from "./cells";
import type { GridColumn, Line } from "./column";

/** A cell by its row and column, so that it is the same one when rows come and go; a row of null is the head. */
type Held = { row: string | null; column: string; line: number };

/**
 * Which cell is at hand and which are chosen with it. Where the row at hand goes, the one that comes into its place is at
 * hand; where a row of what is chosen goes, nothing more is chosen.
 */
export function useCells<Row>(lines: readonly Line<Row>[], columns: readonly GridColumn<Row>[]) {
  const [held, setHeld] = useState<Held | null>(null);
  const [chosen, setChosen] = useState<{ from: Held; to: Held } | null>(null);
  const wanted = useRef(false);
  const index = useMemo(() => new Map(lines.map(({ key }, line) => [key, line])), [lines]);
  const isBand = (line: number) => "band" in (lines[line] as Line<Row>);
  const columnOf = (key: string) => columns.findIndex((column) => column.key === key);
  const first = Math.max(
    0,
    columns.findIndex(({ frozen }) => !frozen),
  );

  function lineOf({ row, line }: Held): number {
    if (row === null) return HEAD;
    return index.get(row) ?? stop(Math.min(line, lines.length - 1), 1, { lines: lines.length, isBand });
  }
  const at: At = held
    ? { line: lineOf(held), column: Math.max(0, columnOf(held.column)) }
    : { line: stop(0, 1, { lines: lines.length, isBand }), column: first };
  const there = ({ row, column }: Held): At | null => {
    const line = row === null ? undefined : index.get(row);
    return line === undefined || columnOf(column) < 0 ? null : { line, column: columnOf(column) };
  };
  const from = chosen && there(chosen.from);
  const to = chosen && there(chosen.to);
  const block: Block | null = from && to ? { from, to } : null;
  const holdOf = ({ line, column }: At): Held => ({
    row: line === HEAD ? null : (lines[line]?.key ?? null),
    column: columns[column]?.key ?? "",
    line,
  });

  /** To another cell, which gets the focus; the block that was chosen is let go, or grows as far. */
  function go(next: At, grows = false, focus = true): void {
    wanted.current = focus;
    if (grows && next.line !== HEAD && at.line !== HEAD)
      setChosen((old) => ({ from: old?.from ?? holdOf(at), to: holdOf(next) }));
    else setChosen(null);
    setHeld(holdOf(next));
  }
  /** To a row that comes with what is written just now; to the last until it does. */
  function awaited(row: string): void {
    wanted.current = true;
    setChosen(null);
    setHeld({ ...holdOf(at), row, line: lines.length });
  }
  return {
    at,
    block,
    await: awaited,
    /** The block, or the cell at hand as one. */
    span: block ?? { from: at, to: at },
    go,
    clear: () => setChosen(null),
    index,
    isBand,
    columnOf,
    /** Whether the focus is to follow; it is asked once. */
    takeWanted: () => {
      const was = wanted.current;
      wanted.current = false;
      return was;
    },
    want: () => {
      wanted.current = true;
    },
  };
}
