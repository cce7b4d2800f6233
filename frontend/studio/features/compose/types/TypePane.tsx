import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { CopyThing } from "../../../things/CopyThing";
import { FieldPicker, Picker } from "../../../things/FieldPicker";
import { RemoveThing } from "../../../things/RemoveThing";
import { Button, counted, Line } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { TextBox } from "../../../ui/TextBox";
import { useTypeWrites } from "./useTypeWrites";

type TypeRow = Things["product_type"];

/** A type's own part: its name, its parent, and the sets and single fields it takes. */
export function TypePane({ row, types }: { row: TypeRow; types: TypeRow[] }) {
  const type = row.thing;
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const fields = useQuery(ask.things("field")).data;
  const optionSets = useQuery(ask.things("option_set")).data ?? [];
  const optionsName = (key: string) => optionSets.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  const { put, putTold, remove, wrong } = useTypeWrites(row);
  const wrongAt = (where: string) => (wrong?.where === where ? wrong.text : null);
  const inherited = types.filter(({ thing }) => row.ancestors.includes(thing.key)).map(({ thing }) => thing);
  const setName = (key: string) => sets.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  const fieldName = (key: string) =>
    fields ? (fields.find(({ thing }) => thing.key === key)?.thing.name ?? key) : "…";
  const taken = new Set([...type.sets, ...inherited.flatMap((parent) => parent.sets)]);
  return (
    <div className="scroll min-h-0 flex-1 pb-4">
      <div className="px-[14px] py-2">
        <Line label="Name" wrong={wrongAt("name")}>
          {(id) => <TextBox id={id} value={type.name} onCommit={(name) => put({ name })} />}
        </Line>
        <Line label="Under" wrong={wrongAt("parent")}>
          {(id) => (
            <Select
              id={id}
              className="input"
              value={type.parent ?? ""}
              onChange={(event) => putTold({ parent: event.target.value || null }, `Move ${type.name}`)}
            >
              <option value="">nothing</option>
              {types
                .filter(({ thing, ancestors }) => thing.key !== type.key && !ancestors.includes(type.key))
                .map(({ thing, path }) => (
                  <option key={thing.key} value={thing.key}>
                    {path}
                  </option>
                ))}
            </Select>
          )}
        </Line>
        <Line label="Address" wrong={wrongAt("slug")} note={`In the shop: /shop/c/${type.slug}`}>
          {(id) => <TextBox id={id} className="font-mono" value={type.slug} onCommit={(slug) => put({ slug })} />}
        </Line>
      </div>
      <Takes
        title="Field sets it takes"
        keys={type.sets}
        name={setName}
        to={(key) => `/compose/sets/${key}`}
        onMove={(next) => put({ sets: next })}
        onOff={(key) =>
          putTold(
            (now) => ({ sets: now.sets.filter((other) => other !== key) }),
            `Take ${setName(key)} off ${type.name}`,
          )
        }
        picker={
          <Picker
            label="Add set"
            what="field set"
            rows={sets
              .filter(({ thing }) => !taken.has(thing.key))
              .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(key) => putTold((now) => ({ sets: [...now.sets, key] }), `Give ${setName(key)} to ${type.name}`)}
          />
        }
      />
      <Takes
        title="Single fields it takes"
        keys={type.fields}
        name={fieldName}
        to={(key) => `/define/fields/${key}`}
        onMove={(next) => put({ fields: next })}
        onOff={(key) =>
          putTold(
            (now) => ({ fields: now.fields.filter((other) => other !== key) }),
            `Take ${fieldName(key)} off ${type.name}`,
          )
        }
        picker={
          <FieldPicker
            label="Add field"
            taken={new Set(type.fields)}
            onPick={(key) =>
              putTold((now) => ({ fields: [...now.fields, key] }), `Give ${fieldName(key)} to ${type.name}`)
            }
          />
        }
      />
      <Takes
        title="Option sets it takes"
        keys={type.option_sets ?? []}
        name={optionsName}
        to={(key) => placeOf("option_set", key)}
        onMove={(next) => putTold(() => ({ option_sets: next }), `Order of option sets of ${type.name}`)}
        onOff={(key) =>
          putTold(
            (now) => ({ option_sets: (now.option_sets ?? []).filter((other) => other !== key) }),
            `Take ${optionsName(key)} off ${type.name}`,
          )
        }
        picker={
          <Picker
            label="Add option set"
            what="option set"
            rows={optionSets
              .filter(({ thing }) => !(type.option_sets ?? []).includes(thing.key))
              .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(key) =>
              putTold(
                (now) => ({ option_sets: [...(now.option_sets ?? []), key] }),
                `Offer ${optionsName(key)} on all ${type.name}`,
              )
            }
          />
        }
      />
      {inherited.map((parent) => (
        <section key={parent.key} className="border-t border-line px-[14px] py-2.5">
          <h3>
            From{" "}
            <Link className="link" to={`/compose/types/${parent.key}`}>
              {parent.name}
            </Link>
          </h3>
          <p className="mt-0.5 text-ink-2">
            {[
              ...parent.sets.map(setName),
              ...parent.fields.map(fieldName),
              ...(parent.option_sets ?? []).map(optionsName),
            ].join(", ") || "nothing of its own"}
          </p>
        </section>
      ))}
      <section className="border-t border-line px-[14px] py-3">
        <Link className="link" to={`/fill/products?type=${type.key}`}>
          {counted(row.below, "product")}
        </Link>
        {" · "}
        <Link className="link" to={`/present/weave?scope=type:${type.key}`}>
          how its fields show
        </Link>
        {" · "}
        <Link className="link" to={`/compose/sheet?types=${[type.key, ...row.ancestors.slice(0, 1)].join(",")}`}>
          side by side
        </Link>
        {" · "}
        <a className="link" href={`/api/product_types/${type.key}/schema.json`} download>
          JSON Schema
        </a>
        <div>
          <CopyThing noun="product_type" thing={type.key} name={type.name} note="beside it, with no product yet" />
          <RemoveThing what="type" name={type.name} noun="product_type" remove={remove} to="/compose/types" />
        </div>
      </section>
    </div>
  );
}

function Takes(props: {
  title: string;
  keys: string[];
  name: (key: string) => string;
  to: (key: string) => string;
  onMove: (next: string[]) => void;
  onOff: (key: string) => void;
  picker: React.ReactNode;
}) {
  const move = (from: number, to: number) => props.onMove(moved(props.keys, from, to));
  return (
    <section className="border-t border-line py-2.5">
      <header className="flex items-center justify-between px-[14px]">
        <h3>{props.title}</h3>
        {props.picker}
      </header>
      {props.keys.length === 0 && <p className="hint px-[14px]">None of its own.</p>}
      <SortableList ids={props.keys} onMove={move}>
        {props.keys.map((key, index) => (
          <SortableRow
            key={key}
            id={key}
            name={props.name(key)}
            className="px-[6px]"
            onStep={(by) => move(index, index + by)}
          >
            <Link className="min-w-0 flex-1 truncate hover:underline" to={props.to(key)}>
              {props.name(key)}
            </Link>
            <Button
              right="edit"
              look="quiet"
              aria-label={`Take off ${props.name(key)}`}
              onClick={() => props.onOff(key)}
            >
              Take off
            </Button>
          </SortableRow>
        ))}
      </SortableList>
    </section>
  );
}
