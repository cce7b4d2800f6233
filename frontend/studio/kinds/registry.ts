import type { KindUi } from "./base";
import { text } from "./text";

const known: Record<string, KindUi> = {};

/** Takes kinds in by their codes. */
export function register(kinds: readonly KindUi[]): void {
  for (const kind of kinds) known[kind.code] = kind;
}

/** What the studio says of a kind; one it has no editor for is typed as text. */
export function kindUi(code: string): KindUi {
  return known[code] ?? text;
}
