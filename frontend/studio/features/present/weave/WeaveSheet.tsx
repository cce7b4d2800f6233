import {
  type KeyboardEvent,
  type MouseEvent,
  memo,
  type RefObject,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import type { Schemas } from "../../../api/client";
import { Empty, Floating } from "../../../ui/basics";
import { moveInGrid } from "../../../ui/keys";
import { BlockBar } from "./BlockBar";
import { CellButton, cellWords } from "./CellButton";
import { CellSettings } from "./CellSettings";
import { ColumnHead } from "./ColumnHead";
import { useBlock } from "./useBlock";
import { usePutCell } from "./usePut";

type Weave = Schemas["WeaveOut"];
type Row = Schemas["WeaveRow"];
type Surface = Schemas["SurfaceOut"];

type Props = {
  weave: Weave;
  groups: Weave["groups"];
  surfaces: readonly Surface[];
  sheet: RefObject<HTMLDivElement | null>;
  only: boolean;
  field: string | null;
  cell: string | null;
  onOpen: (field: string, cell: string | null) => void;
  onHere: (field: string) => void;
  onWhy: (field: string, surface: string) => void;
};

/** Fields by surfaces: Space turns a cell over, Enter opens it, W asks why, Shift with arrows chooses a block. */
export function WeaveSheet(props: Props) {
  const { weave, groups, surfaces, field } = props;
  const rows = useMemo(() => groups.flatMap((group) => group.rows), [groups]);
  const block = useBlock(rows.length, surfaces.length);
  const put = usePutCell();
  const table = useRef<HTMLTableElement>(null);
  const [last, setLast] = useState<{ row: number; column: number } | null>(null);
  const wholes = new Map(weave.wholes.map((whole) => [`${whole.field}/${whole.surface}`, whole]));

  const at = (target: EventTarget) => {
    const button = (target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (!button) return null;
    const row = rows.findIndex(({ key }) => key === button.dataset.row);
    const column = surfaces.findIndex(({ code }) => code === button.dataset.surface);
    return row < 0 || column < 0 ? null : { row, column };
  };
  const found = (position: { row: number; column: number }) => {
    const row = rows[position.row] as Row;
    const surface = surfaces[position.column] as Surface;
    return { row, cell: row.cells.find(({ surface: code }) => code === surface.code) as Schemas["CellOut"] };
  };
  function press(event: MouseEvent) {
    const position = at(event.target);
    if (!position) return;
    const grown = block.press(event, position, last);
    if (!grown) setLast(position);
    if (grown) return;
    const { row, cell: pressed } = found(position);
    props.onOpen(row.key, pressed.surface);
  }
  function key(event: KeyboardEvent<HTMLElement>) {
    const position = at(event.target);
    if (!position) return moveInGrid(event);
    const { row, cell: here } = found(position);
    const grown = block.key(event, position);
    if (grown) return focusCell(grown.row, grown.column);
    if (event.key === "Escape" && block.block) {
      event.preventDefault();
      event.stopPropagation();
      return block.clear();
    }
    if (event.key === " ") {
      event.preventDefault();
      const to = { scope: weave.scope, field: row.key, surface: here.surface, version: here.version };
      return void put(to, { shown: !here.settings.shown?.value });
    }
    if (event.key === "w") {
      event.preventDefault();
      event.stopPropagation();
      return props.onWhy(row.key, here.surface);
    }
    if (!event.shiftKey && event.key.startsWith("Arrow") && block.block) block.clear();
    moveInGrid(event);
  }
  function focusCell(row: number, column: number) {
    const wanted = found({ row, column });
    const button = buttonAt(table.current, wanted.row.key, wanted.cell.surface);
    button?.focus();
    button?.scrollIntoView({ block: "nearest" });
  }
  const chosen = block.block
    ? rows.flatMap((row, index) =>
        surfaces.flatMap((surface, column) => {
          const inside = block.holds(index, column) && row.cells.find(({ surface: code }) => code === surface.code);
          return inside ? [{ field: row.key, surface: surface.code, version: inside.version, own: inside.own }] : [];
        }),
      )
    : [];
  const firsts = useMemo(() => startsOf(groups), [groups]);
  return (
    <>
      <div ref={props.sheet} className="scroll min-w-0 flex-1">
        {/* the cells are buttons; their keys and presses are heard here */}
        <table
          ref={table}
          className="rows weave"
          aria-label="Weave"
          onKeyDown={key}
          onClick={press}
          onFocus={(event) => {
            const position = at(event.target);
            if (position && !block.block) setLast(position);
          }}
        >
          <colgroup>
            <col />
            {surfaces.map((surface) => (
              <col key={surface.code} style={{ width: 84 }} />
            ))}
          </colgroup>
          <thead>
            <tr>
              <th>Field</th>
              {surfaces.map((surface) => (
                <th key={surface.code} className="!px-0.5 !text-center">
                  <ColumnHead
                    surface={surface}
                    scope={weave.scope}
                    scopeName={weave.scope_name}
                    layout={weave.layouts.find((layout) => layout.surface === surface.code)}
                    whole={wholes.get(`*/${surface.code}`)}
                  />
                </th>
              ))}
            </tr>
          </thead>
          {groups.map((group, number) => (
            <tbody key={`${group.title} ${group.note}`}>
              <tr className="!cursor-default">
                <th colSpan={surfaces.length + 1} scope="colgroup" className="band !static !shadow-none">
                  {group.title} <span>· {group.note}</span>
                </th>
              </tr>
              {group.rows.map((row, index) => (
                <WeaveLine
                  key={row.key}
                  row={row}
                  surfaces={surfaces}
                  here={row.key === field}
                  said={Object.keys(wholes.get(`${row.key}/*`)?.own ?? {}).length > 0}
                  chosen={surfaces
                    .filter((_, column) => block.holds((firsts[number] as number) + index, column))
                    .map(({ code }) => code)
                    .join()}
                  stop={
                    (firsts[number] as number) + index === (last?.row ?? 0)
                      ? (surfaces[last?.column ?? 0]?.code ?? "")
                      : ""
                  }
                  onHere={props.onHere}
                  onOpen={props.onOpen}
                />
              ))}
            </tbody>
          ))}
        </table>
        {groups.length === 0 && (
          <Empty title={props.only ? "Nothing is set here" : "No fields yet"}>
            {props.only ? "All of it is inherited." : "Give the type a field set in Compose."}
          </Empty>
        )}
      </div>
      <OpenCell {...props} rows={rows} table={table} wholes={wholes} />
      {chosen.length > 1 && <BlockSlot scope={weave.scope} cells={chosen} onDone={block.clear} />}
    </>
  );
}

function BlockSlot(props: Parameters<typeof BlockBar>[0]) {
  return (
    <div className="absolute inset-x-0 bottom-0 z-10">
      <BlockBar {...props} />
    </div>
  );
}

/** How many rows stand before each group. */
function startsOf(groups: Weave["groups"]): number[] {
  let sum = 0;
  return groups.map((group) => {
    const start = sum;
    sum += group.rows.length;
    return start;
  });
}

function buttonAt(table: HTMLTableElement | null, row: string, surface: string): HTMLElement | null {
  return table?.querySelector(`[data-row="${CSS.escape(row)}"][data-surface="${CSS.escape(surface)}"]`) ?? null;
}

/** What floats beside the open cell, or the open row. */
function OpenCell(
  props: Props & {
    rows: readonly Row[];
    table: RefObject<HTMLTableElement | null>;
    wholes: ReadonlyMap<string, Schemas["WholeOut"]>;
  },
) {
  const { weave, field, cell } = props;
  const row = props.rows.find(({ key }) => key === field);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { table } = props;
  const key = row?.key;
  // The cell is there once the sheet is drawn, also when the address asks for it from the start.
  useLayoutEffect(() => {
    setAnchor(key && cell ? buttonAt(table.current, key, cell) : null);
  }, [key, cell, table]);
  if (!row || !cell || !anchor?.isConnected) return null;
  const close = () => props.onOpen(row.key, null);
  if (cell === "*") {
    const whole = props.wholes.get(`${row.key}/*`);
    return (
      <Floating anchor={anchor} label={`${row.name} everywhere`} width={450} onClose={close}>
        <CellSettings
          scope={weave.scope}
          field={row.key}
          surface="*"
          version={whole?.version ?? null}
          title={`${row.name} on every surface`}
          scopeName={weave.scope_name}
        />
      </Floating>
    );
  }
  const here = row.cells.find(({ surface }) => surface === cell);
  const name = props.surfaces.find(({ code }) => code === cell)?.name ?? cell;
  if (!here) return null;
  return (
    <Floating anchor={anchor} label={cellWords(row, here, name)} width={450} onClose={close}>
      <CellSettings
        scope={weave.scope}
        field={row.key}
        surface={cell}
        version={here.version}
        title={`${row.name} on the ${name}`}
        scopeName={weave.scope_name}
        reason={here.reason}
        shown={Boolean(here.settings.shown?.value)}
        onWhy={() => props.onWhy(row.key, cell)}
      />
    </Floating>
  );
}

const WeaveLine = memo(function WeaveLine(props: {
  row: Row;
  surfaces: readonly Surface[];
  here: boolean;
  /** Whether something is said of it on every surface. */
  said: boolean;
  /** The surfaces whose cells are chosen, with commas between. */
  chosen: string;
  /** The surface whose cell Tab stops at, if it is of this row: arrows go on from there. */
  stop: string;
  onHere: (field: string) => void;
  onOpen: (field: string, cell: string) => void;
}) {
  const { row } = props;
  const chosen = props.chosen.split(",");
  return (
    <tr
      className={props.here ? "here" : ""}
      data-mark={row.key}
      onFocus={() => !props.here && props.onHere(row.key)}
      onClick={(event) => (event.target as Element).closest("td:first-child") && props.onHere(row.key)}
    >
      <td title={`${row.name} ${row.key}`}>
        <span className="flex items-baseline gap-1">
          <span className="min-w-0 truncate">
            {row.name} <span className="key ml-1 font-normal">{row.key}</span>
          </span>
          <button
            type="button"
            data-row={row.key}
            data-surface="*"
            className={`ml-auto flex-none rounded px-1 text-[11px] hover:bg-woad-tint ${props.said ? "font-semibold text-woad" : "text-ink-3"}`}
            data-cell
            tabIndex={-1}
            aria-label={`all surfaces at once: ${row.name}`}
            title="On every surface at once"
            onClick={(event) => {
              event.stopPropagation();
              props.onOpen(row.key, "*");
            }}
          >
            all
          </button>
        </span>
      </td>
      {props.surfaces.map((surface) => {
        const cell = row.cells.find(({ surface: code }) => code === surface.code);
        return (
          <td key={surface.code} className="cell">
            {cell && (
              <CellButton
                row={row}
                cell={cell}
                surface={surface.name}
                chosen={chosen.includes(surface.code)}
                stop={props.stop === surface.code}
              />
            )}
          </td>
        );
      })}
    </tr>
  );
});
