import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Saved } from "../../../state/saving";
import { useThingsOf } from "../../../things/useThingsOf";
import { useAddress } from "../../../ui/address";
import { Button, counted, Empty, FillBar, Popover, Weft, type WeftState } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { rank } from "../../../ui/finding";
import type { GridColumn, Line } from "../../../ui/grid/column";
import { Grid } from "../../../ui/grid/Grid";
import { OverCell } from "../../../ui/grid/OverCell";
import { Input } from "../../../ui/inputs";
import { Opening } from "../../../ui/Opening";
import { ForAll } from "../../../ui/rights";
import { PaneHead } from "../../../ui/Split";

type Sheet = Schemas["TypeSheetOut"];
type Cell = Schemas["SheetCellOut"];
type Type = Schemas["SheetTypeOut"];
type Row = Schemas["SheetFieldOut"];

/** All types and fields woven: who has what, from where, how well it is filled; a tick gives a field to a type. */
export default function SheetView() {
  const sheet = useQuery(ask.sheet()).data;
  const [chosen, setChosen] = useAddress("types");
  const [only, setOnly] = useAddress("only");
  const [words, setWords] = useState("");
  const { put } = useThingsOf("product_type");
  const things = useQuery(ask.things("product_type")).data ?? [];
  const keys = useMemo(() => (chosen ? chosen.split(",") : []), [chosen]);
  const types = useMemo(
    () => (sheet?.types ?? []).filter(({ key }) => keys.length === 0 || keys.includes(key)),
    [sheet, keys],
  );
  const differing = only === "1";
  const lines = useMemo(() => (sheet ? linesOf(sheet, types, words, differing) : []), [sheet, types, words, differing]);
  const columns = sheet && [FIELD, ...types.map((type) => columnOf(type, sheet, turn))];
  const count = lines.filter((line) => "row" in line).length;
  if (!sheet || !columns) return <Opening />;
  /** Give a field to a type as a single field, or take it off where it is one. */
  function turn(type: Type, field: Row, cell: Cell | undefined) {
    const row = things.find(({ thing }) => thing.key === type.key);
    if (!row) return;
    const title = cell ? `Take ${field.name} off ${type.name}` : `Give ${field.name} to ${type.name}`;
    put(
      row,
      (thing) => ({
        fields: cell ? thing.fields.filter((key) => key !== field.key) : [...thing.fields, field.key],
      }),
      title,
    );
  }
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Who has what">
      <PaneHead title="Who has what" note={`${counted(types.length, "type")}, ${counted(count, "field")}`}>
        <Saved />
      </PaneHead>
      <div className="flex flex-none flex-wrap items-center gap-2 px-[14px] pb-2">
        <FindBox label="Find a field" className="input !w-52" text={words} onText={setWords} />
        <ChooseTypes types={sheet.types} chosen={keys} onChoose={(next) => setChosen(next.join(",") || null)} />
        <button type="button" className="btn" aria-pressed={differing} onClick={() => setOnly(differing ? null : "1")}>
          only what differs
        </button>
        <ul className="ml-auto flex flex-wrap gap-x-4 text-[12px] text-ink-2" aria-label="What the patterns mean">
          <li className="flex items-center gap-1.5">
            <Weft state="here" /> taken here
          </li>
          <li className="flex items-center gap-1.5">
            <Weft state="inherited" /> from above
          </li>
          <li className="flex items-center gap-1.5">
            <Weft state="off" /> not there: press to give it
          </li>
        </ul>
      </div>
      <Grid
        id="who-has-what"
        label="Fields by type"
        lines={lines}
        columns={columns}
        nameOf={({ name }) => name}
        headHeight={46}
        lineHeight={36}
        empty={
          <Empty title={words ? "No field of that name" : differing ? "Nothing differs" : "No fields yet"}>
            {words
              ? "Look for another part of its name."
              : differing
                ? "These types have the same fields."
                : "Make a product type and a field set, and give the one the other."}
          </Empty>
        }
      />
    </section>
  );
}

/** The fields that are looked for, below the set that brings them. */
function linesOf(sheet: Sheet, types: readonly Type[], words: string, differing: boolean): Line<Row>[] {
  return sheet.groups.flatMap((group) => {
    const fields = group.fields.filter(
      (field) =>
        rank(words, { name: field.name, also: [field.key] }) !== null &&
        (!differing || differs(types.map(({ key }) => sheet.cells[key]?.[field.key]))),
    );
    const rows = fields.map((field) => ({ key: field.key, row: field }));
    return rows.length > 0 ? [{ key: `group: ${group.title}`, band: bandOf(group) }, ...rows] : [];
  });
}

function bandOf({ set, title }: Sheet["groups"][number]) {
  return set ? (
    <Link tabIndex={-1} to={placeOf("field_set", set)}>
      {title}
    </Link>
  ) : (
    title
  );
}

const FIELD: GridColumn<Row> = {
  key: "field:",
  name: "Field",
  width: 230,
  frozen: true,
  names: true,
  show: ({ key, name }) => (
    <Link className="block truncate hover:underline" tabIndex={-1} to={placeOf("field", key)} title={key}>
      {name}
    </Link>
  ),
  text: ({ name }) => name,
};

type Turn = (type: Type, field: Row, cell: Cell | undefined) => void;

/** A type's column: a press gives what it lacks, and opens what it has. */
function columnOf(type: Type, sheet: Sheet, turn: Turn): GridColumn<Row> {
  const cellOf = ({ key }: Row) => sheet.cells[type.key]?.[key];
  return {
    key: type.key,
    name: type.name,
    width: 84,
    align: "center",
    quick: true,
    head: (
      <Link className="block min-w-0 text-center hover:underline" tabIndex={-1} to={placeOf("product_type", type.key)}>
        {type.depth > 0 && (
          <span className="block truncate text-[10.5px] font-normal text-ink-3">{type.path.split(" › ").at(-2)}</span>
        )}
        <span className="block truncate">{type.name}</span>
      </Link>
    ),
    show: (field) => <Mark cell={cellOf(field)} type={type} />,
    look: (field) => ({ words: wordsOf(field, type, cellOf(field), sheet), state: cellOf(field)?.how ?? "off" }),
    text: (field) => cellOf(field)?.need ?? "",
    press: (field) => turn(type, field, undefined),
    edits: (field) => cellOf(field) !== undefined,
    looks: true,
    edit: (field, editing) => {
      const cell = cellOf(field);
      const take = () => {
        editing.leave("stay");
        turn(type, field, cell);
      };
      return (
        <OverCell editing={editing} width={320}>
          {cell && <Had field={field} type={type} cell={cell} sheet={sheet} onTake={take} />}
        </OverCell>
      );
    },
  };
}

/** Whether types differ in a field: some have it and some not, or need it otherwise. */
function differs(cells: (Cell | undefined)[]): boolean {
  return new Set(cells.map((cell) => (cell ? cell.need : ""))).size > 1;
}

function wordsOf(field: Row, type: Type, cell: Cell | undefined, sheet: Sheet): string {
  if (!cell) return `${field.name}: ${type.name} does not have it. Give it`;
  return `${field.name}: ${type.name} has it, ${from(cell, type, sheet)}, ${cell.need}, ${cell.filled} of ${counted(type.products, "product")} filled`;
}

function Mark({ cell, type }: { cell: Cell | undefined; type: Type }) {
  if (!cell) return <Weft state="off" />;
  const state: WeftState = cell.how === "inherited" ? "inherited" : "here";
  return (
    <span className="sheet-cell">
      <Weft state={state} />
      {cell.need !== "optional" && (
        <span aria-hidden="true" className={`need ${cell.need}`}>
          {cell.need === "required" ? "!" : "·"}
        </span>
      )}
      <FillBar share={type.products ? Math.round((100 * cell.filled) / type.products) : 0} width={26} />
    </span>
  );
}

type HadProps = { field: Row; type: Type; cell: Cell; sheet: Sheet; onTake: () => void };

/** How a type has a field, how well it is filled, and where that is changed. */
function Had({ field, type, cell, sheet, onTake }: HadProps) {
  return (
    <>
      <h3>{field.name}</h3>
      <p className="mt-1">
        {type.name} has it {from(cell, type, sheet)}.
      </p>
      <p className="mt-1">
        {cell.filled} of {counted(type.products, "product")} filled
        {cell.wrong > 0 && <span className="wrongly"> · {cell.wrong} wrong</span>}
      </p>
      <Asks asks={cell.asks} need={cell.need} names={(key) => nameOf(sheet, key)} />
      {cell.sets.length > 1 && (
        <p className="hint mt-1">It comes by {cell.sets.map((key) => titleOf(sheet, key)).join(" and ")}: one value.</p>
      )}
      <div className="mt-3 flex gap-2">
        {cell.how === "here" && (
          <Button right="edit" onClick={onTake}>
            Take it off
          </Button>
        )}
        {cell.how === "set" && cell.sets[0] && (
          <Link className="btn" to={placeOf("field_set", cell.sets[0])}>
            Open the set
          </Link>
        )}
        {cell.how === "inherited" && (
          <Link className="btn" to={placeOf("product_type", cell.by)}>
            Open {nameOf(sheet, cell.by)}
          </Link>
        )}
        <Link className="btn" to={`/fill/products?type=${type.key}&lacking=${field.key}`}>
          Those that lack it
        </Link>
      </div>
    </>
  );
}

function nameOf(sheet: Sheet, key: string): string {
  return sheet.types.find((type) => type.key === key)?.name ?? key;
}

function titleOf(sheet: Sheet, key: string): string {
  return sheet.groups.find((group) => group.set === key)?.title ?? key;
}

function from(cell: Cell, type: Type, sheet: Sheet): string {
  const set = cell.sets[0] ? `by ${titleOf(sheet, cell.sets[0])}` : "as a single field";
  return cell.by === type.key ? set : `from ${nameOf(sheet, cell.by)}, ${set}`;
}

/** Who asks how much a field is needed; where they ask for different things, that is said, and which holds. */
export function Asks(props: { asks: readonly Schemas["AskOut"][]; need: string; names: (key: string) => string }) {
  const different = new Set(props.asks.map(({ need }) => need)).size > 1;
  if (!different) return null;
  const needs = props.asks.map(({ type, need }) => `${props.names(type)} asks ${need}`);
  return (
    <p className="mt-1 text-weld-ink" role="note">
      {needs.join(", ")}: {props.need}, the strictest, holds.
    </p>
  );
}

function ChooseTypes(props: { types: readonly Type[]; chosen: string[]; onChoose: (keys: string[]) => void }) {
  const { types, chosen, onChoose } = props;
  const label = chosen.length === 0 ? "every type" : counted(chosen.length, "type");
  return (
    <ForAll>
      <Popover label="Which types" width={280} trigger={<Button>{label} ▾</Button>}>
        <fieldset className="scroll max-h-72">
          <legend className="sr">Which types</legend>
          {types.map((type) => (
            <label
              key={type.key}
              className="flex min-h-[26px] items-center gap-1.5"
              style={{ paddingLeft: type.depth * 16 }}
            >
              <Input
                type="checkbox"
                className="tick"
                checked={chosen.includes(type.key)}
                onChange={() =>
                  onChoose(chosen.includes(type.key) ? chosen.filter((key) => key !== type.key) : [...chosen, type.key])
                }
              />
              {type.name}
            </label>
          ))}
        </fieldset>
        <div className="mt-2 flex justify-between">
          <span className="hint">Two or more are compared side by side.</span>
          {chosen.length > 0 && (
            <button type="button" className="link" onClick={() => onChoose([])}>
              all of them
            </button>
          )}
        </div>
      </Popover>
    </ForAll>
  );
}
