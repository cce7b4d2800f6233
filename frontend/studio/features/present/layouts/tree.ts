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

/** The parts that show, each with the words that tell which it is. */
export function placesOf(view: View, kinds: readonly Kind[]): { region: string; words: string }[] {
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

/** Where a block goes one step on or back: among its neighbours, then out of its part. */
export function stepOf(view: View, id: string, by: -1 | 1): Edit | null {
  const lines = linesOf(view);
  const line = lines.find((other) => other.id === id);
  if (!line) return null;
  const there = lines.filter(({ region }) => region === line.region).map((other) => other.id);
  const at = there.indexOf(id);
  const to = at + by;
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

/** The edit that puts a new block of a kind behind another, or last where none is chosen. */
export function addAfter(view: View, chosen: string | null, kind: string): Edit {
  const line = linesOf(view).find(({ id }) => id === chosen);
  const region = line?.region ?? view.regions[0]?.id ?? "main";
  const last = view.regions.find(({ id }) => id === region)?.blocks.at(-1);
  return { op: "add", block: { kind }, region, after: line?.id ?? (last ? idOf(last) : null) };
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
