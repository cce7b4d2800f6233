import type { ComponentType, ReactNode } from "react";
import type { Schemas } from "../api/client";
import type { Editing } from "../ui/grid/column";

/** How a box that is typed in looks, and what stands after it. */
export type Look = { mono?: boolean; after?: (at: Schemas["EditField"]) => ReactNode };

export type EditorProps = {
  id: string;
  at: Schemas["EditField"];
  wrong: boolean;
  /** Puts a value; what it gives ends once that is written or refused. */
  onFill: (value: unknown) => unknown;
  onTyping: (text: string) => void;
  look?: Look;
};

/** A value edited where it stands in a grid. */
export type CellProps = { at: Schemas["EditField"]; editing: Editing };

/** A value of a kind that is no product's: an example, or what is tried. */
export type WrittenProps = { id: string; label: string; value: string; onPut: (text: string) => unknown };

/** What the studio says of a kind: its editor on a product, in a cell of a grid, and how its default is typed. */
export type KindUi = {
  code: string;
  Editor: ComponentType<EditorProps>;
  look?: Look;
  /** Its editor in a cell of a grid; a kind without one, and several values, have the other floating over the cell. */
  Cell?: ComponentType<CellProps>;
  /** A value in a cell of a grid, where that is more than what is typed. */
  Shown?: ComponentType<{ at: Schemas["EditField"] }>;
  /** How one of its values is typed that is no product's, where that is more than a line; `read` is what is read of it then. */
  Written?: ComponentType<WrittenProps>;
  read?: (typed: string) => string;
  /** Whether its values are amounts, which stand at the right of their column. */
  amounts?: boolean;
  /** Whether its editor takes more than a line, so that its label stands at the top. */
  tall?: (field: Schemas["Field"]) => boolean;
  /** Whether its editor wants the whole width, below its label. */
  wide?: boolean;
  /** A stored value as one would type it; left out by kinds that are not typed. */
  typed?: (value: never) => string;
};

/** Whether a value of several is a wrong one; all of them where nobody knows which. */
export function isWrongItem(at: Schemas["EditField"], index: number): boolean {
  return (
    at.value.faults.every((fault) => fault.at.length === 0) || at.value.faults.some((fault) => fault.at[0] === index)
  );
}

/** Whether several values of a field stand as they were put, rather than by the alphabet. */
export function byHand(field: Pick<Schemas["Field"], "order">): boolean {
  return field.order !== "alphabetical";
}

export function asText(value: unknown): string {
  if (value === null || value === undefined) return "";
  return typeof value === "object" ? JSON.stringify(value) : String(value);
}
