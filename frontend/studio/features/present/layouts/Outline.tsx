import { Eye, EyeOff } from "lucide-react";
import { type ReactNode, useLayoutEffect, useRef } from "react";
import { Weft } from "../../../ui/basics";
import { moveFocus } from "../../../ui/keys";
import { useReveal } from "../../../ui/useReveal";
import { type Kind, nameOf, outlineOf, type Part, type View } from "./tree";

type Props = {
  view: View;
  kinds: readonly Kind[];
  picked: string | null;
  /** The part that is chosen to add to, where no block is. */
  part: string | null;
  can: boolean;
  onPart: (region: string) => void;
  onPick: (id: string) => void;
  onMove: (id: string, by: -1 | 1) => void;
  onRemove: (id: string) => void;
  onHide: (id: string, hidden: boolean) => void;
};

/** All blocks in reading order, those in parts below what holds them; what this layout does to its base is told by pattern. */
export function Outline(props: Props) {
  const { view, kinds, picked } = props;
  const list = useRef<HTMLDivElement>(null);
  useReveal(list, picked, true);
  const rows = outlineOf(view);
  const lines = rows.filter((row) => "id" in row);
  // A block that was moved by keys keeps the focus, though its row was put elsewhere.
  const moved = useRef<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each new state of the layout is what moves rows
  useLayoutEffect(() => {
    if (moved.current) list.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(moved.current)}"]`)?.focus();
    moved.current = null;
  }, [view]);
  return (
    <div
      ref={list}
      role="listbox"
      aria-label="Blocks"
      tabIndex={-1}
      className="scroll max-h-[42%] flex-none py-1"
      onKeyDown={(event) => {
        const id = (event.target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark;
        const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
        if (id && by && event.altKey) {
          event.preventDefault();
          moved.current = id;
          props.onMove(id, by as -1 | 1);
        } else if (id && event.key === " " && props.can) {
          event.preventDefault();
          props.onHide(id, lines.find((line) => line.id === id)?.placed.block.hidden !== true);
        } else if (id && event.key === "Delete") {
          event.preventDefault();
          props.onRemove(id);
        } else moveFocus(event);
      }}
    >
      {rows.map((row, index) => {
        if (!("id" in row))
          return <PartRow key={row.region} part={row} here={row.region === props.part} onPick={props.onPart} />;
        const { placed, id, depth } = row;
        const hidden = placed.block.hidden === true;
        const own = placed.layout === view.key && view.base !== "";
        return (
          <Row
            key={id}
            name={nameOf(placed, kinds)}
            hidden={hidden}
            can={props.can}
            onHide={(to) => props.onHide(id, to)}
          >
            <button
              type="button"
              role="option"
              data-item
              data-mark={id}
              // One stop for Tab; arrows go from block to block.
              tabIndex={id === picked || (index === 0 && !lines.some((line) => line.id === picked)) ? 0 : -1}
              aria-selected={id === picked}
              className={`side !flex w-full min-w-0 items-baseline gap-2 ${id === picked ? "here" : ""}`}
              style={{ paddingLeft: 12 + depth * 14 }}
              onClick={() => props.onPick(id)}
              onFocus={() => id !== picked && props.onPick(id)}
            >
              <Weft
                small
                state={hidden ? "hidden" : own || placed.steps.length > 0 || !view.base ? "here" : "inherited"}
              />
              <span className={`min-w-0 truncate ${hidden ? "text-ink-3 line-through" : ""}`}>
                {nameOf(placed, kinds)}
              </span>
              <span className="ml-auto flex-none text-[11px] text-ink-3">
                {[...placed.steps, hidden && "hidden"].filter(Boolean).join(", ")}
                {placed.pages !== null && placed.pages > 0 && (
                  <span
                    className="rounded bg-weld-tint px-1 text-weld-ink"
                    title="These words stand the same on so many pages"
                  >
                    ×{placed.pages}
                  </span>
                )}
              </span>
            </button>
          </Row>
        );
      })}
      {lines.length === 0 && <p className="hint px-3 py-2">Nothing stands here yet. Add a block with A.</p>}
      {view.taken_away.length > 0 && (
        <p className="hint px-3 pt-1">
          Taken away here: {view.taken_away.map((block) => nameOf({ block } as never, kinds)).join(", ")}. See Use.
        </p>
      )}
    </div>
  );
}

/** The line of a part, into which the next block goes where it is chosen. */
function PartRow({ part, here, onPick }: { part: Part; here: boolean; onPick: (region: string) => void }) {
  return (
    <button
      type="button"
      role="option"
      data-item
      data-part={part.region}
      tabIndex={here ? 0 : -1}
      aria-selected={here}
      className={`side !flex !min-h-6 w-full min-w-0 items-baseline gap-2 text-[12px] text-ink-3 ${here ? "here" : ""}`}
      style={{ paddingLeft: 12 + part.depth * 14 }}
      onClick={() => onPick(part.region)}
      onFocus={() => !here && onPick(part.region)}
    >
      {part.words}
      {part.empty && <span className="italic">empty: A adds a block here</span>}
    </button>
  );
}

/** A block's line, with a press to hide or show it. */
function Row(props: {
  name: string;
  hidden: boolean;
  can: boolean;
  onHide: (hidden: boolean) => void;
  children: ReactNode;
}) {
  const words = props.hidden ? "Show" : "Hide";
  return (
    <div role="presentation" className="group flex items-center">
      {props.children}
      {props.can && (
        <button
          type="button"
          tabIndex={-1}
          className={`grid h-7 w-8 flex-none place-items-center text-ink-3 hover:text-ink ${props.hidden ? "" : "opacity-0 focus:opacity-100 group-hover:opacity-100"}`}
          // The keys' twin is Space on the block itself.
          aria-hidden="true"
          data-hide={props.name}
          title={`${words} it (Space)`}
          onClick={() => props.onHide(!props.hidden)}
        >
          {props.hidden ? <EyeOff size={14} aria-hidden="true" /> : <Eye size={14} aria-hidden="true" />}
        </button>
      )}
    </div>
  );
}
