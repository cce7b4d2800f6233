import { useEffect, useRef, useSyncExternalStore } from "react";

/** What is tried and not written: in words, how to write it (whether it was), and how to drop it. */
export type Unwritten = { title: string; make: () => Promise<boolean>; drop: () => void };

const all = new Set<{ current: Unwritten }>();
const watchers = new Set<() => void>();
let first: { current: Unwritten } | null = null;

function changed() {
  first = [...all][0] ?? null;
  for (const watcher of watchers) watcher();
}

/** Says that something here is tried and not written; null where nothing is. Leaving is asked about while it stands. */
export function useUnwritten(unwritten: Unwritten | null): void {
  const latest = useRef(unwritten);
  latest.current = unwritten;
  const there = unwritten !== null;
  useEffect(() => {
    if (!there) return;
    const entry = {
      get current() {
        return latest.current as Unwritten;
      },
    };
    all.add(entry);
    changed();
    return () => {
      all.delete(entry);
      changed();
    };
  }, [there]);
}

/** What is tried and not written anywhere in the studio, null where nothing is. */
export function useAnyUnwritten(): { current: Unwritten } | null {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => first,
  );
}
