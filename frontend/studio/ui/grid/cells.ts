/** A cell by its line and column; the head is the line before the first. */
export type At = { line: number; column: number };
export type Block = { from: At; to: At };
export const HEAD = -1;

/** What moving needs to know of a grid: its size, how many lines fit into sight, and which are no stop. */
export type Bounds = { lines: number; columns: number; page: number; isBand: (line: number) => boolean; head: boolean };
type Pressed = { key: string; ctrlKey: boolean; metaKey: boolean; altKey: boolean };

/** Where a key leads from a cell, or null where it leads nowhere. */
export function moved(pressed: Pressed, at: At, bounds: Bounds): At | null {
  if (pressed.altKey) return null;
  const all = pressed.ctrlKey || pressed.metaKey;
  const last = bounds.columns - 1;
  switch (pressed.key) {
    case "ArrowUp":
      return down(at, all ? -bounds.lines : -1, bounds);
    case "ArrowDown":
      return down(at, all ? bounds.lines : 1, bounds);
    case "ArrowLeft":
      return { ...at, column: all ? 0 : Math.max(0, at.column - 1) };
    case "ArrowRight":
      return { ...at, column: all ? last : Math.min(last, at.column + 1) };
    case "PageUp":
      return down(at, -bounds.page, bounds);
    case "PageDown":
      return down(at, bounds.page, bounds);
    case "Home":
      return { line: all ? stop(0, 1, bounds) : at.line, column: 0 };
    case "End":
      return { line: all ? stop(bounds.lines - 1, -1, bounds) : at.line, column: last };
    default:
      return null;
  }
}

/** So many lines further down, bands left out; the head is reached by a step up from the first line alone. */
function down(at: At, by: number, bounds: Bounds): At {
  const first = stop(0, 1, bounds);
  const last = stop(bounds.lines - 1, -1, bounds);
  if (by === -1 && at.line === first && bounds.head) return { ...at, line: HEAD };
  if (at.line === HEAD) return by > 0 ? { ...at, line: first } : at;
  const line = Math.max(first, Math.min(last, at.line + by));
  return { ...at, line: stop(line, by < 0 ? -1 : 1, bounds) };
}

/** The nearest line that is no band, looking one way first and then the other; the head where there is none. */
export function stop(line: number, way: 1 | -1, { lines, isBand }: Pick<Bounds, "lines" | "isBand">): number {
  for (const step of [way, -way])
    for (let found = line; found >= 0 && found < lines; found += step) if (!isBand(found)) return found;
  return HEAD;
}

export function holds(block: Block | null, line: number, column: number): boolean {
  return (
    block !== null &&
    between(line, block.from.line, block.to.line) &&
    between(column, block.from.column, block.to.column)
  );
}

/** The lines and columns of a block, each from its first to its last. */
export function spanOf({ from, to }: Block): { lines: number[]; columns: number[] } {
  return { lines: range(from.line, to.line), columns: range(from.column, to.column) };
}

function range(a: number, b: number): number[] {
  const first = Math.min(a, b);
  return Array.from({ length: Math.abs(a - b) + 1 }, (_, index) => first + index);
}

function between(value: number, a: number, b: number): boolean {
  return value >= Math.min(a, b) && value <= Math.max(a, b);
}
