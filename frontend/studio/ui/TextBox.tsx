import { type InputHTMLAttributes, useCallback, useEffect, useRef, useState } from "react";
import { useLeft } from "./leaving";

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "onChange"> & {
  value: string;
  onCommit: (text: string) => void;
  onTyping?: (text: string) => void;
  rows?: number;
  wrong?: boolean;
};

const IDLE = 2500;

/** A text box that commits when left, at Enter, or after a pause; Esc puts back what was there. */
export function TextBox({ value, onCommit, onTyping, rows, wrong, className = "", ...rest }: Props) {
  const [text, setText] = useState(value);
  const committed = useRef(value);
  const latest = useRef(text);
  const commit = useRef(onCommit);
  commit.current = onCommit;
  latest.current = text;
  const done = useCallback(() => {
    if (latest.current === committed.current) return;
    committed.current = latest.current;
    commit.current(latest.current);
  }, []);
  // What comes from outside is taken, unless something is being typed that is not committed yet.
  useEffect(() => {
    if (latest.current === committed.current) setText(value);
    committed.current = value;
  }, [value]);
  const left = useLeft();
  const standing = useRef({ value, wrong });
  standing.current = { value, wrong };
  // A change that was asked about and left is not made; what was refused stays, to be mended.
  useEffect(() => {
    if (left === 0 || standing.current.wrong || latest.current !== committed.current) return;
    committed.current = standing.current.value;
    setText(standing.current.value);
  }, [left]);
  useEffect(() => {
    if (text === committed.current) return;
    const timer = setTimeout(done, IDLE);
    return () => clearTimeout(timer);
  });
  useEffect(() => () => done(), [done]);

  const shared = {
    ...rest,
    className: `input ${wrong ? "wrong" : ""} ${className}`,
    value: text,
    "aria-invalid": wrong || undefined,
    onBlur: done,
    onChange: (event: { target: { value: string } }) => {
      setText(event.target.value);
      onTyping?.(event.target.value);
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === "Enter" && (!rows || event.ctrlKey)) done();
      if (event.key === "Escape") {
        event.stopPropagation();
        if (text === committed.current) (event.target as HTMLElement).blur();
        setText(committed.current);
        onTyping?.(committed.current);
      }
    },
  };
  if (rows) return <textarea {...(shared as object)} rows={rows} />;
  return <input autoComplete="off" {...shared} />;
}
