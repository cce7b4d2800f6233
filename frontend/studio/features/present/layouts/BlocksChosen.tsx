import { Button, counted } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { moveAll, outermost } from "./several";
import { type Edit, type Kind, type Line, placesOf, type View } from "./tree";

type Props = {
  view: View;
  kinds: readonly Kind[];
  several: readonly Line[];
  can: boolean;
  onEdit: (...edits: Edit[]) => unknown;
  onMove: (id: string, by: -1 | 1) => void;
  onCopy: (ids: ReadonlySet<string>) => void;
  onHide: (ids: Iterable<string>, hidden: boolean) => void;
  onRemove: (id: string) => void;
  onClear: () => void;
};

/** What can be done with several blocks at once; each is one stroke, undone as one. */
export function BlocksChosen({ view, kinds, several, can, ...acts }: Props) {
  const ids = new Set(several.map(({ id }) => id));
  const first = several[0]?.id ?? "";
  const outer = outermost(view, ids);
  const hidden = several.every(({ placed }) => placed.block.hidden === true);
  // No part of one of them: a block can't stand in itself.
  const places = outer
    .map(({ id }) => placesOf(view, kinds, id))
    .reduce((kept, own) => kept.filter(({ region }) => own.some((other) => other.region === region)));
  return (
    <fieldset disabled={!can} className="min-w-0 py-2" aria-label="Blocks chosen">
      <header className="mb-2 flex items-baseline gap-2">
        <h3>{counted(several.length, "block")} chosen</h3>
        <button type="button" className="link ml-auto" onClick={acts.onClear}>
          choose one alone
        </button>
      </header>
      <div className="flex flex-wrap gap-1.5">
        <Button title="Alt ↑" onClick={() => acts.onMove(first, -1)}>
          Earlier
        </Button>
        <Button title="Alt ↓" onClick={() => acts.onMove(first, 1)}>
          Later
        </Button>
        <Select
          className="input !w-48"
          aria-label="Move them to the end of"
          value=""
          onChange={(event) => event.target.value && acts.onEdit(...moveAll(view, ids, event.target.value))}
        >
          <option value="">move to the end of…</option>
          {places.map(({ region, words }) => (
            <option key={region} value={region}>
              {words}
            </option>
          ))}
        </Select>
        <Button onClick={() => acts.onCopy(ids)}>Copy them</Button>
        <Button onClick={() => acts.onHide(ids, !hidden)}>{hidden ? "Show them" : "Hide them"}</Button>
        <Button look="danger" title="Delete" onClick={() => acts.onRemove(first)}>
          Take them away
        </Button>
      </div>
      <p className="hint mt-3">Ctrl with a press chooses one more, Shift all up to it; so do Shift and the arrows.</p>
    </fieldset>
  );
}
