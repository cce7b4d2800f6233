/** What can be found by words: what it is called, what else people call it, and what is said of it. */
export type Findable = { name: string; also?: readonly string[]; help?: string };

const plain = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").toLocaleLowerCase();
const parts = (text: string) =>
  plain(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/**
 * How well something is found by words: the less the better, null where it is not. Names come first: the very name, one
 * that begins so, whole words, beginnings of words, letters within; then what else people call it; then what is said of it.
 */
export function rank(words: string, { name, also = [], help = "" }: Findable): number | null {
  const asked = plain(words).trim();
  const each = parts(words);
  if (asked === "") return 0;
  const called = plain(name);
  if (called === asked) return 0;
  if (called.startsWith(asked)) return 1;
  const own = parts(name);
  const every = (test: (word: string) => boolean) => each.length > 0 && each.every(test);
  if (every((word) => own.includes(word))) return 2;
  if (every((word) => own.some((part) => part.startsWith(word)))) return 3;
  const others = also.map(plain);
  if (others.includes(asked)) return 4;
  if (called.includes(asked)) return 5;
  const known = [...own, ...also.flatMap(parts)];
  if (others.some((other) => other.startsWith(asked)) || every((word) => known.some((part) => part.startsWith(word))))
    return 6;
  if (others.some((other) => other.includes(asked))) return 7;
  if (plain(help).includes(asked)) return 8;
  const said = [...known, ...parts(help)];
  return every((word) => said.some((part) => part.startsWith(word))) ? 9 : null;
}

/** The rows that are found by words, the best first; those found as well as each other in their order. */
export function ranked<T>(rows: readonly T[], words: string, of: (row: T) => Findable): T[] {
  if (words.trim() === "") return [...rows];
  return rows
    .map((row, at) => ({ row, at, found: rank(words, of(row)) }))
    .filter((entry): entry is { row: T; at: number; found: number } => entry.found !== null)
    .sort((a, b) => a.found - b.found || a.at - b.at)
    .map(({ row }) => row);
}
