import { useSyncExternalStore } from "react";

const watchers = new Set<() => void>();
let left = 0;

/** Tells all boxes that a change which was asked about is not made: they show again what stands. */
export function leaveAsItWas(): void {
  left += 1;
  for (const watcher of watchers) watcher();
}

/** How many changes were left; a new count each time. */
export function useLeft(): number {
  return useSyncExternalStore(watch, () => left);
}

function watch(watcher: () => void) {
  watchers.add(watcher);
  return () => {
    watchers.delete(watcher);
  };
}
