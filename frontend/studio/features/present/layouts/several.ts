import { copyOf, type Edit, idOf, type Json, type Line, linesOf, partsOf, stepOf, type View } from "./tree";

/** Of some blocks those that stand in no other of them, in reading order: with these the others go along. */
export function outermost(view: View, ids: ReadonlySet<string>): Line[] {
  const lines = linesOf(view);
  const holderOf = (line: Line) => lines.find(({ placed }) => partsOf(placed).includes(line.region));
  const within = (line: Line): boolean => {
    const holder = holderOf(line);
    return holder !== undefined && (ids.has(holder.id) || within(holder));
  };
  return lines.filter((line) => ids.has(line.id) && !within(line));
}

/** Blocks one behind the other, wherever they stood. */
function following(lines: readonly Line[], region: string, after: string | null): Edit[] {
  return lines.map((line, index) => ({ op: "move", id: line.id, region, after: lines[index - 1]?.id ?? after }));
}

/** Where several blocks go one step on or back together, as one of them would; they stand side by side then. */
export function stepOfAll(view: View, ids: ReadonlySet<string>, by: -1 | 1): Edit[] {
  const lines = outermost(view, ids);
  const outer = by === 1 ? lines.at(-1) : lines[0];
  const step = outer && stepOf(view, outer.id, by);
  if (!step) return [];
  return following(lines, String(step.region), (step.after as string | null | undefined) ?? null);
}

/** Several blocks at the end of a part; none where it is a part of one of them. */
export function moveAll(view: View, ids: ReadonlySet<string>, region: string): Edit[] {
  const lines = outermost(view, ids);
  const there = view.regions.find(({ id }) => id === region)?.blocks.map(idOf) ?? [];
  const stay = there.filter((id) => !lines.some((line) => line.id === id));
  return following(lines, region, stay.at(-1) ?? null);
}

/** Blocks as more of their kinds, with all that stands in their parts, behind the last of them. `mark` tells their ids from others. */
export function copiesOf(view: View, ids: ReadonlySet<string>, mark: string): Edit[] {
  const lines = outermost(view, ids);
  const last = lines.at(-1);
  if (!last) return [];
  const out: Edit[] = [];
  const copy = (block: Json, region: string, after: string | null): string => {
    const id = `${String(block.kind)}_${mark}_${out.length + 1}`;
    const parts = Array.isArray(block.regions) ? block.regions.map(String) : [];
    const own = parts.map((_, index) => `${id}_${index + 1}`);
    out.push({ op: "add", block: { ...copyOf(block), id, ...(own.length ? { regions: own } : {}) }, region, after });
    parts.forEach((part, index) => {
      let before: string | null = null;
      for (const inner of view.regions.find((other) => other.id === part)?.blocks ?? [])
        before = copy(inner.block as Json, own[index] ?? region, before);
    });
    return id;
  };
  let after: string = last.id;
  for (const { placed } of lines) after = copy(placed.block as Json, last.region, after);
  return out;
}
