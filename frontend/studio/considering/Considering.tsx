import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useRef, useState } from "react";
import { Refused } from "../api/client";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { Button, Dialog } from "../ui/basics";
import { leaveAsItWas } from "../ui/leaving";
import {
  consequencesOf,
  consequencesOfHands,
  EffectsLines,
  type Hands,
  MovesLines,
  matters,
  type Touched,
  touchedWords,
  type Wanted,
} from "./Consequences";
import { differs, VariantLines } from "./VariantLines";

/** A change that is considered before it is made. `about` names what it is of: a later one of the same takes its place. */
type Considered = {
  title: string;
  about: string;
  find: (signal: AbortSignal) => Promise<Touched>;
  go: () => unknown;
  asking: AbortController;
};
/** What it touches; null where nobody could find out, and why. */
type Shown = { of: Considered; touched: Touched | null; failed: string };
type Consider = (title: string, about: string, find: Considered["find"], go: () => unknown) => void;

const Context = createContext<Consider | null>(null);

/** Consider any change: `about` names what it is of, `find` asks what it would touch. */
export function useConsidering(): Consider {
  const consider = useContext(Context);
  if (!consider) throw new Error("no considering here");
  return consider;
}

/** Consider a change of a thing: made at once where nothing is another after it, asked about where something is. */
export function useConsider() {
  const consider = useConsidering();
  /** `wanted` is made when its turn comes, of the thing as it stands then. */
  return (title: string, wanted: Wanted | (() => Wanted), go: () => unknown, about?: string) => {
    const of = typeof wanted === "function" ? (about ?? title) : Object.keys(wanted.changes).sort().join();
    const { noun, key } = typeof wanted === "function" ? wanted() : wanted;
    const find = (signal: AbortSignal) => consequencesOf(typeof wanted === "function" ? wanted() : wanted, signal);
    consider(title, `${noun}/${key}/${about ?? of}`, find, go);
  };
}

/** Consider putting products into a thing by hand, or keeping them out: asked about where pages or variants differ. */
export function useConsiderHands() {
  const consider = useConsidering();
  return (title: string, noun: "collection" | "option_set", key: string, hands: Hands, go: () => unknown) =>
    consider(
      title,
      `hands/${noun}/${key}/${hands.to}/${(hands.ids ?? []).join()}${hands.text ?? ""}`,
      (signal) => consequencesOfHands(noun, key, hands, signal),
      go,
    );
}

/**
 * Considers changes one after the other, wherever they were made and wherever one has gone since: what an answer says is
 * used for the very change it was asked of, and for none that took its place.
 */
export function ConsideringProvider({ children }: { children: ReactNode }) {
  const { begin } = useSaving();
  const line = useRef<Considered[]>([]);
  const [shown, setShown] = useState<Shown | null>(null);
  const dialog = useRef<Shown | null>(null);
  const show = useCallback((next: Shown | null) => {
    dialog.current = next;
    setShown(next);
  }, []);

  const next = useCallback(async (): Promise<void> => {
    const [first] = line.current;
    if (!first) return;
    const mine = () => line.current[0] === first;
    const done = begin();
    const settle = (act?: () => unknown) => {
      if (!mine()) return;
      line.current.shift();
      show(null);
      act?.();
      void next();
    };
    try {
      let touched = await first.find(first.asking.signal);
      while (touched.more && !matters(touched) && mine()) touched = await touched.more();
      if (!mine()) return;
      if (!matters(touched)) return settle(first.go);
      show({ of: first, touched, failed: "" });
      while (touched.more && mine()) {
        touched = await touched.more();
        if (mine()) show({ of: first, touched, failed: "" });
      }
    } catch (error) {
      if (first.asking.signal.aborted || !mine()) return;
      if (!(error instanceof Refused)) throw error;
      const { problem, status } = error;
      // What the change itself is refused for is said where it stands; what hinders the asking is said here.
      if (status === 0 || status >= 500) show({ of: first, touched: null, failed: problem.message });
      else settle(first.go);
    } finally {
      done();
    }
  }, [begin, show]);

  const consider: Consider = useCallback(
    (title, about, find, go) => {
      const made: Considered = { title, about, find, go, asking: new AbortController() };
      const at = line.current.findIndex((other) => other.about === about && other !== dialog.current?.of);
      if (at < 0) {
        line.current.push(made);
        if (line.current.length === 1) void next();
        return;
      }
      line.current[at]?.asking.abort();
      line.current[at] = made;
      if (at === 0) void next();
    },
    [next],
  );
  const answered = (act?: () => unknown) => {
    shown?.of.asking.abort();
    line.current.shift();
    show(null);
    act?.();
    void next();
  };
  return (
    <Context.Provider value={consider}>
      {children}
      {shown && (
        <Asked
          shown={shown}
          onGo={() => answered(shown.of.go)}
          onLeave={() => answered(leaveAsItWas)}
          onAgain={() => {
            show(null);
            void next();
          }}
        />
      )}
    </Context.Provider>
  );
}

/** What a change touches, and whether it is made. */
function Asked(props: { shown: Shown; onGo: () => void; onLeave: () => void; onAgain: () => void }) {
  const { of, touched, failed } = props.shown;
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  return (
    <Dialog
      open
      onClose={props.onLeave}
      title={of.title}
      note="Nothing is changed yet, and shoppers see nothing before a release."
    >
      <Lines lines={touched?.lines ?? []} />
      {touched ? (
        touched.products > 0 && <p>{touchedWords(touched, surfaces)}.</p>
      ) : (
        <p className="wrongly" role="alert">
          What it touches could not be found out: {failed}. It can be changed all the same.
        </p>
      )}
      {touched && <MovesLines moves={touched.moves} />}
      {touched?.variants && differs(touched.variants) && <VariantLines found={touched.variants} />}
      {touched?.effects && <EffectsLines effects={touched.effects} />}
      {touched?.more && <p className="hint">Looking on…</p>}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={props.onLeave}>Leave it</Button>
        {!touched && <Button onClick={props.onAgain}>Ask again</Button>}
        <Button look="primary" onClick={props.onGo}>
          Change it
        </Button>
      </div>
    </Dialog>
  );
}

const MOST_LINES = 6;

/** The change itself, in short lines. */
function Lines({ lines }: { lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <ul className="mb-2 font-semibold">
      {lines.slice(0, MOST_LINES).map((line) => (
        <li key={line} className="break-words">
          {line}
        </li>
      ))}
      {lines.length > MOST_LINES && <li className="hint">and {lines.length - MOST_LINES} more</li>}
    </ul>
  );
}
