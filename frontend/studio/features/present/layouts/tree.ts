import type { Schemas } from "../../../api/client";

/** Whom an arrangement is for that has not begun, and on which surface. */
export type Own = { scope: string; surface: string };
/** A layout with all its steps taken; `own` says for whom it would be, where it begins with the first edit. */
export type View = Schemas["LayoutViewOut"] & { own?: Own };
export type Placed = Schemas["PlacedBlockOut"];
export type Kind = Schemas["BlockKindOut"];
export type Json = Record<string, unknown>;
export type Edit = { op: string } & Json;

/** A block where it stands: in which part, how deep, after which other. */
export type Line = { placed: Placed; id: string; region: string; after: string | null; depth: number };

export function idOf(placed: Placed): string {
  return String(placed.block.id);
}

export function partsOf(placed: Placed): string[] {
  const regions = placed.block.regions;
  return Array.isArray(regions) ? regions.map(String) : [];
}

/** All blocks that can show, in reading order, those in parts below the block that holds the parts. */
export function linesOf(view: View): Line[] {
  const regions = new Map(view.regions.map((region) => [region.id, region.blocks]));
  const seen = new Set<string>();
  const out: Line[] = [];
  const walk = (region: string, depth: number) => {
    if (seen.has(region)) return;
    seen.add(region);
    let after: string | null = null;
    for (const placed of regions.get(region) ?? []) {
      out.push({ placed, id: idOf(placed), region, after, depth });
      for (const part of partsOf(placed)) walk(part, depth + 1);
      after = idOf(placed);
    }
  };
  const first = view.regions[0];
  if (first) walk(first.id, 0);
  return out;
}

/** A part of a block in the outline: which, how it is called, and whether nothing stands in it. */
export type Part = { region: string; words: string; depth: number; empty: boolean };

/** The lines of the outline: blocks in reading order, under the part they stand in where a block has several, or an empty one. */
export function outlineOf(view: View): (Line | Part)[] {
  const lines = linesOf(view);
  const filled = new Set(lines.map(({ region }) => region));
  const within = new Map<string, Line[]>();
  for (const line of lines) within.set(line.region, [...(within.get(line.region) ?? []), line]);
  const rows = (region: string): (Line | Part)[] =>
    (within.get(region) ?? []).flatMap((line) => {
      const parts = partsOf(line.placed);
      return [
        line,
        ...parts.flatMap((part, index) => {
          const empty = !filled.has(part);
          const named = parts.length > 1 || empty;
          const row = { region: part, words: `part ${index + 1}`, depth: line.depth + 1, empty };
          return [...(named ? [row] : []), ...rows(part)];
        }),
      ];
    });
  return view.regions[0] ? rows(view.regions[0].id) : [];
}

/** All parts in a block, those in blocks of them too. */
function partsWithin(view: View, id: string): Set<string> {
  const blocks = new Map(view.regions.map((region) => [region.id, region.blocks]));
  const found = new Set<string>();
  const walk = (placed: Placed) => {
    for (const part of partsOf(placed)) {
      if (found.has(part)) continue;
      found.add(part);
      for (const inner of blocks.get(part) ?? []) walk(inner);
    }
  };
  for (const placed of view.regions.flatMap((region) => region.blocks)) if (idOf(placed) === id) walk(placed);
  return found;
}

/** The parts that show, each with the words that tell which it is; without those of a block that can't stand in itself. */
export function placesOf(view: View, kinds: readonly Kind[], block?: string): { region: string; words: string }[] {
  const own = block === undefined ? new Set<string>() : partsWithin(view, block);
  return everyPlace(view, kinds).filter(({ region }) => !own.has(region));
}

function everyPlace(view: View, kinds: readonly Kind[]): { region: string; words: string }[] {
  const first = view.regions[0];
  const times = new Map<string, number>();
  const held = linesOf(view).flatMap(({ placed }) => {
    const parts = partsOf(placed);
    if (parts.length === 0) return [];
    const name = nameOf(placed, kinds);
    const time = (times.get(name) ?? 0) + 1;
    times.set(name, time);
    const words = time > 1 ? `${name} (${time})` : name;
    return parts.map((region, index) => ({
      region,
      words: parts.length > 1 ? `${words}, part ${index + 1}` : words,
    }));
  });
  return first ? [{ region: first.id, words: "the page itself" }, ...held] : held;
}

/** What a block is called: its heading or words, else its kind. */
export function nameOf(placed: Placed, kinds: readonly Kind[]): string {
  const { heading, words, kind } = placed.block as { heading?: string; words?: string; kind?: string };
  const said = (heading || words || "").split("\n")[0] ?? "";
  const name = kinds.find(({ code }) => code === kind)?.name ?? String(kind);
  return said ? `${said.slice(0, 40)}` : name;
}

/** Where a block goes one step on or back: into a neighbour that has parts, past one that has none, then out of its part. */
export function stepOf(view: View, id: string, by: -1 | 1): Edit | null {
  const lines = linesOf(view);
  const line = lines.find((other) => other.id === id);
  if (!line) return null;
  const there = lines.filter(({ region }) => region === line.region).map((other) => other.id);
  const at = there.indexOf(id);
  const to = at + by;
  const beside = lines.find((other) => other.id === there[to]);
  const parts = beside ? partsOf(beside.placed) : [];
  const into = by === 1 ? parts[0] : parts.at(-1);
  if (into !== undefined) {
    const inside = lines.filter(({ region }) => region === into).at(-1);
    return { op: "move", id, region: into, after: by === 1 ? null : (inside?.id ?? null) };
  }
  if (to >= 0 && to < there.length) {
    const after = by === 1 ? (there[to] ?? null) : (there[to - 1] ?? null);
    return { op: "move", id, region: line.region, after };
  }
  return outOf(lines, line, by);
}

function outOf(lines: Line[], line: Line, by: -1 | 1): Edit | null {
  const holder = lines.find(({ placed }) => partsOf(placed).includes(line.region));
  if (!holder) return null;
  const parts = partsOf(holder.placed);
  const beside = parts[parts.indexOf(line.region) + by];
  if (beside !== undefined) {
    const there = lines.filter(({ region }) => region === beside);
    return { op: "move", id: line.id, region: beside, after: by === 1 ? null : (there.at(-1)?.id ?? null) };
  }
  return { op: "move", id: line.id, region: holder.region, after: by === 1 ? holder.id : holder.after };
}

/** Where a new block goes: last in a part that is chosen, into the first empty part of a block that is, behind one without,
 * or last of all. */
export function placeFor(
  view: View,
  chosen: string | null,
  part: string | null,
): { region: string; after: string | null } {
  const lines = linesOf(view);
  const line = lines.find(({ id }) => id === chosen);
  const blocks = (region: string) => view.regions.find(({ id }) => id === region)?.blocks ?? [];
  const empty = line && partsOf(line.placed).find((region) => blocks(region).length === 0);
  if (line && !empty) return { region: line.region, after: line.id };
  const known = part !== null && outlineOf(view).some((row) => !("id" in row) && row.region === part);
  const region = empty ?? (known ? part : (view.regions[0]?.id ?? "main"));
  const last = blocks(region).at(-1);
  return { region, after: last ? idOf(last) : null };
}

/** A block as one more of its kind, that says the same. */
export function copyOf({ id: _, ...rest }: Json): Json {
  return rest;
}

/** The blocks of one view that another does not have. */
export function newIn(now: View, before: View): string[] {
  const known = new Set(before.regions.flatMap((region) => region.blocks.map(idOf)));
  return linesOf(now)
    .map(({ id }) => id)
    .filter((id) => !known.has(id));
}

/** The layouts of a surface, each below the one it builds on. */
export function rowsOf(
  layouts: readonly { thing: { key: string; name: string; surface: string; base: string } }[],
  surface: string,
): { key: string; name: string; depth: number }[] {
  const all = layouts.filter(({ thing }) => thing.surface === surface).map(({ thing }) => thing);
  const below = (base: string, depth: number): { key: string; name: string; depth: number }[] =>
    all
      .filter((thing) => thing.base === base)
      .flatMap((thing) => [{ key: thing.key, name: thing.name, depth }, ...below(thing.key, depth + 1)]);
  return below("", 0);
}

/** Where an arrangement is opened that has begun; what else the address says stays. */
export function begunAt(key: string, search: string): string {
  const params = new URLSearchParams(search);
  params.delete("scope");
  params.delete("surface");
  return `/present/layouts/${key}${params.size ? `?${params}` : ""}`;
}

/** The layout by which a page shows what stands so far: one that has not begun shows as what it builds on. */
export function layoutOf(view: View): string {
  return view.own ? view.base : view.key;
}
