import { type RefObject, useEffect, useState } from "react";

/** Brings the row marked with a key into sight, once for each key: what is open is never out of view. */
export function useReveal(sheet: RefObject<HTMLElement | null>, key: string | null | undefined, ready: boolean) {
  const [revealed, setRevealed] = useState<string | null>(null);
  useEffect(() => {
    if (!key || !ready || revealed === key) return;
    setRevealed(key);
    sheet.current?.querySelector(`[data-mark="${CSS.escape(key)}"]`)?.scrollIntoView({ block: "nearest" });
  }, [key, ready, revealed, sheet]);
}
