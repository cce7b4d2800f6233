import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Picker } from "../../../things/FieldPicker";
import { useThingsOf } from "../../../things/useThingsOf";
import { counted, Weft } from "../../../ui/basics";
import { number } from "../../../ui/locale";

/** What a collection brings its products, and of how many another one, which comes first, says otherwise. */
export function WhatItDoes({ row }: { row: Things["collection"] }) {
  const { key, name } = row.thing;
  const effect = useQuery(ask.effect(key)).data;
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const { put } = useThingsOf("field_set");
  const free = sets.filter(({ thing }) => !thing.collections.includes(key));
  return (
    <section aria-label="What it says">
      <p className="band">
        What it says <span>· and of how many products, where no collection above says otherwise</span>
      </p>
      <ul className="px-[14px] py-2">
        {effect?.sets.map((set) => (
          <li key={set.key} className="flex flex-wrap items-center gap-2 py-1">
            <Weft small state="here" /> Field set
            <Link className="link" to={placeOf("field_set", set.key)}>
              {set.name}
            </Link>
            <span className="text-ink-3">
              {counted(set.fields, "field")} on {counted(set.products, "product")}, {counted(set.filled, "value")}{" "}
              filled
            </span>
          </li>
        ))}
        {effect?.settings.map((said) => (
          <li key={said.key} className="flex flex-wrap items-center gap-2 py-1">
            <Weft small state={said.follows ? "here" : "off"} />
            <Link className="link" to={placeOf("display_setting", said.key)}>
              {said.field}
            </Link>
            {said.words}
            <span className="text-ink-3">
              {number(said.follows)} of {counted(said.products, "product")}
              {said.others.length > 0 &&
                `; ${number(said.products - said.follows)} ${said.products - said.follows === 1 ? "follows" : "follow"} ${said.others.join(", ")}`}
            </span>
          </li>
        ))}
        {effect && effect.sets.length + effect.settings.length === 0 && (
          <li className="flex items-center gap-2 py-1 text-ink-2">
            <Weft small state="off" /> It says nothing of its products yet.
          </li>
        )}
        <li className="mt-1 flex gap-1">
          <Picker
            label="Limit a field set to it"
            what="field set"
            rows={free.map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(chosen) => {
              const found = free.find(({ thing }) => thing.key === chosen);
              if (found)
                put(
                  found,
                  (thing) => ({ collections: [...thing.collections.filter((other) => other !== key), key] }),
                  `Limit ${found.thing.name} to ${name}`,
                );
            }}
          />
          <Link className="btn quiet" to={`/present/weave?scope=collection:${key}`}>
            Say how its fields show
          </Link>
        </li>
      </ul>
    </section>
  );
}
