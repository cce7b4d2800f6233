import { ChevronDown, ChevronRight, Eye, EyeOff } from "lucide-react";
import { type ReactNode, useLayoutEffect, useRef, useState } from "react";
import { Weft } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { ranked } from "../../../ui/finding";
import { moveFocus } from "../../../ui/keys";
import { useReveal } from "../../../ui/useReveal";
import { type Kind, type Line, nameOf, outlineOf, type Part, partsOf, type View } from "./tree";

type Props = {
  view: View;
  kinds: readonly Kind[];
  picked: string | null;
  /** The blocks that are chosen together, where they are several. */
  chosen: ReadonlySet<string> | null;
  /** The part that is chosen to add to, where no block is. */
  part: string | null;
  can: boolean;
  onPart: (region: string) => void;
  onPick: (id: string) => void;
  onMark: (id: string, range: boolean, shown: readonly string[]) => void;
  onMove: (id: string, by: -1 | 1) => void;
  onRemove: (id: string) => void;
  onHide: (ids: Iterable<string>, hidden: boolean) => void;
};

/** So many blocks are looked through without a box to find them. */
const FEW = 8;

/** All blocks in reading order, those in parts below what holds them, folded or found by words; what this layout does to its base
 * is told by pattern. */
export function Outline(props: Props) {
  const { view, kinds, picked, chosen } = props;
  const list = useRef<HTMLDivElement>(null);
  const [words, setWords] = useState("");
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const all = outlineOf(view);
  const blocks = all.filter((row): row is Line => "id" in row);
  const rows = words.trim() ? found(blocks, words, kinds) : unfolded(all, folded, picked);
  const lines = rows.filter((row): row is Line => "id" in row);
  const shown = lines.map(({ id }) => id);
  useReveal(list, picked, true);
  // A block that was moved by keys keeps the focus, though its row was put elsewhere.
  const moved = useRef<string | null>(null);
  // Going on with Shift chooses more, and picks none anew.
  const extending = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each new state of the layout is what moves rows
  useLayoutEffect(() => {
    if (moved.current) list.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(moved.current)}"]`)?.focus();
    moved.current = null;
  }, [view]);
  const fold = (id: string, shut: boolean) =>
    setFolded((old) => new Set(shut ? [...old, id] : [...old].filter((other) => other !== id)));
  function press(event: React.KeyboardEvent<HTMLElement>) {
    const id = (event.target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark;
    const line = lines.find((other) => other.id === id);
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const shut = { ArrowLeft: true, ArrowRight: false }[event.key];
    if (id && by && event.altKey) {
      event.preventDefault();
      moved.current = id;
      props.onMove(id, by as -1 | 1);
    } else if (id && by && event.shiftKey) {
      const to = shown[shown.indexOf(id) + by];
      event.preventDefault();
      if (!to) return;
      extending.current = true;
      list.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(to)}"]`)?.focus();
      extending.current = false;
      props.onMark(to, true, shown);
    } else if (line && shut !== undefined && partsOf(line.placed).length > 0) {
      event.preventDefault();
      fold(line.id, shut);
    } else if (line && event.key === " " && props.can) {
      event.preventDefault();
      if (event.ctrlKey) props.onMark(line.id, false, shown);
      else props.onHide(chosen?.has(line.id) ? chosen : [line.id], line.placed.block.hidden !== true);
    } else if (id && event.key === "Delete") {
      event.preventDefault();
      props.onRemove(id);
    } else moveFocus(event);
  }
  return (
    <>
      {blocks.length > FEW && (
        <div className="flex-none px-3 pt-2">
          <FindBox label="Find on this layout" letter="f" text={words} onText={setWords} list={list} />
        </div>
      )}
      <div
        ref={list}
        role="listbox"
        aria-label="Blocks"
        aria-multiselectable
        tabIndex={-1}
        className="scroll max-h-[42%] flex-none py-1"
        onKeyDown={press}
      >
        {rows.map((row, index) => {
          if (!("id" in row))
            return <PartRow key={row.region} part={row} here={row.region === props.part} onPick={props.onPart} />;
          return (
            <BlockRow
              key={row.id}
              line={row}
              view={view}
              name={nameOf(row.placed, kinds)}
              here={row.id === picked}
              chosen={chosen ? chosen.has(row.id) : row.id === picked}
              // One stop for Tab; arrows go from block to block.
              stop={row.id === picked || (index === 0 && !lines.some((line) => line.id === picked))}
              folded={partsOf(row.placed).length === 0 || words.trim() ? null : folded.has(row.id)}
              can={props.can}
              onFold={(shut) => fold(row.id, shut)}
              onHide={(hidden) => props.onHide(chosen?.has(row.id) ? chosen : [row.id], hidden)}
              onPick={() => !extending.current && props.onPick(row.id)}
              onMark={(range) => props.onMark(row.id, range, shown)}
            />
          );
        })}
        {blocks.length === 0 && <p className="hint px-3 py-2">Nothing stands here yet. Add a block with A.</p>}
        {blocks.length > 0 && rows.length === 0 && (
          <p className="hint px-3 py-2">No block here is called so. Esc, then A adds one.</p>
        )}
        {view.taken_away.length > 0 && (
          <p className="hint px-3 pt-1">
            Taken away here: {view.taken_away.map((block) => nameOf({ block } as never, kinds)).join(", ")}. See Use.
          </p>
        )}
      </div>
    </>
  );
}

/** The blocks that are found by their name or kind, the best first. */
function found(blocks: readonly Line[], words: string, kinds: readonly Kind[]): Line[] {
  return ranked(blocks, words, ({ placed }) => {
    const kind = kinds.find(({ code }) => code === placed.block.kind);
    return { name: nameOf(placed, kinds), also: [kind?.name ?? "", ...(kind?.also ?? [])] };
  }).map((line) => ({ ...line, depth: 0 }));
}

/** The rows but those under what is folded; what holds the block that is picked is open. */
function unfolded(rows: readonly (Line | Part)[], folded: ReadonlySet<string>, picked: string | null): (Line | Part)[] {
  let hiddenBelow = Number.POSITIVE_INFINITY;
  const holds = (at: number, depth: number) => {
    for (const row of rows.slice(at + 1)) {
      if (row.depth <= depth) return false;
      if ("id" in row && row.id === picked) return true;
    }
    return false;
  };
  return rows.filter((row, at) => {
    if (row.depth > hiddenBelow) return false;
    hiddenBelow = "id" in row && folded.has(row.id) && !holds(at, row.depth) ? row.depth : Number.POSITIVE_INFINITY;
    return true;
  });
}

type RowProps = {
  line: Line;
  view: View;
  name: string;
  here: boolean;
  chosen: boolean;
  stop: boolean;
  /** Null for a block that has nothing to fold. */
  folded: boolean | null;
  can: boolean;
  onFold: (shut: boolean) => void;
  onHide: (hidden: boolean) => void;
  onPick: () => void;
  onMark: (range: boolean) => void;
};

function BlockRow({ line, view, name, here, chosen, stop, folded, can, ...acts }: RowProps) {
  const { placed, id, depth } = line;
  const hidden = placed.block.hidden === true;
  const own = placed.layout === view.key && view.base !== "";
  const Fold = folded ? ChevronRight : ChevronDown;
  return (
    <Row name={name} hidden={hidden} can={can} onHide={acts.onHide}>
      <button
        type="button"
        role="option"
        data-item
        data-mark={id}
        tabIndex={stop ? 0 : -1}
        aria-selected={chosen}
        className={`side !flex w-full min-w-0 items-baseline gap-2 ${here ? "here" : ""} ${chosen && !here ? "bg-woad-tint" : ""}`}
        style={{ paddingLeft: 12 + depth * 14 }}
        onClick={(event) => {
          if (event.ctrlKey || event.metaKey || event.shiftKey) acts.onMark(event.shiftKey);
          else acts.onPick();
        }}
        onMouseDown={(event) => {
          // A press that chooses several leaves the one that is picked.
          if (event.ctrlKey || event.metaKey || event.shiftKey) event.preventDefault();
        }}
        onFocus={() => !here && acts.onPick()}
      >
        {folded !== null && (
          <Fold
            size={12}
            className="-ml-1 flex-none self-center text-ink-3"
            aria-hidden="true"
            data-fold={name}
            onClick={(event) => {
              event.stopPropagation();
              acts.onFold(!folded);
            }}
          />
        )}
        <Weft small state={hidden ? "hidden" : own || placed.steps.length > 0 || !view.base ? "here" : "inherited"} />
        <span className={`min-w-0 truncate ${hidden ? "text-ink-3 line-through" : ""}`}>{name}</span>
        {folded && <span className="flex-none text-[11px] text-ink-3">folded</span>}
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
