import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { NOUNS } from "../../../api/nouns";
import { kindUi } from "../../../kinds";
import { Button, counted, Empty, Popover } from "../../../ui/basics";
import { isBlock } from "../../../ui/grid/tabbed";
import { number } from "../../../ui/locale";
import { TextBox } from "../../../ui/TextBox";
import { useGrowing } from "../../../ui/useGrowing";
import type { Column } from "./column";
import { SetMany } from "./SetMany";
import { type Grid, type GridRow, pasted, readStock, STOCK, useVariants } from "./useVariants";

type Field = Schemas["Field"];
const PLACE = "data-cell";

/** Every variant of a product as a row: typed where it stands, filled down, pasted, set many at once. */
export function VariantsGrid({ product }: { product: number }) {
  const { grid, put, wrong, setWrong } = useVariants(product);
  const [lacking, setLacking] = useState<string | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const [cell, setCell] = useState<{ id: number; column: string } | null>(null);
  const all = grid?.rows ?? [];
  const offered = all.filter((row) => !row.retired);
  const rows = lacking ? offered.filter((row) => row.lacks.includes(lacking)) : all;
  const [shown, end] = useGrowing(rows.length, 60);
  if (!grid) return null;
  if (all.length === 0)
    return (
      <Empty title="No variants">
        Nothing that is offered of it makes variants.{" "}
        <Link className="link" to={NOUNS.option_set.base}>
          Option sets
        </Link>{" "}
        say what shoppers choose.
      </Empty>
    );
  const columns = columnsOf(grid);
  const typed = columns.filter((column) => !column.field || isTyped(column.field));
  const chosen = rows.filter((row) => ticked.has(row.id));

  function type(row: GridRow, column: Column, text: string) {
    if (column.field) return void put([{ id: row.id, values: { [column.key]: text } }]);
    const read = readStock(text);
    if ("wrong" in read) return setWrong(read.wrong);
    void put([{ id: row.id, values: { [STOCK]: read.amount } }]);
  }
  function paste(event: React.ClipboardEvent) {
    const text = event.clipboardData.getData("text");
    const at = (event.target as HTMLElement).closest(`[${PLACE}]`)?.getAttribute(PLACE);
    if (!at || !isBlock(text)) return;
    event.preventDefault();
    (event.target as HTMLElement).blur();
    const [id, column = ""] = at.split(" ");
    const row = rows.findIndex((found) => String(found.id) === id);
    const made = pasted(
      text,
      rows,
      typed.map(({ key }) => key),
      { row, column },
    );
    if (made.wrong) return setWrong(made.wrong);
    void put(made.edits, `${counted(made.edits.length, "variant")} pasted`).then(
      () => made.over > 0 && setWrong(`${counted(made.over, "cell")} hung over the grid and were left out`),
    );
  }
  function fillDown() {
    if (!cell) return;
    const from = rows.findIndex((row) => row.id === cell.id);
    const source = rows[from];
    if (!source) return;
    const to = chosen.length > 0 ? chosen : rows.slice(from + 1).filter((row) => !row.retired);
    if (to.length === 0) return;
    void put(
      (now) => {
        const from = now.rows.find((row) => row.id === cell.id);
        const value = cell.column === STOCK ? (from?.stock ?? null) : (from?.cells[cell.column]?.typed ?? "");
        return to.map((row) => ({ id: row.id, values: { [cell.column]: value } }));
      },
      `${nameOf(columns, cell.column)} filled down over ${counted(to.length, "variant")}`,
    );
  }
  function keys(event: React.KeyboardEvent<HTMLElement>) {
    if (event.key === "d" && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      (event.target as HTMLElement).blur();
      return fillDown();
    }
    const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" || event.key === "Enter" ? 1 : 0;
    const address = (event.target as HTMLElement).closest(`[${PLACE}]`)?.getAttribute(PLACE);
    if (!by || !address || event.altKey) return;
    const [id, column] = address.split(" ");
    const next = rows[rows.findIndex((row) => String(row.id) === id) + by];
    if (!next) return;
    event.preventDefault();
    event.currentTarget
      .querySelector<HTMLElement>(`[${PLACE}="${next.id} ${column}"] input, [${PLACE}="${next.id} ${column}"] button`)
      ?.focus();
  }
  const tick = (id: number) =>
    setTicked((old) => new Set(old.has(id) ? [...old].filter((other) => other !== id) : [...old, id]));
  const retired = all.length - offered.length;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-[14px] pb-2">
        <span className="font-semibold">{grid.formula}</span>
        {retired > 0 && <span className="hint">{number(retired)} retired, below</span>}
        {columns
          .map((column) => ({ column, count: offered.filter((row) => row.lacks.includes(column.key)).length }))
          .filter(({ column, count }) => count > 0 || lacking === column.key)
          .map(({ column, count }) => (
            <button
              key={column.key}
              type="button"
              className="link"
              aria-pressed={lacking === column.key}
              onClick={() => setLacking(lacking === column.key ? null : column.key)}
            >
              {lacking === column.key ? "All variants" : `${number(count)} without ${column.name.toLowerCase()}`}
            </button>
          ))}
        <span className="ml-auto flex gap-2">
          <Button disabled={!cell} title="Ctrl D" onClick={fillDown}>
            Fill down
          </Button>
          <SetMany
            columns={typed}
            count={chosen.length || rows.filter((row) => !row.retired).length}
            ticked={chosen.length > 0}
            onSet={(column, text) => {
              const read = column === STOCK ? readStock(text) : null;
              if (read && "wrong" in read) return setWrong(read.wrong);
              const value = read ? read.amount : text;
              const to = chosen.length > 0 ? chosen : rows.filter((row) => !row.retired);
              void put(
                to.map((row) => ({ id: row.id, values: { [column]: value } })),
                `${nameOf(columns, column)} of ${counted(to.length, "variant")} set`,
              );
            }}
          />
        </span>
      </div>
      {wrong && (
        <p className="wrongly px-[14px] pb-1" role="alert">
          {wrong}
        </p>
      )}
      <div className="variant-box scroll min-h-0 flex-1 overflow-auto" onPaste={paste}>
        <table className="variant-grid" aria-label="Variants" onKeyDown={keys}>
          <thead>
            <tr>
              <th scope="col">
                <input
                  type="checkbox"
                  className="tick"
                  aria-label="Tick all"
                  checked={rows.length > 0 && chosen.length === rows.length}
                  onChange={() =>
                    setTicked(chosen.length === rows.length ? new Set() : new Set(rows.map((row) => row.id)))
                  }
                />
              </th>
              <th scope="col" className="name">
                {grid.options.map((option) => option.name).join(" · ")}
              </th>
              <th scope="col" className="text-right">
                Costs
              </th>
              {columns.map((column) => (
                <th key={column.key} scope="col">
                  {column.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, shown).map((row) => (
              <tr key={row.id} data-mark={row.id} className={row.retired ? "retired" : ""}>
                <td>
                  <input
                    type="checkbox"
                    className="tick"
                    aria-label={`Tick ${row.name}`}
                    checked={ticked.has(row.id)}
                    onChange={() => tick(row.id)}
                  />
                </td>
                <th scope="row" className="name">
                  <span className="block truncate" title={row.name}>
                    {row.name}
                  </span>
                  {row.retired && <span className="hint block">retired: not offered now</span>}
                  {row.clash && <span className="wrongly block">{row.clash}</span>}
                </th>
                <td className="whitespace-nowrap text-right">
                  {row.price ?? <span className="wrongly">no price</span>}
                </td>
                {columns.map((column) => (
                  <td
                    key={column.key}
                    data-cell={`${row.id} ${column.key}`}
                    onFocus={() => setCell({ id: row.id, column: column.key })}
                  >
                    <Cell
                      row={row}
                      column={column}
                      onType={(text) => type(row, column, text)}
                      onPut={(value) => put([{ id: row.id, values: { [column.key]: value } }])}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <div ref={end} />
      </div>
    </div>
  );
}

function columnsOf(grid: Grid): Column[] {
  const fields = grid.fields.map(({ field, own, made }) => ({ key: field.key, name: field.name, field, own, made }));
  // Stock stands behind the prices, where it is looked for.
  return [...fields.slice(0, 4), { key: STOCK, name: "Stock" }, ...fields.slice(4)];
}

const nameOf = (columns: readonly Column[], key: string) => columns.find((column) => column.key === key)?.name ?? key;

/** Whether values of a field are typed in a line. */
function isTyped(field: Field): boolean {
  return !field.many && kindUi(field.kind).inLine === true;
}

function Cell(props: {
  row: GridRow;
  column: Column;
  onType: (text: string) => void;
  onPut: (value: unknown) => unknown;
}) {
  const { row, column } = props;
  const label = `${column.name} of ${row.name}`;
  if (!column.field)
    return (
      <TextBox
        aria-label={label}
        inputMode="numeric"
        placeholder="–"
        value={row.stock === null ? "" : String(row.stock)}
        onCommit={props.onType}
      />
    );
  const cell = row.cells[column.key];
  if (isTyped(column.field))
    return (
      <>
        <TextBox
          aria-label={label}
          placeholder={(column.made && row.made_sku) || "–"}
          wrong={Boolean(cell?.wrong)}
          title={cell?.wrong || undefined}
          value={cell ? String(cell.typed ?? "") : ""}
          onCommit={props.onType}
        />
        {cell?.wrong && <span className="wrongly block max-w-[160px]">{cell.wrong}</span>}
      </>
    );
  return <Behind row={row} field={column.field} own={column.own ?? false} label={label} onPut={props.onPut} />;
}

/** A value that is not typed, behind what it shows: its kind's own editor. */
function Behind(props: {
  row: GridRow;
  field: Field;
  own: boolean;
  label: string;
  onPut: (value: unknown) => unknown;
}) {
  const { row, field } = props;
  const { Editor } = kindUi(field.kind);
  const cell = row.cells[field.key];
  const first = Array.isArray(cell?.typed) ? (cell.typed[0] as { file?: string } | undefined) : undefined;
  const value = {
    state: cell ? (cell.wrong ? "wrong" : "good") : "empty",
    value: cell?.typed ?? null,
    typed: cell?.typed ?? null,
    shown: cell?.shown ?? "",
    code: null,
    message: cell?.wrong || null,
    help: null,
    wrong_at: [],
    named: [],
  } as Schemas["ValueOut"];
  const at = { field, need: "optional", own: props.own, computed: false, value, surfaces: [], example: "" };
  return (
    <Popover
      label={props.label}
      width={380}
      trigger={
        <Button look="quiet" aria-label={props.label}>
          {first?.file ? (
            <img
              src={`/files/${first.file}-160.webp`}
              alt=""
              width={24}
              height={24}
              className="h-6 w-6 rounded object-cover"
            />
          ) : (
            cell?.shown || "–"
          )}
        </Button>
      }
    >
      <h3 id="variant-value-label" className="mb-2">
        {props.label}
      </h3>
      <Editor
        id="variant-value"
        at={at as unknown as Schemas["EditField"]}
        wrong={Boolean(cell?.wrong)}
        onFill={props.onPut}
        onTyping={() => undefined}
      />
    </Popover>
  );
}
