import type { ComponentProps, KeyboardEvent } from "react";

const MOVES = new Set(["ArrowDown", "ArrowUp", "ArrowLeft", "ArrowRight", "Home", "End", "PageUp", "PageDown"]);

/**
 * A list to choose one of. While it is closed no key chooses: arrows and letters open it, and Enter takes what is marked
 * there. What can't be opened by a script opens with Space, as everywhere.
 */
export function Select({ onKeyDown, className = "input", ...rest }: ComponentProps<"select">) {
  function press(event: KeyboardEvent<HTMLSelectElement>) {
    onKeyDown?.(event);
    if (event.defaultPrevented || event.ctrlKey || event.metaKey) return;
    const letter = event.key.length === 1 && event.key !== " ";
    if (!letter && !MOVES.has(event.key)) return;
    event.preventDefault();
    try {
      event.currentTarget.showPicker?.();
    } catch {
      // A picker opens only where a person has just done something; then the press has no effect.
    }
  }
  return <select className={className} onKeyDown={press} {...rest} />;
}
