import { type MouseEvent, type KeyboardEvent as ReactKeyboardEvent, useCallback, useState } from "react";

export type At = { row: number; column: number };
type Block = { from: At; to: At };

/** A block of cells chosen together: Shift with arrows or a press grows it from where it began; Esc lets it go. */
export function useBlock(rows: number, columns: number) {
  const [block, setBlock] = useState<Block | null>(null);
  const grow = useCallback((from: At, to: At) => setBlock({ from, to }), []);
  const holds = (row: number, column: number) =>
    block !== null && between(row, block.from.row, block.to.row) && between(column, block.from.column, block.to.column);
  function press(event: MouseEvent, at: At, last: At | null): boolean {
    if (!event.shiftKey || !last) {
      setBlock(null);
      return false;
    }
    event.preventDefault();
    grow(block?.from ?? last, at);
    return true;
  }
  function key(event: ReactKeyboardEvent, at: At): At | null {
    const step = STEPS[event.key];
    if (!step || !event.shiftKey) return null;
    event.preventDefault();
    const from = block?.from ?? at;
    const end = block?.to ?? at;
    const to = {
      row: clamp(end.row + step[0], rows),
      column: clamp(end.column + step[1], columns),
    };
    grow(from, to);
    return to;
  }
  return { block, holds, press, key, grow, clear: () => setBlock(null) };
}

const STEPS: Record<string, readonly [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};

function clamp(value: number, count: number): number {
  return Math.max(0, Math.min(count - 1, value));
}

function between(value: number, a: number, b: number): boolean {
  return value >= Math.min(a, b) && value <= Math.max(a, b);
}
