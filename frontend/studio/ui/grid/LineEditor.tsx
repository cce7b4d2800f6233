import { type HTMLAttributes, useEffect, useLayoutEffect, useRef, useState } from "react";
import { Input, TextArea } from "../inputs";
import type { Editing, Then } from "./column";
import { isBlock } from "./tabbed";

type Props = {
  editing: Editing;
  mono?: boolean;
  /** Whether it takes more lines than one: Shift with Enter begins the next. */
  lines?: boolean;
  inputMode?: HTMLAttributes<HTMLInputElement>["inputMode"];
};

/** A line typed in a cell: Enter goes on below, Tab beside, Esc puts back what stood; leaving it any other way keeps it. */
export function LineEditor({ editing, mono, lines, inputMode }: Props) {
  const [text, setText] = useState(editing.start ?? editing.text);
  const box = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  const { start } = editing;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it takes the focus once, as it comes
  useLayoutEffect(() => {
    box.current?.focus({ preventScroll: true });
    if (start === null) box.current?.select();
    else box.current?.setSelectionRange(start.length, start.length);
  }, []);
  const now = useRef({ text, editing, ended: false });
  now.current.text = text;
  now.current.editing = editing;
  function end(then: Then, keep = true) {
    const { ended, text, editing } = now.current;
    if (ended) return;
    now.current.ended = true;
    if (keep && (text !== editing.text || editing.refused)) editing.type(text, then);
    else editing.leave(then);
  }
  const last = useRef(end);
  last.current = end;
  // A row that goes while it is typed in keeps what was typed.
  useEffect(() => () => last.current(null), []);
  function press(event: React.KeyboardEvent) {
    const then = { Enter: event.shiftKey ? "up" : "down", Tab: event.shiftKey ? "left" : "right", Escape: "stay" }[
      event.key
    ] as Then | undefined;
    if (!then || event.nativeEvent.isComposing || (lines && event.key === "Enter" && event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
    end(then, event.key !== "Escape");
  }
  function paste(event: React.ClipboardEvent) {
    const given = event.clipboardData.getData("text/plain");
    if (!isBlock(given) || (lines && !given.includes("\t"))) return;
    event.preventDefault();
    event.stopPropagation();
    now.current.ended = true;
    editing.paste(given);
  }
  const shared = {
    ref: box,
    className: `cell-box ${mono ? "font-mono" : ""}`,
    "aria-label": editing.label,
    autoComplete: "off",
    value: text,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
    onKeyDown: press,
    onPaste: paste,
    onBlur: () => end(null),
  };
  return lines ? <TextArea rows={4} {...shared} /> : <Input inputMode={inputMode} {...shared} />;
}
