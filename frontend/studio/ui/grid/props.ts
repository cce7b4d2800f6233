import type { KeyboardEvent, ReactNode, Ref } from "react";
import type { Chosen, GridColumn, GridHandle, Line } from "./column";
import type { Put } from "./useStrokes";

/** A cell by the keys of its row and column. */
export type Spot = { row: string; column: string };

export type GridProps<Row> = {
  /** What its widths are remembered under. */
  id: string;
  label?: string;
  labelledBy?: string;
  lines: readonly Line<Row>[];
  columns: readonly GridColumn<Row>[];
  /** What a row is called, for the names of editors and what is refused. */
  nameOf: (row: Row) => string;
  put?: Put;
  /** The key of a row after the last, where more can be pasted than there are rows. */
  beyond?: (nth: number) => string;
  /** Keys of the caller's own; gives whether it took one. */
  onKey?: (event: KeyboardEvent, row: Row, column: GridColumn<Row>) => boolean;
  /** The cell at hand, whenever the focus comes to another. */
  onHere?: (row: Row, column: GridColumn<Row>) => void;
  /** A row that is at hand elsewhere: marked, and brought into sight once for each. */
  here?: string | null;
  /** Which cell is open, where the caller keeps that; it is told of each that is opened and left. */
  open?: Spot | null;
  onOpen?: (open: Spot | null) => void;
  /** What can be done with a block of cells. */
  bar?: (chosen: Chosen<Row>, done: () => void) => ReactNode;
  /** What stands where there are no rows. */
  empty?: ReactNode;
  /** Whether the caller says itself what is wrong with what stands. */
  saysWrong?: boolean;
  lineHeight?: number;
  headHeight?: number;
  /** How high it grows before it is scrolled; all the room there is, if it is not said. */
  most?: number;
  className?: string;
  handle?: Ref<GridHandle>;
};
