import type { ReactNode } from "react";

/** Where the cell at hand goes once an editor is left; null where the focus has gone elsewhere by itself. */
export type Then = "down" | "up" | "right" | "left" | "stay" | null;

/** A cell being edited, as its editor is given it. */
export type Editing = {
  /** What the cell is called: its column and its row. */
  label: string;
  /** What was typed over it, which takes the place of what stood; null where it was opened. */
  start: string | null;
  /** What stands in it as text, also what was typed and refused. */
  text: string;
  /** Whether that was refused: the same is tried once more when it is put again. */
  refused: boolean;
  type: (text: string, then: Then) => void;
  /** Puts a value that is no text; what it gives ends once that is written or refused. */
  put: (value: unknown) => Promise<unknown>;
  /** Leaves it, and lays a pasted table over the cells from this one on. */
  paste: (text: string) => void;
  leave: (then: Then) => void;
};

/** A text as the value it stands for, or what is wrong with it. */
export type Read = { value: unknown } | { wrong: string };

/** What is told of a cell besides what it shows. */
export type Look = {
  /** The cell in words, where what it shows is no text. */
  words?: string;
  title?: string;
  wrong?: string;
  /** Its state, for its looks and for those who look for it. */
  state?: string;
};

/** A column of a grid. What can't be typed has no `read`, what can't be edited no `edit`, what can't be copied no `text`. */
export type GridColumn<Row> = {
  key: string;
  name: string;
  /** What stands in its head; its name otherwise. */
  head?: ReactNode;
  width: number;
  /** Whether it takes the room that is left. */
  grows?: boolean;
  /** Whether it stays at the side; such columns come first. */
  frozen?: boolean;
  /** Whether it names its row. */
  names?: boolean;
  align?: "right" | "center";
  show: (row: Row) => ReactNode;
  look?: (row: Row) => Look | undefined;
  text?: (row: Row) => string;
  read?: (text: string) => Read;
  /** What a cell is edited with, over it. */
  edit?: (row: Row, editing: Editing) => ReactNode;
  /** Whether its editor is of use to those who may only look. */
  looks?: boolean;
  /** Whether the cell of a row is edited at all; it is, unless this says otherwise. */
  edits?: (row: Row) => boolean;
  /** What a press, or Enter, does in a cell that is not edited. */
  press?: (row: Row) => void;
  /** Whether a single press edits or presses its cells, where choosing them is not what one comes for. */
  quick?: boolean;
};

/** A row of things, or a band that says what the rows below it have in common. */
export type Line<Row> = { key: string; row: Row; dim?: boolean } | { key: string; band: ReactNode };

/** A change of a cell: to a value, or to what stands in the same column of another row when its turn comes. */
export type Edit = { row: string; column: string } & ({ value: unknown } | { from: string });

/** How a stroke came about. */
export type How = "typed" | "pasted" | "filled down" | "emptied";

/** Cells chosen together. */
export type Chosen<Row> = { rows: readonly Row[]; columns: readonly GridColumn<Row>[] };

export type GridHandle = {
  /** Puts the focus into a cell, wherever it is scrolled. */
  focus: (row: string, column?: string) => void;
};
