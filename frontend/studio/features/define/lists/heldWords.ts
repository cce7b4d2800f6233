import type { Schemas } from "../../../api/client";
import { counted } from "../../../ui/basics";

/** How many hold a value, whatever they are. */
export function heldCount(held: readonly Schemas["HeldOut"][]): number {
  return held.reduce((sum, { count }) => sum + count, 0);
}

/** What holds a value, in words: "12 products and 1 variant". */
export function heldWords(held: readonly Schemas["HeldOut"][]): string {
  return held.map(({ count, name }) => counted(count, name, name)).join(" and ") || "Nothing";
}
