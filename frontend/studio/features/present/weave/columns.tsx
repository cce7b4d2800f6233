import type { Schemas } from "../../../api/client";
import { WEFT_WORDS, Weft, type WeftState } from "../../../ui/basics";
import type { GridColumn } from "../../../ui/grid/column";
import { OverCell } from "../../../ui/grid/OverCell";
import { CellSettings } from "./CellSettings";
import { ColumnHead } from "./ColumnHead";

type Weave = Schemas["WeaveOut"];
export type Row = Schemas["WeaveRow"];
type Surface = Schemas["SurfaceOut"];
type Columns = {
  weave: Weave;
  surfaces: readonly Surface[];
  onWhy: (field: string, surface: string) => void;
};

/** The cell that says something of a field on every surface, where its name stands. */
export const EVERYWHERE = "*";
const WIDE = 450;

/** The columns of the weave: the field, and a surface each, with what is said of the whole of it in its head. */
export function columnsOf({ weave, surfaces, onWhy }: Columns): GridColumn<Row>[] {
  const wholes = new Map(weave.wholes.map((whole) => [`${whole.field}/${whole.surface}`, whole]));
  return [fieldColumn(weave, wholes), ...surfaces.map((surface) => surfaceColumn(weave, wholes, surface, onWhy))];
}

type Wholes = ReadonlyMap<string, Schemas["WholeOut"]>;

function fieldColumn(weave: Weave, wholes: Wholes): GridColumn<Row> {
  const wholeOf = ({ key }: Row) => wholes.get(`${key}/*`);
  return {
    key: EVERYWHERE,
    name: "Field",
    width: 190,
    grows: true,
    frozen: true,
    names: true,
    text: ({ name }) => name,
    look: ({ name, key }) => ({ title: `${name} ${key}` }),
    show: (row) => (
      <>
        <span className="min-w-0 truncate">{row.name}</span>
        <span
          className={`ml-auto flex-none px-1 text-[11px] ${Object.keys(wholeOf(row)?.own ?? {}).length > 0 ? "font-semibold text-woad" : "text-ink-3"}`}
          title="On every surface at once: press once more, or Enter"
        >
          all
        </span>
      </>
    ),
    looks: true,
    edit: (row, editing) => (
      <OverCell editing={editing} width={WIDE}>
        <CellSettings
          scope={weave.scope}
          field={row.key}
          surface="*"
          version={wholeOf(row)?.version ?? null}
          title={`${row.name} on every surface`}
          scopeName={weave.scope_name}
        />
      </OverCell>
    ),
  };
}

function surfaceColumn(weave: Weave, wholes: Wholes, surface: Surface, onWhy: Columns["onWhy"]): GridColumn<Row> {
  const cellIn = (row: Row) => cellOf(row, surface.code);
  return {
    key: surface.code,
    name: surface.name,
    head: (
      <ColumnHead
        surface={surface}
        scope={weave.scope}
        scopeName={weave.scope_name}
        layout={weave.layouts.find((layout) => layout.surface === surface.code)}
        whole={wholes.get(`*/${surface.code}`)}
      />
    ),
    width: 80,
    align: "center",
    quick: true,
    show: (row) => {
      const cell = cellIn(row);
      return cell && <Weft state={cell.state as WeftState} />;
    },
    look: (row) => {
      const cell = cellIn(row);
      if (!cell) return undefined;
      const words = cellWords(row, cell, surface.name);
      return { words, title: cell.reason || words, state: cell.state };
    },
    text: (row) => WEFT_WORDS[(cellIn(row)?.state ?? "off") as WeftState],
    edits: (row) => cellIn(row) !== undefined,
    looks: true,
    edit: (row, editing) => {
      const cell = cellIn(row);
      return (
        <OverCell editing={editing} width={WIDE}>
          {cell && (
            <CellSettings
              scope={weave.scope}
              field={row.key}
              surface={surface.code}
              version={cell.version}
              title={`${row.name} on the ${surface.name}`}
              scopeName={weave.scope_name}
              reason={cell.reason}
              shown={Boolean(cell.settings.shown?.value)}
              onWhy={() => onWhy(row.key, surface.code)}
            />
          )}
        </OverCell>
      );
    },
  };
}

export function cellOf(row: Row, surface: string): Schemas["CellOut"] | undefined {
  return row.cells.find((cell) => cell.surface === surface);
}

/** A cell in words: what its pattern says, and where it comes from. */
function cellWords(row: Row, cell: Schemas["CellOut"], surface: string): string {
  const from = cell.settings.shown && cell.state === "inherited" ? ` from ${cell.settings.shown.origin_name}` : "";
  return `${row.name} on the ${surface}: ${WEFT_WORDS[cell.state as WeftState]}${from}`;
}
