import { useRef, useState } from "react";

/** Rows ticked among those that are there: one by one, or with Shift all from the last one on, of those that are shown. */
export function useTicks(keys: readonly string[], shown: readonly string[] = keys) {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<string | null>(null);
  const ticked = new Set(keys.filter((key) => marked.has(key)));
  function tick(key: string, range: boolean): void {
    const on = !marked.has(key);
    const from = last.current === null ? -1 : shown.indexOf(last.current);
    const to = shown.indexOf(key);
    last.current = key;
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    const among = range && from >= 0 ? shown.slice(low, high + 1) : [key];
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
  /** Ticks some, or unticks them. */
  const put = (some: readonly string[], on: boolean) =>
    setMarked((old) => new Set([...old].filter((key) => !some.includes(key)).concat(on ? some : [])));
  return { ticked, tick, clear, put };
}
