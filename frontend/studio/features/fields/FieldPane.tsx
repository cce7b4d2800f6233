import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Saved, useSaving } from "../../app/saving";
import { Button, counted, Line, Segments } from "../../ui/basics";
import { PaneHead } from "../../ui/Split";
import { TextBox } from "../../ui/TextBox";
import { consequencesOf, useConsequences } from "../Consequences";
import { LimitsEditor } from "./LimitsEditor";
import { TryValue } from "./TryValue";

type Patch = Omit<Schemas["FieldPatch"], "version">;

/** One field: its definition, a place to try values, and where it is used. */
export function FieldPane({ use, meta }: { use: Schemas["FieldUse"]; meta: Schemas["MetaOut"] }) {
  const { field } = use;
  const { save } = useSaving();
  const go = useNavigate();
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const [dialog, consider] = useConsequences();
  const lists = useQuery(ask.lists()).data?.lists ?? [];
  const kind = meta.kinds.find((one) => one.code === field.kind);

  function put(changes: Partial<Patch>, options: { risky?: boolean } = {}) {
    const write = (version: number) =>
      data(
        client.PATCH("/api/fields/{key}", {
          params: { path: { key: field.key } },
          body: { ...changes, version } as Schemas["FieldPatch"],
        }),
      );
    const run = () =>
      save(() => write(use.version), {
        over: write,
        onRefused: ({ problem }) =>
          setWrong({ where: String(problem.where.at(-1) ?? ""), text: `${problem.message}. ${problem.help}` }),
      }).then((done) => done && setWrong(null));
    if (options.risky) consider(`Change ${field.name}`, () => consequencesOf("fields", field.key, changes), run);
    else run();
  }
  const at = (where: string) => (wrong?.where === where ? wrong.text : null);
  if (!field.own) return <BuiltIn use={use} />;
  return (
    <div className="scroll min-h-0 flex-1">
      <PaneHead title={field.name} note={<span className="key">{field.key}</span>}>
        <Saved />
      </PaneHead>
      <div className="px-[14px] pb-3">
        <Line label="Name" wrong={at("name")}>
          {(id) => <TextBox id={id} value={field.name} onCommit={(name) => put({ name })} />}
        </Line>
        <Line label="Shopper label" wrong={at("label")}>
          {(id) => <TextBox id={id} value={field.label} onCommit={(label) => put({ label })} />}
        </Line>
        <Line label="Kind" wrong={at("kind") ?? at("many")}>
          {(id) => (
            <div className="flex gap-2">
              <select
                id={id}
                className="input"
                value={field.kind}
                onChange={(event) => {
                  const to = meta.kinds.find((one) => one.code === event.target.value);
                  put({
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
                  onChoose={(one) => put({ many: one === "many" })}
                />
              )}
            </div>
          )}
        </Line>
        {kind?.takes_unit && (
          <Line label="Unit" wrong={at("unit")}>
            {(id) => (
              <select
                id={id}
                className="input"
                value={field.unit ?? ""}
                onChange={(event) => put({ unit: event.target.value })}
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
        )}
        {kind?.takes_list && (
          <Line
            label="Value list"
            wrong={at("list")}
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
                onChange={(event) => put({ list: event.target.value })}
              >
                {lists.map((one) => (
                  <option key={one.list.key} value={one.list.key}>
                    {one.list.name}
                  </option>
                ))}
              </select>
            )}
          </Line>
        )}
        <LimitsEditor field={field} kind={kind} wrongAt={at} onPut={(limits) => put({ limits }, { risky: true })} />
        <Line label="Need" note="A product type may make it stricter">
          {() => (
            <Segments
              label="Need"
              value={field.need}
              choices={[
                ["optional", "optional"],
                ["wanted", "wanted"],
                ["required", "required"],
              ]}
              onChoose={(need) => put({ need }, { risky: true })}
            />
          )}
        </Line>
        <Line label="Who it is for">
          {() => (
            <Segments
              label="Who it is for"
              value={field.audience}
              choices={[
                ["shoppers", "shoppers"],
                ["feeds", "other systems"],
                ["staff", "staff"],
              ]}
              onChoose={(audience) => put({ audience }, { risky: true })}
            />
          )}
        </Line>
        <Line label="Example" wrong={at("example")}>
          {(id) => (
            <TextBox
              id={id}
              value={field.example}
              placeholder={kind?.example}
              onCommit={(example) => put({ example })}
            />
          )}
        </Line>
        <Line label="Help for staff" wrong={at("help")}>
          {(id) => <TextBox id={id} rows={2} value={field.help} onCommit={(help) => put({ help })} />}
        </Line>
        {!field.many && field.kind !== "picture" && field.kind !== "many_of" && (
          <Line label="Default" wrong={at("default")} note="Shown where a product has no value">
            {(id) => (
              <TextBox
                id={id}
                value={defaultText(field)}
                onCommit={(text) => put({ default: text.trim() || null }, { risky: true })}
              />
            )}
          </Line>
        )}
      </div>
      {field.kind !== "picture" && <TryValue field={field} example={kind?.example ?? ""} />}
      <UseOf use={use} />
      <div className="border-t border-line px-[14px] py-3">
        <Button
          look="danger"
          onClick={() =>
            save(
              () =>
                data(
                  client.DELETE("/api/fields/{key}", {
                    params: { path: { key: field.key }, query: { version: use.version } },
                  }),
                ),
              {
                done: `${field.name} removed`,
              },
            ).then((done) => done && go("/define/fields"))
          }
        >
          Remove this field
        </Button>
        <span className="hint ml-2">only when nothing uses it</span>
      </div>
      {dialog}
    </div>
  );
}

function defaultText(field: Schemas["Field"]): string {
  const value = field.default as unknown;
  if (value === null || value === undefined) return "";
  if (typeof value === "object" && "amount" in value)
    return `${value.amount} ${(value as { unit?: string }).unit ?? ""}`;
  if (typeof value === "boolean") return value ? "yes" : "no";
  return String(value);
}

function BuiltIn({ use }: { use: Schemas["FieldUse"] }) {
  return (
    <div className="scroll min-h-0 flex-1">
      <PaneHead title={use.field.name} note={<span className="key">{use.field.key}</span>} />
      <p className="px-[14px] pb-3 text-ink-2">
        Built in: every product has it, and its definition stays as it is. How it shows is set in the{" "}
        <Link className="link" to={`/present/weave?field=${use.field.key}`}>
          weave
        </Link>
        .
      </p>
      <UseOf use={use} />
    </div>
  );
}

function UseOf({ use }: { use: Schemas["FieldUse"] }) {
  const sets = useQuery(ask.sets()).data?.sets ?? [];
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const names = use.surfaces.map((code) => surfaces.find((one) => one.code === code)?.name).join(", ");
  const [empty, setEmpty] = useState(use.products - use.filled);
  useEffect(() => setEmpty(use.products - use.filled), [use]);
  return (
    <section className="border-t border-line px-[14px] py-3">
      <h3>Where it is used</h3>
      {use.field.own && (
        <p className="mt-1">
          {use.sets.length === 0 ? "In no field set" : "Field set "}
          {use.sets.map((key, place) => (
            <span key={key}>
              {place > 0 && ", "}
              <Link className="link" to={`/compose/sets/${key}`}>
                {sets.find((one) => one.set.key === key)?.set.name ?? key}
              </Link>
            </span>
          ))}
          {" → "}
          {use.types.length ? counted(use.types.length, "type") : <span className="text-madder">no type</span>}
        </p>
      )}
      <p className="mt-1">{names ? `Shown on ${names}` : "Shown nowhere"}</p>
      <p className="mt-1">
        {use.filled.toLocaleString("en")} of {counted(use.products, "product")} filled
        {empty > 0 && (
          <>
            ,{" "}
            <Link className="link" to={`/fill/products?lacking=${use.field.key}`}>
              {empty.toLocaleString("en")} empty
            </Link>
          </>
        )}
      </p>
    </section>
  );
}
