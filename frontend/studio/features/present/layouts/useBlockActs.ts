import { type RefObject, useLayoutEffect, useRef, useState } from "react";
import { useAddress, usePutAddress } from "../../../ui/address";
import { boxIn, focusOnceThere, holdKeys } from "../../../ui/focus";
import type { Lift } from "./BlockPanel";
import { copiesOf, outermost, stepOfAll } from "./several";
import { type Edit, linesOf, newIn, stepOf } from "./tree";
import type { useLayoutEdits } from "./useLayoutEdits";

const CONTROLS = "textarea, input, select, button";

/** Which blocks are picked, and all that is done with them: in the outline, on the page, and by keys. */
export function useBlockActs(
  edits: ReturnType<typeof useLayoutEdits>,
  panel: RefObject<HTMLDivElement | null>,
  can: boolean,
) {
  const { view } = edits;
  const [picked] = useAddress("block");
  const put = usePutAddress();
  const lines = linesOf(view);
  const line = lines.find(({ id }) => id === picked);
  // What is picked when an answer comes, which may be another than when it was asked for.
  const latest = useRef(picked);
  latest.current = picked;
  // What stands on the screen, not what is being worked out.
  const drawn = useRef<string | undefined>(undefined);
  useLayoutEffect(() => {
    drawn.current = line?.id;
  }, [line?.id]);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const several = marked.size > 1 ? lines.filter(({ id }) => marked.has(id)) : [];
  const chosen = several.length > 1 ? new Set(several.map(({ id }) => id)) : null;

  function pick(id: string | null) {
    if (marked.size > 0) setMarked(new Set());
    put({ block: id, part: null, pane: null });
  }
  /** Marks one more block, or all from the one that is picked on, in the order in which they are shown. */
  function mark(id: string, range: boolean, shown: readonly string[]) {
    const from = range && picked ? shown.indexOf(picked) : -1;
    const to = shown.indexOf(id);
    if (from >= 0 && to >= 0) return setMarked(new Set(shown.slice(Math.min(from, to), Math.max(from, to) + 1)));
    const next = new Set(chosen ?? (picked ? [picked] : []));
    if (next.has(id)) next.delete(id);
    else next.add(id);
    setMarked(next);
    if (next.size === 1) put({ block: [...next][0] ?? null, part: null });
  }
  async function edit(...asked: Edit[]) {
    const [before, from, focused] = [view, latest.current, document.activeElement];
    const makes = asked.some(({ op }) => op === "add" || op === "wrap");
    // What is typed before a block is there is meant for it.
    const release = makes ? holdKeys() : () => undefined;
    const now = await edits.edit(...asked);
    const fresh = now && makes ? newIn(now, before)[0] : undefined;
    if (fresh && latest.current === from) {
      pick(fresh);
      // A list that stays open for the next block keeps it.
      const free = (at: Element | null) =>
        at === null ||
        at === document.body ||
        ((at === focused || at.matches("[data-adds]")) && !at.closest("[data-floating]"));
      focusOnceThere(() => {
        if (!free(document.activeElement)) return false;
        return drawn.current === fresh ? (boxIn(panel.current) ?? lineOf(fresh)) : null;
      });
    }
    release();
    return now;
  }
  async function lift(id: string, what: Lift) {
    const [before, from] = [view, latest.current];
    const now = await edits.lift(id, what);
    if (now && latest.current === from) pick(newIn(now, before)[0] ?? null);
  }
  const step = (by: -1 | 1) => {
    const at = lines.findIndex(({ id }) => id === picked);
    const to = lines[at < 0 ? 0 : Math.max(0, Math.min(lines.length - 1, at + by))];
    if (to) pick(to.id);
  };
  const move = (id: string, by: -1 | 1) => {
    if (!can) return;
    const found = chosen?.has(id)
      ? stepOfAll(view, chosen, by)
      : [stepOf(view, id, by)].filter((step) => step !== null);
    if (found.length > 0) void edit(...found);
  };
  const remove = (id: string) => {
    if (!can) return;
    const gone = chosen?.has(id) ? outermost(view, chosen).map((other) => other.id) : [id];
    const at = lines.findIndex((other) => other.id === gone[0]);
    const rest = lines.filter((other) => !gone.includes(other.id) && !chosen?.has(other.id));
    const next = rest.filter((other) => lines.indexOf(other) < at).at(-1)?.id ?? rest[0]?.id ?? null;
    void edits.edit(...gone.map((key) => ({ op: "remove", id: key }))).then((now) => {
      if (now && (chosen || latest.current === id)) pick(next);
    });
  };
  const copy = (ids: ReadonlySet<string>) => void edit(...copiesOf(view, ids, Date.now().toString(36).slice(-6)));
  const hide = (ids: Iterable<string>, hidden: boolean) =>
    void edit(...[...ids].map((id) => ({ op: "set", id, props: { hidden: hidden || null } })));
  /** What the page in the frame was asked for by a press, a drag or a key. */
  function hear(asked: Record<string, unknown>) {
    if (typeof asked.part === "string") pick(asked.part);
    if (asked.step === 1 || asked.step === -1) step(asked.step);
    if ((asked.by === 1 || asked.by === -1) && picked) move(picked, asked.by);
    if (asked.remove && picked) remove(picked);
    if (asked.settings) panel.current?.querySelector<HTMLElement>(CONTROLS)?.focus();
    if (typeof asked.drop === "string" && can)
      void edit({ op: "move", id: asked.drop, region: String(asked.region), after: (asked.after as string) ?? null });
  }
  return { line, picked, several, chosen, pick, mark, edit, lift, move, remove, copy, hide, hear };
}

/** The line of a block in the outline. */
function lineOf(id: string): HTMLElement | null {
  return document.querySelector<HTMLElement>(`[role=option][data-mark="${CSS.escape(id)}"]`);
}
