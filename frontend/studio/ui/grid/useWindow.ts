import { defaultRangeExtractor, type Range, useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useCallback, useLayoutEffect, useMemo, useRef } from "react";
import { type At, HEAD } from "./cells";
import type { Placed } from "./useWidths";

type Sizes = { lines: number; sizeOf: (line: number) => number; keyOf: (line: number) => string; head: number };

/** The lines and columns near the window; what has the focus is drawn too, wherever it is scrolled. */
export function useWindow(box: RefObject<HTMLDivElement | null>, sizes: Sizes, at: At, placed: readonly Placed[]) {
  const frozen = placed.filter((column) => column.frozen);
  const side = frozen.reduce((sum, { size }) => sum + size, 0);
  const lines = useVirtualizer({
    count: sizes.lines,
    getScrollElement: () => box.current,
    estimateSize: sizes.sizeOf,
    getItemKey: sizes.keyOf,
    overscan: 8,
    scrollMargin: sizes.head,
    scrollPaddingStart: sizes.head,
    rangeExtractor: useCallback((range: Range) => withAlways(range, at.line === HEAD ? [] : [at.line]), [at.line]),
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: placed.length,
    getScrollElement: () => box.current,
    estimateSize: (index) => placed[index]?.size ?? 0,
    overscan: 2,
    scrollPaddingStart: side,
    rangeExtractor: useCallback(
      (range: Range) => withAlways(range, [...Array(frozen.length).keys(), at.column]),
      [frozen.length, at.column],
    ),
  });
  const widths = placed.map(({ size }) => size).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured anew whenever a width has changed
  useLayoutEffect(() => columns.measure(), [widths, columns]);
  const shown = columns.getVirtualItems().map(({ index }) => index);
  const kept = useRef(shown);
  if (shown.join() !== kept.current.join()) kept.current = shown;
  return {
    lines: lines.getVirtualItems(),
    height: lines.getTotalSize(),
    columns: kept.current,
    page: Math.max(1, Math.floor(((lines.scrollRect?.height ?? 0) - sizes.head) / (sizes.sizeOf(0) || 1)) - 1),
    reveal: useMemo(
      () => (to: At) => {
        if (to.line !== HEAD) lines.scrollToIndex(to.line, { align: "auto" });
        if (to.column >= frozen.length) columns.scrollToIndex(to.column, { align: "auto" });
      },
      [lines, columns, frozen.length],
    ),
  };
}

/** The indexes of a range, and some that are drawn always. */
function withAlways(range: Range, always: readonly number[]): number[] {
  const found = new Set(defaultRangeExtractor(range));
  for (const index of always) if (index >= 0 && index < range.count) found.add(index);
  return [...found].sort((a, b) => a - b);
}
