// biome-ignore-all lint/a11y/useSemanticElements: a table can't be drawn in part, nor its first columns stand still
// biome-ignore-all lint/a11y/useFocusableInteractive: cells take the focus, rows and bands do not
// biome-ignore-all lint/a11y/useAriaPropsSupportedByRole: a cell is one of two roles that both have it
import { memo, type ReactNode } from "react";
import { HEAD } from "./cells";
import type { GridColumn, Line } from "./column";
import { cellOf, type Draft } from "./useStrokes";
import type { Placed } from "./useWidths";

type Shared<Row> = {
  /** The columns that are drawn, by their index. */
  shown: readonly number[];
  columns: readonly GridColumn<Row>[];
  placed: readonly Placed[];
  /** Whose cell is at hand, if it is in this row. */
  at: number | null;
};

type Props<Row> = Shared<Row> & {
  line: Line<Row>;
  index: number;
  top: number;
  height: number;
  here: boolean;
  /** The first and last column of what is chosen, if this row is in it. */
  chosen: readonly [number, number] | null;
  drafts: ReadonlyMap<string, Draft> | null;
  /** The editor of the cell at hand, while it is edited. */
  editor: ReactNode;
};

function Drawn<Row>({
  line,
  index,
  top,
  height,
  shown,
  columns,
  placed,
  at,
  here,
  chosen,
  drafts,
  editor,
}: Props<Row>) {
  const spot = { top, height };
  if ("band" in line)
    return (
      <div role="row" aria-rowindex={index + 2} className="grid-line" style={spot}>
        <div role="gridcell" aria-colspan={columns.length} className="band grid-band">
          {line.band}
        </div>
      </div>
    );
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={`grid-line ${here ? "here" : ""} ${at === null ? "" : "at"} ${line.dim ? "dim" : ""}`}
      style={spot}
      data-mark={line.key}
    >
      {shown.map((position) => {
        const column = columns[position];
        const spot = placed[position];
        if (!column || !spot) return null;
        return (
          <Cell
            key={column.key}
            line={line.key}
            row={line.row}
            index={index}
            position={position}
            column={column}
            placed={spot}
            active={position === at}
            chosen={chosen !== null && position >= chosen[0] && position <= chosen[1]}
            draft={drafts?.get(cellOf(line.key, column.key)) ?? null}
            editor={position === at ? editor : null}
          />
        );
      })}
    </div>
  );
}

/** A row near the window; it is drawn again only where something of it is another. */
export const GridRow = memo(Drawn) as typeof Drawn;

type CellProps<Row> = {
  line: string;
  row: Row;
  index: number;
  position: number;
  column: GridColumn<Row>;
  placed: Placed;
  active: boolean;
  chosen: boolean;
  draft: Draft | null;
  editor: ReactNode;
};

function Cell<Row>({ line, row, index, position, column, placed, active, chosen, draft, editor }: CellProps<Row>) {
  const look = column.look?.(row);
  const wrong = draft ? draft.wrong : look?.wrong;
  return (
    <div
      role={column.names ? "rowheader" : "gridcell"}
      aria-colindex={position + 1}
      aria-label={draft ? undefined : look?.words}
      aria-selected={chosen || undefined}
      aria-invalid={wrong ? true : undefined}
      tabIndex={active ? 0 : -1}
      title={wrong || look?.title}
      data-line={index}
      data-column={position}
      data-row={line}
      data-key={column.key}
      data-state={look?.state}
      className={`grid-cell ${placed.frozen ? "frozen" : ""} ${column.align ?? ""} ${wrong ? "wrong" : ""}`}
      style={{ left: placed.start, width: placed.size }}
    >
      {draft ? <span className="truncate">{draft.text}</span> : column.show(row)}
      {editor}
    </div>
  );
}

/** The heads of the columns, which stay at the top; pulling at an edge makes a column wider. */
export function GridHead<Row>({ shown, columns, placed, at, height }: Shared<Row> & { height: number }) {
  return (
    <div role="row" aria-rowindex={1} className="grid-line grid-head" style={{ height }}>
      {shown.map((position) => {
        const column = columns[position];
        const spot = placed[position];
        if (!column || !spot) return null;
        return (
          <div
            key={column.key}
            role="columnheader"
            aria-colindex={position + 1}
            tabIndex={position === at ? 0 : -1}
            data-line={HEAD}
            data-column={position}
            data-key={column.key}
            title={column.head ? undefined : column.name}
            className={`grid-cell ${spot.frozen ? "frozen" : ""} ${column.align ?? ""}`}
            style={{ left: spot.start, width: spot.size }}
          >
            {column.head ?? <span className="truncate">{column.name}</span>}
            {/* the keys' twin: Alt, Shift and an arrow */}
            <span className="pull" aria-hidden="true" onMouseDown={spot.pull} onTouchStart={spot.pull} />
          </div>
        );
      })}
    </div>
  );
}
