import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Things } from "../api/nouns";
import { ask } from "../api/queries";
import { FieldRow } from "./FieldRow";
import { type HolderNoun, useOwnFields } from "./useOwnFields";

/** A thing's own fields, filled as those of products are. */
export function OwnFields<N extends HolderNoun>(props: { noun: N; row: Things[N]; empty?: ReactNode }) {
  const found = useQuery(ask.ownFields(props.noun, props.row.thing.key)).data;
  const { fill } = useOwnFields(props.noun, props.row);
  const [refused, setRefused] = useState<Record<string, string>>({});
  if (!found) return null;
  if (found.fields.length === 0) return props.empty;
  return found.fields.map((at) => (
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
  ));
}
