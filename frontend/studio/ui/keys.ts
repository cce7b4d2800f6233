import { useEffect, useRef } from "react";

export type Keys = Record<string, (event: KeyboardEvent) => void>;

const TYPING = "input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable=true]";

/** Whether a key press is typing, or belongs to something floating on top. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return Boolean(target?.closest?.(TYPING)) || Boolean(document.querySelector("[data-floating]"));
}

/** The name of a key press, such as `n`, `?`, `escape`, `ctrl+k`. */
export function keyName(event: KeyboardEvent): string {
  const name = event.key.toLowerCase();
  if (!event.ctrlKey && !event.metaKey) return name;
  return event.shiftKey ? `ctrl+shift+${name}` : `ctrl+${name}`;
}

/** Listen to single keys while nothing is being typed. Names with `ctrl+` work anywhere but undo and redo, which text boxes keep. */
export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    function press(event: KeyboardEvent) {
      if (event.defaultPrevented || event.altKey) return;
      const name = keyName(event);
      const act = latest.current[name];
      if (!act) return;
      const everywhere = name.startsWith("ctrl+") && !name.endsWith("z");
      const takesBack = name.startsWith("ctrl+") && (event.target as HTMLElement | null)?.closest?.("select");
      if (!everywhere && !takesBack && isTyping(event)) return;
      event.preventDefault();
      act(event);
    }
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

/** Move focus along the items of a list or grid with the arrows, Home and End. Items carry `data-item`. */
export function moveFocus(event: React.KeyboardEvent<HTMLElement>): void {
  const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, Home: -Infinity, End: Infinity };
  const step = steps[event.key];
  if (step === undefined || event.altKey) return;
  const items = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-item]")];
  const at = items.indexOf((event.target as HTMLElement).closest<HTMLElement>("[data-item]") as HTMLElement);
  const to = items[Math.max(0, Math.min(items.length - 1, at + step))];
  if (!to) return;
  event.preventDefault();
  to.focus();
  to.scrollIntoView({ block: "nearest" });
}
