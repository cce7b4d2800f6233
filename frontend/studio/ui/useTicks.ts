import { useRef, useState } from "react";

/** Rows ticked among those that are there: one by one, or with Shift all from the last one on. */
export function useTicks(keys: readonly string[]) {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<string | null>(null);
  const ticked = new Set(keys.filter((key) => marked.has(key)));
  function tick(key: string, range: boolean): void {
    const on = !marked.has(key);
    const from = last.current === null ? -1 : keys.indexOf(last.current);
    const to = keys.indexOf(key);
    last.current = key;
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    const among = range && from >= 0 ? keys.slice(low, high + 1) : [key];
    const next = new Set(marked);
    for (const other of among) {
      if (on) next.add(other);
      else next.delete(other);
    }
    setMarked(next);
  }
  const clear = () => {
    last.current = null;
    setMarked(new Set());
  };
  return { ticked, tick, clear, all: () => setMarked(new Set(keys)) };
}
