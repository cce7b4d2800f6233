import { useRef, useState } from "react";

/**
 * A value that is put together step by step: what was put last stands until the writing of it is answered, so that each
 * step begins from the one before, however quickly they follow.
 */
export function useDraft<T>(kept: T, onFill: (value: T) => unknown) {
  const [draft, setDraft] = useState<{ value: T } | null>(null);
  const open = useRef(0);
  const now = draft ? draft.value : kept;
  const latest = useRef(now);
  latest.current = now;

  async function put(from: (now: T) => T) {
    const next = from(latest.current);
    latest.current = next;
    setDraft({ value: next });
    open.current += 1;
    try {
      await onFill(next);
    } finally {
      open.current -= 1;
      if (open.current === 0) setDraft(null);
    }
  }
  return { now, put };
}
