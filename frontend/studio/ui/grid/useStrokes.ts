import { useRef, useState } from "react";
import { toast } from "sonner";
import { counted } from "../basics";
import type { Edit, How } from "./column";
import type { Stroke } from "./strokes";

/** What was typed into a cell and is not answered yet, or was refused with the whole stroke it came in: it stays in its cell. */
export type Draft = { text: string; wrong: string | null; of: Stroke };
export type Drafts = ReadonlyMap<string, Draft>;
/** Why a stroke is refused: in a word for all of it, and of the cells at fault each by itself. */
export type Why = { why: string; cells: readonly { row: string; column: string; why: string }[] };
/** Writes changes as one stroke. Gives why they are refused, or nothing once they are written. */
export type Put = (edits: readonly Edit[], how: How) => Promise<string | Why | null | undefined>;

export const cellOf = (row: string, column: string) => `${row} ${column}`;

/** Strokes on their way: what was typed shows at once and stands until it is answered; what was refused is mended where it is. */
export function useStrokes(put: Put | undefined) {
  const [drafts, setDrafts] = useState<Drafts>(new Map());
  const [recent, setRecent] = useState<{ row: string; column: string } | null>(null);
  const latest = useRef({ put, drafts });
  latest.current.put = put;

  function change(work: (next: Map<string, Draft>) => void) {
    const next = new Map(latest.current.drafts);
    work(next);
    latest.current.drafts = next;
    setDrafts(next);
  }
  async function write(given: Stroke, how: How): Promise<void> {
    const stroke = how === "typed" ? withRefused(given, latest.current.drafts) : given;
    const mine = new Map<string, Draft>(
      stroke.texts.map(({ row, column, text, wrong }) => [cellOf(row, column), { text, wrong, of: stroke }]),
    );
    if (mine.size > 0)
      change((next) => {
        for (const [cell, draft] of mine) next.set(cell, draft);
      });
    if (how === "typed" && stroke.texts[0]) setRecent(stroke.texts[0]);
    if (stroke.over > 0) toast(`${counted(stroke.over, "cell")} had no place here and were left out`);
    if (stroke.edits.length === 0) return;
    const refused = await answerOf(latest.current.put?.(stroke.edits, how));
    if (refused && mine.size === 0) toast.error(refused.why);
    change((next) => {
      for (const [cell, draft] of mine) {
        // What was typed there meanwhile has an answer of its own.
        if (draft.wrong || next.get(cell) !== draft) continue;
        if (refused) next.set(cell, { ...draft, wrong: whyOf(refused, cell) });
        else next.delete(cell);
      }
    });
  }
  /** Lets go of what was typed in a cell and refused; gives whether there was something. */
  function drop(cell: string): boolean {
    if (!latest.current.drafts.get(cell)?.wrong) return false;
    change((next) => next.delete(cell));
    return true;
  }
  return {
    drafts,
    write,
    drop,
    /** The cell that was typed in last. */
    recent,
  };
}

/** Why a write is refused; one that fails some other way is not told written either. */
async function answerOf(written: ReturnType<Put> | undefined): Promise<Why | null> {
  try {
    const why = (await written) ?? null;
    return typeof why === "string" ? { why, cells: [] } : why;
  } catch {
    return { why: "It was not saved. Type it once more", cells: [] };
  }
}

/** Told at cells that nothing is wrong with. */
export const WAITS = "Not saved yet: it waits for the cell that was refused with it";

/** What is told at a cell of a stroke that was refused: its own fault, or that it waits for those at fault. */
function whyOf({ why, cells }: Why, cell: string): string {
  const own = cells.find(({ row, column }) => cellOf(row, column) === cell);
  return own?.why ?? (cells.length > 0 ? WAITS : why);
}

/** What is typed into a cell that was refused with others: they are tried once more with it. */
function withRefused(stroke: Stroke, drafts: Drafts): Stroke {
  const [typed] = stroke.texts;
  const before = typed && drafts.get(cellOf(typed.row, typed.column));
  if (!typed || !before?.wrong || before.of.texts.length < 2) return stroke;
  const waits = ({ row, column }: { row: string; column: string }) => {
    const other = drafts.get(cellOf(row, column));
    return !(row === typed.row && column === typed.column) && other?.of === before.of && other.wrong !== null;
  };
  return {
    edits: [...before.of.edits.filter(waits), ...stroke.edits],
    texts: [...before.of.texts.filter(waits), ...stroke.texts],
    over: 0,
  };
}
