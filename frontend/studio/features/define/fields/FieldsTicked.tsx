import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useRemoveAll } from "../../../considering/useRemoveAll";
import { Picker } from "../../../things/FieldPicker";
import { useThingsOf } from "../../../things/useThingsOf";
import { Button, counted } from "../../../ui/basics";
import { Ticked } from "../../../ui/Ticked";
import { withFields } from "./withFields";

const MergeFieldsDialog = lazy(() =>
  import("../housekeeping/MergeFieldsDialog").then((room) => ({ default: room.MergeFieldsDialog })),
);

type Use = Things["field"];

/** What can be done with several fields at once: put in a set, given to a type, merged, removed; each as one stroke. */
export function FieldsTicked({ uses, onDone }: { uses: readonly Use[]; onDone: () => void }) {
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const types = useQuery(ask.things("product_type")).data ?? [];
  const toSet = useThingsOf("field_set");
  const toType = useThingsOf("product_type");
  const removeAll = useRemoveAll();
  const [merging, setMerging] = useState(false);
  const keys = uses.map(({ thing }) => thing.key);
  const what = uses.length === 1 ? (uses[0]?.thing.name ?? "") : counted(uses.length, "field");
  const [first, second] = uses.length === 2 ? uses : [];
  return (
    <Ticked label="Fields" count={uses.length} words={counted(uses.length, "field")} onClear={onDone}>
      <Picker
        label="Put them in a set"
        what="field set"
        rows={sets.map(({ thing }) => ({ key: thing.key, name: thing.name }))}
        onPick={(chosen) => {
          const set = sets.find(({ thing }) => thing.key === chosen);
          if (set)
            toSet.put(
              set,
              (thing) => ({ sections: withFields(thing.sections, keys) }),
              `Put ${what} in ${set.thing.name}`,
            );
        }}
      />
      <Picker
        label="Give them to a type"
        what="product type"
        rows={types.map(({ thing, path }) => ({ key: thing.key, name: path }))}
        onPick={(chosen) => {
          const type = types.find(({ thing }) => thing.key === chosen);
          if (type)
            toType.put(
              type,
              (thing) => ({ fields: [...thing.fields.filter((key) => !keys.includes(key)), ...keys] }),
              `Give ${what} to ${type.thing.name}`,
            );
        }}
      />
      {first && second && (
        <Button right="edit" onClick={() => setMerging(true)}>
          Merge them…
        </Button>
      )}
      <Button
        look="danger"
        onClick={() =>
          removeAll(
            uses.map(({ thing, version }) => ({ noun: "field", key: thing.key, name: thing.name, version })),
            "field",
            onDone,
          )
        }
      >
        Remove {uses.length === 1 ? "it" : "them"}
      </Button>
      {first && second && merging && (
        <Suspense fallback={null}>
          <MergeFieldsDialog pair={[first.thing, second.thing]} onClose={() => setMerging(false)} />
        </Suspense>
      )}
    </Ticked>
  );
}
