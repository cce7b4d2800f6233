import { type KeyboardEvent, type Ref, useMemo } from "react";
import type { Schemas } from "../../../api/client";
import { usePutCell } from "../../../considering/usePut";
import { Empty } from "../../../ui/basics";
import type { Chosen, GridColumn, GridHandle, Line } from "../../../ui/grid/column";
import { Grid } from "../../../ui/grid/Grid";
import { BlockBar } from "./BlockBar";
import { cellOf, columnsOf, type Row } from "./columns";

type Props = {
  weave: Schemas["WeaveOut"];
  lines: readonly Line<Row>[];
  surfaces: readonly Schemas["SurfaceOut"][];
  handle: Ref<GridHandle>;
  only: boolean;
  /** What rows were looked for by. */
  words: string;
  field: string | null;
  cell: string | null;
  onOpen: (field: string | null, cell: string | null) => void;
  onHere: (field: string) => void;
  onWhy: (field: string, surface: string) => void;
};

/** Fields by surfaces: Space turns a cell over, Enter opens it, W asks why, Shift with arrows chooses a block. */
export function WeaveSheet(props: Props) {
  const { weave, surfaces, field, onWhy } = props;
  const put = usePutCell();
  const columns = useMemo(() => columnsOf({ weave, surfaces, onWhy }), [weave, surfaces, onWhy]);
  function key(event: KeyboardEvent, row: Row, { key: surface }: GridColumn<Row>): boolean {
    const cell = cellOf(row, surface);
    if (!cell || event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.key === "w") props.onWhy(row.key, surface);
    else if (event.key !== " ") return false;
    else {
      const at = { scope: weave.scope, field: row.key, surface, version: cell.version };
      void put(at, { shown: !cell.settings.shown?.value });
    }
    return true;
  }
  return (
    <Grid
      id="weave"
      label="Weave"
      className="weave"
      handle={props.handle}
      lines={props.lines}
      columns={columns}
      nameOf={({ name }) => name}
      headHeight={58}
      here={field}
      onHere={({ key }) => key !== field && props.onHere(key)}
      open={field && props.cell ? { row: field, column: props.cell } : null}
      onOpen={(open) => props.onOpen(open?.row ?? field, open?.column ?? null)}
      onKey={key}
      bar={(chosen, done) => <BlockBar scope={weave.scope} cells={cellsOf(chosen)} onDone={done} />}
      empty={
        <Empty title={props.words ? "No field is like that" : props.only ? "Nothing is set here" : "No fields yet"}>
          {props.words
            ? `Nothing here has “${props.words}” in its name.`
            : props.only
              ? "All of it is inherited."
              : "Give the type a field set in Compose."}
        </Empty>
      }
    />
  );
}

function cellsOf({ rows, columns }: Chosen<Row>) {
  return rows.flatMap((row) =>
    columns.flatMap(({ key }) => {
      const cell = cellOf(row, key);
      return cell ? [{ field: row.key, surface: key, version: cell.version, own: cell.own }] : [];
    }),
  );
}
