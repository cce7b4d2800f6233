import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { counted, Line, Segments } from "../../ui/basics";

type Props = {
  field: Schemas["Field"];
  meta: Schemas["MetaOut"];
  wrongAt: (where: string) => string | null;
  onPut: (changes: Partial<Omit<Schemas["FieldPatch"], "version">>) => void;
};

/** What sort of value a field holds: its kind, one or many, and the unit or value list the kind asks for. */
export function KindLines({ field, meta, wrongAt, onPut }: Props) {
  const kind = meta.kinds.find((one) => one.code === field.kind);
  const lists = useQuery(ask.lists()).data?.lists ?? [];
  return (
    <>
      <Line label="Kind" wrong={wrongAt("kind") ?? wrongAt("many")}>
        {(id) => (
          <div className="flex gap-2">
            <select
              id={id}
              className="input"
              value={field.kind}
              onChange={(event) => {
                const to = meta.kinds.find((one) => one.code === event.target.value);
                onPut({
                  kind: event.target.value,
                  unit: to?.takes_unit ? (field.unit ?? "mm") : null,
                  list: to?.takes_list ? (field.list ?? lists[0]?.list.key ?? null) : null,
                  many: to?.takes_many ? field.many : false,
                  limits: {} as Schemas["Limits"],
                  default: null,
                });
              }}
            >
              {meta.kinds.map((one) => (
                <option key={one.code} value={one.code}>
                  {one.name}
                </option>
              ))}
            </select>
            {kind?.takes_many && (
              <Segments
                label="How many values"
                value={field.many ? "many" : "one"}
                choices={[
                  ["one", "one"],
                  ["many", "many"],
                ]}
                onChoose={(one) => onPut({ many: one === "many" })}
              />
            )}
          </div>
        )}
      </Line>
      {kind?.takes_unit && <UnitLine field={field} meta={meta} wrongAt={wrongAt} onPut={onPut} />}
      {kind?.takes_list && <ListLine field={field} meta={meta} wrongAt={wrongAt} onPut={onPut} />}
    </>
  );
}

function UnitLine({ field, meta, wrongAt, onPut }: Props) {
  return (
    <Line label="Unit" wrong={wrongAt("unit")}>
      {(id) => (
        <select
          id={id}
          className="input"
          value={field.unit ?? ""}
          onChange={(event) => onPut({ unit: event.target.value })}
        >
          {[...new Set(meta.units.map((unit) => unit.dimension))].map((dimension) => (
            <optgroup key={dimension} label={dimension}>
              {meta.units
                .filter((unit) => unit.dimension === dimension)
                .map((unit) => (
                  <option key={unit.symbol}>{unit.symbol}</option>
                ))}
            </optgroup>
          ))}
        </select>
      )}
    </Line>
  );
}

function ListLine({ field, wrongAt, onPut }: Props) {
  const lists = useQuery(ask.lists()).data?.lists ?? [];
  return (
    <Line
      label="Value list"
      wrong={wrongAt("list")}
      note={
        <Link className="link" to={`/define/lists/${field.list}`}>
          {counted(lists.find((one) => one.list.key === field.list)?.list.values.length ?? 0, "value")}
        </Link>
      }
    >
      {(id) => (
        <select
          id={id}
          className="input"
          value={field.list ?? ""}
          onChange={(event) => onPut({ list: event.target.value })}
        >
          {lists.map((one) => (
            <option key={one.list.key} value={one.list.key}>
              {one.list.name}
            </option>
          ))}
        </select>
      )}
    </Line>
  );
}
