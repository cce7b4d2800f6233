import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { NOUNS } from "../../../api/nouns";
import { Button, counted, Empty } from "../../../ui/basics";
import type { Edit, GridColumn, How } from "../../../ui/grid/column";
import { Grid } from "../../../ui/grid/Grid";
import { Input } from "../../../ui/inputs";
import { number } from "../../../ui/locale";
import { Opening } from "../../../ui/Opening";
import { columnsOf } from "./column";
import { SetMany } from "./SetMany";
import { editsOf, type GridRow, type Grid as Known, useVariants } from "./useVariants";

/** Every variant of a product as a row: typed where it stands, filled down, pasted, set many at once. */
export function VariantsGrid({ product }: { product: number }) {
  const { grid, put } = useVariants(product);
  if (!grid) return <Opening />;
  if (grid.rows.length === 0)
    return (
      <Empty title="No variants">
        Nothing that is offered of it makes variants.{" "}
        <Link className="link" to={NOUNS.option_set.base}>
          Option sets
        </Link>{" "}
        say what shoppers choose.
      </Empty>
    );
  return <Variants key={product} grid={grid} put={put} />;
}

function Variants({ grid, put }: { grid: Known; put: ReturnType<typeof useVariants>["put"] }) {
  const [lacking, setLacking] = useState<string | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const [hasCell, setHasCell] = useState(false);
  const cell = useRef<{ row: GridRow; column: GridColumn<GridRow> } | null>(null);
  const offered = useMemo(() => grid.rows.filter((row) => !row.retired), [grid]);
  const rows = useMemo(
    () => (lacking ? offered.filter((row) => row.lacks.includes(lacking)) : grid.rows),
    [grid, offered, lacking],
  );
  const lines = useMemo(() => rows.map((row) => ({ key: String(row.id), row, dim: row.retired })), [rows]);
  const all = rows.length > 0 && rows.every(({ id }) => ticked.has(id));
  const columns = useMemo(() => {
    const head = (
      <Input
        type="checkbox"
        className="tick"
        tabIndex={-1}
        aria-label="Tick all"
        checked={all}
        onChange={() => setTicked(all ? new Set() : new Set(rows.map(({ id }) => id)))}
      />
    );
    return columnsOf({ grid, ticked, head, onTick: ({ id }) => setTicked((old) => turned(old, id)) });
  }, [grid, rows, ticked, all]);
  const typed = columns.filter(({ read }) => read);
  const chosen = rows.filter(({ id }) => ticked.has(id));
  const open = rows.filter(({ retired }) => !retired);

  const write = (edits: readonly Edit[], done?: string) => put((now) => editsOf(edits, now), done);
  function stroke(edits: readonly Edit[], how: How) {
    const count = new Set(edits.map(({ row }) => row)).size;
    return write(edits, how === "typed" ? undefined : `${counted(count, "variant")} ${how}`);
  }
  function fillDown() {
    if (!cell.current?.column.edit) return;
    const { row, column } = cell.current;
    const from = rows.findIndex(({ id }) => id === row.id);
    const to = chosen.length > 0 ? chosen : rows.slice(from + 1).filter(({ retired }) => !retired);
    if (from < 0 || to.length === 0) return;
    const edits = to.map(({ id }) => ({ row: String(id), column: column.key, from: String(row.id) }));
    void write(edits, `${column.name} filled down over ${counted(to.length, "variant")}`).then(
      (refused) => refused && toast.error(refused.why),
    );
  }
  const retired = grid.rows.length - offered.length;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-[14px] pb-2">
        <span className="font-semibold">{grid.formula}</span>
        {retired > 0 && <span className="hint">{number(retired)} retired, below</span>}
        {columns
          .map(({ key, name }) => ({ key, name, count: offered.filter((row) => row.lacks.includes(key)).length }))
          .filter(({ key, count }) => count > 0 || lacking === key)
          .map(({ key, name, count }) => (
            <button
              key={key}
              type="button"
              className="link"
              aria-pressed={lacking === key}
              onClick={() => setLacking(lacking === key ? null : key)}
            >
              {lacking === key ? "All variants" : `${number(count)} without ${name.toLowerCase()}`}
            </button>
          ))}
        <span className="ml-auto flex gap-2">
          <Button
            right="edit"
            disabled={!hasCell}
            title="What stands in the cell at hand, in all that are ticked, or in all below it"
            onClick={fillDown}
          >
            Fill down
          </Button>
          <SetMany
            columns={typed}
            count={chosen.length || open.length}
            ticked={chosen.length > 0}
            onSet={(column, value) => {
              const to = chosen.length > 0 ? chosen : open;
              const edits = to.map(({ id }) => ({ row: String(id), column: column.key, value }));
              return write(edits, `${column.name} of ${counted(to.length, "variant")} set`);
            }}
          />
        </span>
      </div>
      <Grid
        id="variants"
        label="Variants"
        lines={lines}
        columns={columns}
        nameOf={({ name }) => name}
        put={stroke}
        onHere={(row, column) => {
          cell.current = { row, column };
          setHasCell(Boolean(column.edit));
        }}
        onKey={(event, row) => {
          if (event.key !== " ") return false;
          setTicked((old) => turned(old, row.id));
          return true;
        }}
      />
    </div>
  );
}

function turned(ids: ReadonlySet<number>, id: number): ReadonlySet<number> {
  return new Set(ids.has(id) ? [...ids].filter((other) => other !== id) : [...ids, id]);
}
