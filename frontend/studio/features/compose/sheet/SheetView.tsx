import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Saved } from "../../../state/saving";
import { useThingsOf } from "../../../things/useThingsOf";
import { useAddress } from "../../../ui/address";
import { Button, counted, Empty, FillBar, Popover, Weft, type WeftState } from "../../../ui/basics";
import { moveInGrid } from "../../../ui/keys";
import { PaneHead } from "../../../ui/Split";
import { useGrowing } from "../../../ui/useGrowing";

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
  const { put, dialog } = useThingsOf("product_type");
  const things = useQuery(ask.things("product_type")).data ?? [];
  const box = useRef<HTMLDivElement>(null);
  const keys = chosen ? chosen.split(",") : [];
  const types = (sheet?.types ?? []).filter(({ key }) => keys.length === 0 || keys.includes(key));
  const differing = only === "1";
  const rows = (sheet?.groups ?? [])
    .map((group) => ({
      ...group,
      fields: group.fields.filter(
        (field) =>
          field.name.toLowerCase().includes(words.trim().toLowerCase()) &&
          (!differing || differs(types.map(({ key }) => sheet?.cells[key]?.[field.key]))),
      ),
    }))
    .filter((group) => group.fields.length > 0);
  const count = rows.reduce((sum, group) => sum + group.fields.length, 0);
  const [shown, end] = useGrowing(count, 120);
  if (!sheet) return null;
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
  let drawn = 0;
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Who has what">
      <PaneHead title="Who has what" note={`${counted(types.length, "type")}, ${counted(count, "field")}`}>
        <Saved />
      </PaneHead>
      <div className="flex flex-none flex-wrap items-center gap-2 px-[14px] pb-2">
        <input
          type="search"
          className="input !w-52"
          aria-label="Find a field"
          placeholder="Find a field"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
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
      <div ref={box} className="scroll min-h-0 flex-1">
        <table className="rows sheet" aria-label="Fields by type" onKeyDown={moveInGrid}>
          <colgroup>
            <col style={{ width: 230 }} />
            {types.map((type) => (
              <col key={type.key} style={{ width: 84 }} />
            ))}
            <col />
          </colgroup>
          <thead>
            <tr>
              <th className="!left-0 !z-[3]">Field</th>
              {types.map((type) => (
                <th key={type.key} className="!text-center" title={type.path}>
                  <Link className="block hover:underline" to={placeOf("product_type", type.key)}>
                    {type.depth > 0 && (
                      <span className="block text-[10.5px] font-normal text-ink-3">{above(type)}</span>
                    )}
                    {type.name}
                  </Link>
                </th>
              ))}
              <td className="!border-0" />
            </tr>
          </thead>
          {rows.map((group) => (
            <tbody key={group.title}>
              <tr className="!cursor-default">
                <th colSpan={types.length + 2} scope="colgroup" className="band !static !shadow-none">
                  {group.set ? <Link to={placeOf("field_set", group.set)}>{group.title}</Link> : group.title}
                </th>
              </tr>
              {group.fields.map((field) => {
                drawn += 1;
                if (drawn > shown) return null;
                return (
                  <tr key={field.key} data-mark={field.key} className="!cursor-default">
                    <td className="sticky left-0 z-[1] bg-white">
                      <Link
                        className="block truncate hover:underline"
                        to={placeOf("field", field.key)}
                        title={field.key}
                      >
                        {field.name}
                      </Link>
                    </td>
                    {types.map((type) => (
                      <td key={type.key} className="!px-0 text-center">
                        <SheetCell
                          type={type}
                          field={field}
                          cell={sheet.cells[type.key]?.[field.key]}
                          sheet={sheet}
                          onTurn={turn}
                        />
                      </td>
                    ))}
                    <td />
                  </tr>
                );
              })}
            </tbody>
          ))}
        </table>
        <div ref={end} />
        {count === 0 && (
          <Empty title={differing ? "Nothing differs" : "No field of that name"}>
            {differing ? "These types have the same fields." : "Look for another part of its name."}
          </Empty>
        )}
      </div>
      {dialog}
    </section>
  );
}

function above(type: Type): string {
  return type.path.split(" › ").at(-2) ?? "";
}

/** Whether types differ in a field: some have it and some not, or need it otherwise. */
function differs(cells: (Cell | undefined)[]): boolean {
  return new Set(cells.map((cell) => (cell ? cell.need : ""))).size > 1;
}

type CellProps = {
  type: Type;
  field: Row;
  cell: Cell | undefined;
  sheet: Sheet;
  onTurn: (type: Type, field: Row, cell: Cell | undefined) => void;
};

function SheetCell({ type, field, cell, sheet, onTurn }: CellProps) {
  const [open, setOpen] = useState(false);
  if (!cell)
    return (
      <button
        type="button"
        data-cell
        className="sheet-cell"
        aria-label={`${field.name}: ${type.name} does not have it. Give it`}
        title={`Give ${field.name} to ${type.name}`}
        onClick={() => onTurn(type, field, undefined)}
      >
        <Weft state="off" />
      </button>
    );
  const share = type.products ? Math.round((100 * cell.filled) / type.products) : 0;
  const state: WeftState = cell.how === "inherited" ? "inherited" : "here";
  const words = `${field.name}: ${type.name} has it, ${from(cell, type, sheet)}, ${cell.need}, ${cell.filled} of ${counted(type.products, "product")} filled`;
  return (
    <Popover
      label={`${field.name} of ${type.name}`}
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" data-cell className="sheet-cell" aria-label={words} title={words}>
          <Weft state={state} />
          {cell.need !== "optional" && (
            <span aria-hidden="true" className={`need ${cell.need}`}>
              {cell.need === "required" ? "!" : "·"}
            </span>
          )}
          <FillBar share={share} width={26} />
        </button>
      }
    >
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
          <Button
            onClick={() => {
              setOpen(false);
              onTurn(type, field, cell);
            }}
          >
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
    </Popover>
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
    <Popover label="Which types" width={280} trigger={<Button>{label} ▾</Button>}>
      <fieldset className="scroll max-h-72">
        <legend className="sr">Which types</legend>
        {types.map((type) => (
          <label
            key={type.key}
            className="flex min-h-[26px] items-center gap-1.5"
            style={{ paddingLeft: type.depth * 16 }}
          >
            <input
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
  );
}
