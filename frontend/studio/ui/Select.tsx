import { type ChangeEvent, type ComponentProps, type KeyboardEvent, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useMay } from "./rights";

const MOVES = new Set(["ArrowDown", "ArrowUp", "ArrowLeft", "ArrowRight", "Home", "End", "PageUp", "PageDown"]);
/** Milliseconds after which letters begin another word. */
const WORD_ENDS = 2000;

/**
 * A list to choose one of. While it is closed no key chooses by accident: arrows open it; what is typed marks the one that
 * begins so, and is taken at Enter or when the list is left. Esc puts back what stood.
 */
export function Select({ onKeyDown, onChange, onBlur, value, className = "input", ...rest }: ComponentProps<"select">) {
  const list = useRef<HTMLSelectElement>(null);
  const typed = useRef({ word: "", at: 0 });
  const may = useMay("edit");
  const [marked, setMarked] = useState<string | null>(null);
  function take() {
    typed.current.word = "";
    if (marked === null || !list.current) return;
    setMarked(null);
    if (marked !== String(value ?? ""))
      onChange?.({ target: list.current, currentTarget: list.current } as ChangeEvent<HTMLSelectElement>);
  }
  /** Marks the one that begins with what is typed; gives whether the key was typed. */
  function type({ key, timeStamp }: KeyboardEvent): boolean {
    const { word, at } = typed.current;
    const before = timeStamp - at < WORD_ENDS ? word : "";
    if (key.length !== 1 || (key === " " && before === "")) return false;
    const options = [...(list.current?.options ?? [])].filter((option) => !option.disabled);
    const begins = (text: string) => options.find((option) => option.text.trim().toLowerCase().startsWith(text));
    const next = `${before}${key}`.toLowerCase();
    const found = begins(next);
    typed.current = { word: next, at: timeStamp };
    if (found) setMarked(found.value);
    return true;
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
    // What is marked may change what comes next: it is taken before the focus goes there.
    if (event.key === "Tab" && marked !== null) return flushSync(take);
    if (event.key === "Escape" && marked !== null) {
      event.preventDefault();
      event.stopPropagation();
      typed.current.word = "";
      return setMarked(null);
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (type(event)) return event.preventDefault();
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
      className={may ? className : `${className} plain`}
      value={marked ?? value}
      onChange={(event) => {
        setMarked(null);
        onChange?.(event);
      }}
      onKeyDown={press}
      onBlur={(event) => {
        take();
        onBlur?.(event);
      }}
      {...rest}
      disabled={!may || rest.disabled}
    />
  );
}
