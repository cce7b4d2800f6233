import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { LastChanged } from "../../../history/LastChanged";
import { useThing } from "../../../state/things";
import { CopyThing } from "../../../things/CopyThing";
import { Picker } from "../../../things/FieldPicker";
import { RemoveThing } from "../../../things/RemoveThing";
import { useThingsOf } from "../../../things/useThingsOf";
import { Button, counted, FillBar } from "../../../ui/basics";
import { CompareSets } from "./CompareSets";

/** The collections a set is limited to: it comes with being in one of them, and with nothing else. */
function LimitedTo({ row }: { row: Things["field_set"] }) {
  const collections = useQuery(ask.things("collection")).data ?? [];
  const { put } = useThing("field_set", row);
  const consider = useConsider();
  const { key, name, collections: limited } = row.thing;
  const nameOf = (other: string) => collections.find(({ thing }) => thing.key === other)?.thing.name ?? other;
  const limit = (next: string[], title: string) =>
    consider(
      title,
      { noun: "field_set", key: key, changes: { collections: next } },
      () => void put({ collections: next }, { done: title }),
    );
  return (
    <>
      <h3>Which collections it is limited to</h3>
      {limited.length === 0 && <p className="hint mt-1">To none: types that take it have it on all their products.</p>}
      <ul>
        {limited.map((other) => (
          <li key={other} className="mt-1 flex items-center gap-2">
            <Link className="link" to={placeOf("collection", other)}>
              {nameOf(other)}
            </Link>
            <Button
              right="edit"
              look="quiet"
              aria-label={`Take off ${nameOf(other)}`}
              onClick={() =>
                limit(
                  limited.filter((kept) => kept !== other),
                  `No longer limit ${name} to ${nameOf(other)}`,
                )
              }
            >
              Take off
            </Button>
          </li>
        ))}
      </ul>
      <Picker
        label="Limit it to a collection"
        what="collection"
        rows={collections
          .filter(({ thing }) => !limited.includes(thing.key))
          .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
        onPick={(other) => limit([...limited, other], `Limit ${name} to ${nameOf(other)}`)}
      />
    </>
  );
}

/** Where a set is used and how well it is filled; what else it is compared with and copied from. */
export function SetUse({ row }: { row: Things["field_set"] }) {
  const types = useQuery(ask.things("product_type")).data ?? [];
  const { put } = useThingsOf("product_type");
  const { remove } = useThing("field_set", row);
  const limited = row.thing.collections.length > 0;
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const fields = useQuery(ask.things("field")).data ?? [];
  const nameOf = (key: string) => fields.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      {row.values > 0 && (
        <p className="mb-3 flex items-center gap-2">
          <FillBar share={Math.round((100 * row.filled) / row.values)} /> {Math.round((100 * row.filled) / row.values)}{" "}
          % of its values are filled
        </p>
      )}
      <LimitedTo row={row} />
      <h3 className="mt-4">Which types have it</h3>
      {limited && <p className="hint mt-1">It comes with its collections alone, whatever the type.</p>}
      {row.types.length === 0 && !limited && <p className="hint mt-1">No product type takes it yet.</p>}
      <Picker
        label="Give it to a type"
        what="product type"
        rows={types
          .filter(({ thing }) => !row.types.includes(thing.key))
          .map(({ thing, path }) => ({ key: thing.key, name: path }))}
        onPick={(key) => {
          const type = types.find(({ thing }) => thing.key === key);
          if (type)
            put(
              type,
              (thing) => ({ sets: [...thing.sets.filter((other) => other !== row.thing.key), row.thing.key] }),
              `Give ${row.thing.name} to ${type.thing.name}`,
            );
        }}
      />
      <ul>
        {types
          .filter(({ thing }) => row.types.includes(thing.key))
          .map(({ thing, path, products }) => (
            <li key={thing.key} className="mt-1">
              <Link className="link" to={placeOf("product_type", thing.key)}>
                {path}
              </Link>{" "}
              <span className="text-ink-3">
                {thing.sets.includes(row.thing.key) ? "takes it" : "inherits it"}, {counted(products, "product")}
              </span>
            </li>
          ))}
      </ul>
      <p className="mt-4">
        <CompareSets row={row} sets={sets} nameOf={nameOf} />
      </p>
      <CopyThing
        noun="field_set"
        thing={row.thing.key}
        name={row.thing.name}
        note="with the same fields; a value is the same in both"
      />
      <LastChanged noun="field_set" thing={row.thing.key} />
      <RemoveThing what="set" noun="field_set" name={row.thing.name} remove={remove} to="/compose/sets" />
    </section>
  );
}
