import { type InputHTMLAttributes, useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { Input, TextArea } from "./inputs";
import { useLeft } from "./leaving";

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "onChange"> & {
  value: string;
  /** Gives a promise where the writing of it is waited for: until then, what comes is taken for its answer. */
  onCommit: (text: string) => unknown;
  onTyping?: (text: string) => void;
  rows?: number;
  wrong?: boolean;
};

const IDLE = 2500;

/**
 * A text box that commits when left, at Enter, or after a pause; Esc puts back what was there. What others wrote into it
 * while something was being typed is shown, and nothing is written over it before one says so.
 */
export function TextBox({ value, onCommit, onTyping, rows, wrong, className = "", ...rest }: Props) {
  const [text, setText] = useState(value);
  const latest = useRef(text);
  latest.current = text;
  const { committed, theirs, setTheirs, done, send } = useCommit(value, latest, setText, onCommit);
  const [unmade, setUnmade] = useUnmade(value, wrong, latest, committed);
  useEffect(() => {
    if (text === committed.current) return;
    const timer = setTimeout(done, IDLE);
    return () => clearTimeout(timer);
  });

  const shared = {
    ...rest,
    className: `input ${wrong ? "wrong" : ""} ${className}`,
    value: text,
    "aria-invalid": wrong || undefined,
    onBlur: done,
    onChange: (event: { target: { value: string } }) => {
      if (unmade) committed.current = value;
      setUnmade(false);
      setText(event.target.value);
      onTyping?.(event.target.value);
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === "Enter" && (!rows || event.ctrlKey)) {
        if (unmade) committed.current = value;
        setUnmade(false);
        done();
      }
      if (event.key === "Escape") {
        event.stopPropagation();
        if (text === committed.current && !unmade) (event.target as HTMLElement).blur();
        if (unmade) committed.current = value;
        setUnmade(false);
        setText(committed.current);
        setTheirs(null);
        onTyping?.(committed.current);
      }
    },
  };
  function keepTheirs() {
    setText(committed.current);
    setTheirs(null);
  }
  return (
    <>
      {rows ? <TextArea {...(shared as object)} rows={rows} /> : <Input autoComplete="off" {...shared} />}
      {unmade && theirs === null && (
        <p className="hint mt-1" role="status">
          Not changed: Enter asks again, Esc puts back what stands.
        </p>
      )}
      {theirs !== null && <Meanwhile theirs={theirs} onKeep={keepTheirs} onWrite={send} />}
    </>
  );
}

/** Whether what stands in a box was asked about and left: it stays, to be gone on with, and is not made. What was refused says so itself. */
function useUnmade(
  value: string,
  wrong: boolean | undefined,
  latest: React.RefObject<string>,
  committed: React.RefObject<string>,
): [boolean, (unmade: boolean) => void] {
  const left = useLeft();
  const [unmade, setUnmade] = useState(false);
  const standing = useRef({ value, wrong });
  standing.current = { value, wrong };
  useEffect(() => {
    const { value, wrong } = standing.current;
    const open = latest.current === committed.current && latest.current !== value;
    if (left > 0 && !wrong && open) setUnmade(true);
  }, [left, latest, committed]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another value stands: nothing is open
  useEffect(() => setUnmade(false), [value]);
  return [unmade, setUnmade];
}

function Meanwhile(props: { theirs: string; onKeep: () => void; onWrite: () => void }) {
  return (
    <p className="mt-1 text-[12px]" role="status">
      {props.theirs === "" ? "It was emptied meanwhile." : `“${props.theirs}” was written here meanwhile.`}{" "}
      <button type="button" className="link" onClick={props.onKeep}>
        Keep that
      </button>{" "}
      <button type="button" className="link" onClick={props.onWrite}>
        Write yours over it
      </button>
    </p>
  );
}

/** When what is typed is committed: never over what others wrote since it was begun, unless one says so. */
function useCommit(
  value: string,
  latest: React.RefObject<string>,
  setText: (text: string) => void,
  onCommit: (text: string) => unknown,
) {
  const committed = useRef(value);
  // Something of one's own is on its way: the value that comes next is what it was answered with.
  const own = useRef(false);
  const [theirs, setTheirs] = useState<string | null>(null);
  const held = useRef<string | null>(null);
  held.current = theirs;
  const commit = useRef(onCommit);
  commit.current = onCommit;
  const send = useCallback(() => {
    setTheirs(null);
    if (latest.current === committed.current) return;
    committed.current = latest.current;
    own.current = true;
    const answer = commit.current(latest.current);
    if (answer instanceof Promise)
      void answer.finally(() => {
        own.current = false;
      });
  }, [latest]);
  const done = useCallback(() => {
    if (held.current === null) send();
  }, [send]);
  useEffect(() => {
    if (value === committed.current) {
      own.current = false;
      return;
    }
    const typing = latest.current !== committed.current;
    const foreign = typing && !own.current && latest.current.trim() !== value.trim();
    own.current = false;
    committed.current = value;
    if (!typing) setText(value);
    if (foreign) setTheirs(value);
  }, [value, latest, setText]);
  useEffect(
    () => () => {
      if (held.current === null) return done();
      const [mine, write] = [latest.current, commit.current];
      const action = { label: "Write yours", onClick: () => void write(mine) };
      toast(`“${mine}” was not written`, { description: `“${held.current}” was, meanwhile`, action, duration: 20000 });
    },
    [done, latest],
  );
  return { committed, theirs, setTheirs, done, send };
}
