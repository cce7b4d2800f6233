import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask } from "../../api/queries";
import type { Things } from "../../app/nouns";
import { FieldRow } from "../products/FieldRow";
import { useCollection } from "./useCollection";

/** The collection's own fields, filled as those of products are. */
export function OwnFields({ row }: { row: Things["collection"] }) {
  const found = useQuery(ask.ownFields(row.thing.key)).data;
  const { fill } = useCollection(row);
  const [refused, setRefused] = useState<Record<string, string>>({});
  if (!found) return null;
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3" aria-label="Words and picture">
      <p className="hint mb-2">They stand above its listing in the shop.</p>
      {found.fields.map((at) => (
        <FieldRow
          key={at.field.key}
          at={at}
          refused={refused[at.field.key]}
          onFill={(value) =>
            fill({ [at.field.key]: value }, ({ problem }) =>
              setRefused((old) => ({ ...old, [at.field.key]: `${problem.message}. ${problem.help}` })),
            ).then((done) => done && setRefused(({ [at.field.key]: _, ...rest }) => rest))
          }
        />
      ))}
      <p className="hint mt-3">
        More can be recorded of collections: make a field in{" "}
        <Link className="link" to="/define/fields">
          Define
        </Link>{" "}
        and say that it is for collections.
      </p>
    </section>
  );
}
