import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { client, data, Refused, type Schemas } from "../api/client";
import { isTouched, placeOf } from "../api/nouns";
import { Button, counted, Dialog } from "../ui/basics";
import { Only } from "../ui/rights";

type State =
  | { word: "idle" }
  | { word: "saving" }
  | { word: "saved"; at: number; place: string }
  | { word: "failed"; why: string };
type Clash = { problem: Schemas["Problem"]; again: (version: number) => void; drop: () => void };
type Saving = {
  state: State;
  /** Run a write after those before it. Gives its answer, or null when it was refused; the refusal goes to `onRefused`. */
  save: <T>(write: () => Promise<T>, options?: Options) => Promise<T | null>;
  /** Says that something is being saved, from the press on; gives how to say that it is decided. */
  begin: () => () => void;
  /** Take back one's own last change. */
  undo: () => void;
  /** Do again what one last took back. */
  redo: () => void;
  /** Ask anew for what a write of some sort, or of several, touched; for everything when it is not said. */
  freshen: (noun?: string | readonly string[]) => Promise<void>;
  /** What was last heard of each thing: a write goes on from that, not from what a screen was drawn with. */
  latest: Map<string, unknown>;
  /** Rises with every write that went through: what the proof listens to. */
  writes: number;
  /** Rises whenever something is taken back or done again: what is said of a write may hold no more. */
  turns: number;
};
/** What is said where so much is taken back that a job does it. */
export const UNDER_WAY =
  "It touches many products, so it is done in the background: Release, Jobs shows how far it is.";

type Options = {
  /** What sort of thing is written: only questions it touches are asked anew. */
  noun?: string;
  onRefused?: (refused: Refused) => void;
  /** Write again over a version that stands, after a clash. */
  over?: (version: number) => Promise<unknown>;
  done?: string;
};

const Context = createContext<Saving | null>(null);

export function useSaving(): Saving {
  const saving = useContext(Context);
  if (!saving) throw new Error("no saving here");
  return saving;
}

const AGAIN_AFTER = 3000;

/** Write, and write again while the server can't be reached; those who wait in line behind it keep their order. */
async function untilReached<T>(write: () => Promise<T>, onOffline: () => void): Promise<T> {
  for (;;) {
    try {
      return await write();
    } catch (error) {
      if (!(error instanceof Refused) || error.problem.code !== "offline") throw error;
      onOffline();
      await new Promise((done) => setTimeout(done, AGAIN_AFTER));
    }
  }
}

/** Whether two states are one: what was written had arrived, and only the answer was lost. */
function same(yours: unknown, theirs: unknown): boolean {
  return yours !== null && yours !== undefined && stable(yours) === stable(theirs);
}

/** What is saved is told where it was done: elsewhere it is nothing of what one looks at. */
const savedAt = (place: string): State => ({ word: "saved", at: Date.now(), place });

/** Every write of the studio goes through here, one after the other, and is told in words. */
export function SavingProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [state, setState] = useState<State>({ word: "idle" });
  const [writes, setWrites] = useState(0);
  const [turns, setTurns] = useState(0);
  const [clash, setClash] = useState<Clash | null>(null);
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const waiting = useRef(0);

  const latest = useRef(new Map<string, unknown>());
  const go = useNavigate();
  const gone = useRef<(to: string) => void>(go);
  gone.current = go;

  const freshen = useCallback(
    async (noun?: string | readonly string[]) => {
      const nouns = noun === undefined || typeof noun === "string" ? [noun] : noun;
      setWrites((old) => old + 1);
      await queries.invalidateQueries({
        predicate: (query) => nouns.some((of) => isTouched(query.queryKey[0], of)),
      });
    },
    [queries],
  );

  // Undo and redo wait their turn like any write: what was done before them is there to be taken back.
  const turn = useCallback(
    (path: "/api/undo" | "/api/redo", words: string) => {
      const run = async () => {
        try {
          const taken = await untilReached(
            () => data(client.POST(path)),
            () => setState({ word: "failed", why: "the server can't be reached; it is tried again" }),
          );
          setTurns((old) => old + 1);
          if (taken.job) toast(`Under way: ${taken.name}`, { description: UNDER_WAY });
          else tellTaken(words, taken, (to) => gone.current(to));
        } catch (error) {
          if (!(error instanceof Refused)) throw error;
          toast.error(error.problem.message, { description: error.problem.help });
        }
        await freshen();
      };
      line.current = line.current.then(run, run).catch(() => undefined);
    },
    [freshen],
  );
  const undo = useCallback(() => turn("/api/undo", "Undone"), [turn]);
  const redo = useCallback(() => turn("/api/redo", "Done again"), [turn]);

  const save = useCallback(
    <T,>(write: () => Promise<T>, options: Options = {}): Promise<T | null> => {
      waiting.current += 1;
      const place = window.location.pathname;
      setState({ word: "saving" });
      const run = async (): Promise<T | null> => {
        try {
          const got = await untilReached(write, () =>
            setState({ word: "failed", why: "the server can't be reached; it is tried again" }),
          );
          waiting.current -= 1;
          if (waiting.current === 0) setState(savedAt(place));
          await freshen(options.noun);
          if (options.done) toast(options.done, { action: { label: "Undo", onClick: undo } });
          return got;
        } catch (error) {
          waiting.current -= 1;
          if (!(error instanceof Refused)) throw error;
          const problem = error.problem;
          if (problem.code === "clash" && same(problem.yours, problem.theirs)) {
            setState(savedAt(place));
            await freshen();
            return null;
          }
          setState({ word: "failed", why: problem.message });
          const over = options.over;
          if (problem.code === "clash" && over) {
            setClash({
              problem,
              again: (version) => void save(() => over(version), { noun: options.noun }),
              drop: () => setState({ word: "idle" }),
            });
          }
          if (options.onRefused) options.onRefused(error);
          else if (problem.code !== "clash" || !over)
            toast.error(problem.message, { description: problem.help, duration: 8000 });
          if (problem.code === "clash") await freshen();
          return null;
        }
      };
      const next = line.current.then(run, run);
      line.current = next.catch(() => undefined);
      return next;
    },
    [freshen, undo],
  );

  const begin = useCallback(() => {
    waiting.current += 1;
    setState((old) => (old.word === "failed" ? old : { word: "saving" }));
    return () => {
      waiting.current -= 1;
      if (waiting.current === 0) setState((old) => (old.word === "saving" ? { word: "idle" } : old));
    };
  }, []);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      (document.activeElement as HTMLElement | null)?.blur();
      if (waiting.current > 0) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, []);

  const value = useMemo(
    () => ({ state, save, begin, undo, redo, freshen, writes, turns, latest: latest.current }),
    [state, save, begin, undo, redo, freshen, writes, turns],
  );
  return (
    <Context.Provider value={value}>
      {children}
      {clash && <ClashDialog clash={clash} onClose={() => setClash(null)} />}
    </Context.Provider>
  );
}

/** Says what was taken back, or done again, and all of it; where that is not on the screen, the way there. */
function tellTaken(words: string, taken: Schemas["UndoneOut"], go: (to: string) => void) {
  const more = taken.count > 1 ? ` and ${counted(taken.count - 1, "more change")} of one stroke` : "";
  const there = placeOf(taken.noun, taken.key);
  const path = there.split("?")[0] ?? "";
  toast(`${words}: ${taken.name}${more}`, {
    description: taken.lines.slice(0, 3).join("; "),
    action:
      path === "/" || window.location.pathname.endsWith(path)
        ? undefined
        : { label: "Show it", onClick: () => go(there) },
  });
}

function ClashDialog({ clash, onClose }: { clash: Clash; onClose: () => void }) {
  const { problem } = clash;
  return (
    <Dialog open fixed onClose={onClose} title={problem.message} note="Both are kept until you choose.">
      <div className="grid grid-cols-2 gap-3">
        <Side title="Yours" lines={problem.your_lines ?? []} />
        <Side title="Theirs, as it stands" lines={problem.their_lines ?? []} />
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Button
          onClick={() => {
            clash.drop();
            onClose();
          }}
        >
          Keep theirs
        </Button>
        <Button
          look="primary"
          disabled={problem.version === null || problem.version === undefined}
          onClick={() => {
            clash.again(problem.version as number);
            onClose();
          }}
        >
          Write yours over it
        </Button>
      </div>
    </Dialog>
  );
}

/** What one side made of it, in words. */
function Side({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <section className="min-w-0">
      <h3 className="mb-1">{title}</h3>
      <ul className="max-h-60 overflow-auto rounded border border-line bg-cloth p-2">
        {lines.length === 0 && <li className="hint">as it was</li>}
        {lines.map((line) => (
          <li key={line} className="mb-1 break-words">
            {line}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** JSON with the members in one order, whatever order they came in. */
function stable(value: unknown): string {
  const sorted = (_: string, part: unknown) =>
    part !== null && typeof part === "object" && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part;
  return JSON.stringify(value, sorted);
}

/** Where saving stands, in words. */
export function Saved() {
  const { state, undo } = useSaving();
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((old) => old + 1), 5000);
    return () => clearInterval(timer);
  }, []);
  const elsewhere = state.word === "saved" && state.place !== window.location.pathname;
  if (state.word === "idle" || elsewhere) return <span className="hint">all saved</span>;
  if (state.word === "saving") return <span className="hint">saving…</span>;
  if (state.word === "failed")
    return (
      <span className="wrongly min-w-0 max-w-[44ch] truncate" title={state.why}>
        not saved: {state.why}
      </span>
    );
  return (
    <span className="hint" role="status">
      saved {ago(Date.now() - state.at)} ·{" "}
      <Only>
        <button type="button" className="link" onClick={undo}>
          undo
        </button>
      </Only>
    </span>
  );
}

/** A time past, in words. */
export function ago(milliseconds: number): string {
  const seconds = Math.max(1, Math.round(milliseconds / 1000));
  if (seconds < 60) return `${seconds} s ago`;
  if (seconds < 3600) return `${Math.round(seconds / 60)} min ago`;
  return `${Math.round(seconds / 3600)} h ago`;
}
