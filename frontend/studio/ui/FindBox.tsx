import { type RefObject, useEffect, useRef, useState } from "react";
import { useKeys } from "./keys";

type Props = {
  label: string;
  className?: string;
  /** What is looked for by now, as the address or the list has it. */
  text: string;
  onText: (text: string) => void;
  /** Milliseconds that a question to the server waits for more letters. */
  after?: number;
  /** The list that is found in: down goes into it, Enter opens the first of it. */
  list?: RefObject<HTMLElement | null>;
  /** Whether the list shows what is found by `text` already. */
  settled?: boolean;
  /** The key that goes to it. */
  letter?: string;
  /** Where what is found is no list of presses: how the first of it is gone to, by Enter or down. */
  onGo?: () => void;
};

/**
 * A box to find in a list by words. What is typed is the box's own: the list and the address follow it, and what they say
 * is taken only while nobody types. Its letter goes to it; Enter waits for what is found.
 */
export function FindBox({
  label,
  className = "input",
  text,
  onText,
  after = 0,
  list,
  settled = true,
  letter = "/",
  onGo,
}: Props) {
  const box = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState(text);
  const put = useRef(text);
  const [opening, setOpening] = useState(false);
  useKeys({ [letter]: () => box.current?.focus() });
  useEffect(() => {
    if (document.activeElement === box.current) return;
    put.current = text;
    setTyped(text);
  }, [text]);
  const latest = useRef(onText);
  latest.current = onText;
  useEffect(() => {
    if (typed === put.current) return;
    const send = () => {
      put.current = typed;
      latest.current(typed);
    };
    if (after === 0) return send();
    const timer = setTimeout(send, after);
    return () => clearTimeout(timer);
  }, [typed, after]);
  const items = () => [...(list?.current?.querySelectorAll<HTMLElement>("[data-item]") ?? [])];
  const found = settled && typed === text;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was asked for is opened once it is found
  useEffect(() => {
    if (!opening || !found) return;
    setOpening(false);
    if (onGo) onGo();
    else items()[0]?.click();
  }, [opening, found]);
  function press(event: React.KeyboardEvent) {
    if (event.key === "Escape") {
      // Browsers would empty it.
      event.preventDefault();
      box.current?.blur();
    }
    if (event.key === "Enter" && (list || onGo) && typed.trim() !== "") {
      event.preventDefault();
      setOpening(true);
    }
    if (event.key === "ArrowDown" && (onGo || items()[0])) {
      event.preventDefault();
      if (onGo) onGo();
      else items()[0]?.focus();
    }
  }
  return (
    <input
      ref={box}
      type="search"
      className={className}
      aria-label={label}
      placeholder={`${label}   ${letter.toUpperCase()}`}
      value={typed}
      autoComplete="off"
      onChange={(event) => {
        setOpening(false);
        setTyped(event.target.value);
      }}
      onKeyDown={press}
    />
  );
}
