import { type ChangeEvent, type ComponentProps, type KeyboardEvent, useRef, useState } from "react";
import { flushSync } from "react-dom";

const MOVES = new Set(["ArrowDown", "ArrowUp", "ArrowLeft", "ArrowRight", "Home", "End", "PageUp", "PageDown"]);

/**
 * A list to choose one of. While it is closed no key chooses by accident: arrows open it; what is typed marks the one that
 * begins so, and is taken at Enter or when the list is left. Esc puts back what stood.
 */
export function Select({ onKeyDown, onChange, onBlur, value, className = "input", ...rest }: ComponentProps<"select">) {
  const list = useRef<HTMLSelectElement>(null);
  const typing = useRef(false);
  const [marked, setMarked] = useState<string | null>(null);
  function take() {
    typing.current = false;
    if (marked === null || !list.current) return;
    setMarked(null);
    if (marked !== String(value ?? ""))
      onChange?.({ target: list.current, currentTarget: list.current } as ChangeEvent<HTMLSelectElement>);
  }
  function press(event: KeyboardEvent<HTMLSelectElement>) {
    onKeyDown?.(event);
    if (event.defaultPrevented) return;
    if (event.key === "Enter" && marked !== null) {
      // Who hears of the key around the list hears of it once what was marked is taken.
      event.preventDefault();
      event.stopPropagation();
      flushSync(take);
      const { key, ctrlKey, metaKey, shiftKey } = event;
      list.current?.dispatchEvent(
        new KeyboardEvent("keydown", { key, ctrlKey, metaKey, shiftKey, bubbles: true, cancelable: true }),
      );
      return;
    }
    if (event.key === "Escape" && marked !== null) {
      event.preventDefault();
      event.stopPropagation();
      typing.current = false;
      return setMarked(null);
    }
    if (event.ctrlKey || event.metaKey) return;
    typing.current = event.key.length === 1 && (event.key !== " " || typing.current);
    if (!MOVES.has(event.key)) return;
    event.preventDefault();
    try {
      event.currentTarget.showPicker?.();
    } catch {
      // A picker opens only where a person has just done something; then the press has no effect.
    }
  }
  return (
    <select
      ref={list}
      className={className}
      value={marked ?? value}
      onChange={(event) => {
        if (typing.current) return setMarked(event.target.value);
        setMarked(null);
        onChange?.(event);
      }}
      onKeyDown={press}
      onBlur={(event) => {
        take();
        onBlur?.(event);
      }}
      {...rest}
    />
  );
}
