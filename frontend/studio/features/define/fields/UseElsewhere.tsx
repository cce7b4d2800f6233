import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Picker } from "../../../things/FieldPicker";
import { useThingsOf } from "../../../things/useThingsOf";
import { counted } from "../../../ui/basics";

type Use = Things["field"];

/** Where a field is used that is recorded of other things than products: what takes it, and where it can go. */
export function UseElsewhere({ use }: { use: Use }) {
  const { key, name, subject } = use.thing;
  const meta = useQuery(ask.meta()).data;
  const uses = useQuery(ask.uses("field", key)).data?.uses ?? [];
  const takers = (meta?.nouns ?? []).filter((noun) => noun.takes === subject);
  const words = meta?.subjects.find(({ code }) => code === subject)?.plural ?? subject;
  return (
    <section className="border-t border-line px-[14px] py-3">
      <h3>Where it is used</h3>
      <p className="mt-1">
        Recorded of {words}
        {use.filled + use.wrong > 0 && `, ${counted(use.filled + use.wrong, "value")} filled`}
      </p>
      <ul>
        {uses
          .filter(({ place }) => place !== "filled")
          .map((user) => (
            <li key={`${user.noun}/${user.key}`} className="mt-1">
              <Link className="link" to={placeOf(user.noun, user.key)}>
                {user.name}
              </Link>{" "}
              <span className="text-ink-3">{user.noun.replaceAll("_", " ")}</span>
            </li>
          ))}
      </ul>
      {takers.length > 0 && <GiveToRecordType field={key} name={name} taken={uses.map((user) => user.key)} />}
    </section>
  );
}

function GiveToRecordType({ field, name, taken }: { field: string; name: string; taken: readonly string[] }) {
  const types = useQuery(ask.things("record_type")).data ?? [];
  const { put } = useThingsOf("record_type");
  return (
    <Picker
      label="Give it to a record type"
      what="record type"
      rows={types
        .filter(({ thing }) => !taken.includes(thing.key))
        .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
      onPick={(chosen) => {
        const type = types.find(({ thing }) => thing.key === chosen);
        if (type)
          put(type, (thing) => ({ fields: [...(thing.fields ?? []), field] }), `Give ${name} to ${type.thing.name}`);
      }}
    />
  );
}
