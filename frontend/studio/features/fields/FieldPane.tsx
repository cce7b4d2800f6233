import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Saved, useSaving } from "../../app/saving";
import { counted, Line, Segments } from "../../ui/basics";
import { PaneHead } from "../../ui/Split";
import { TextBox } from "../../ui/TextBox";
import { consequencesOf, useConsequences } from "../Consequences";
import { RemoveThing } from "../RemoveThing";
import { KindLines } from "./KindLines";
import { LimitsEditor } from "./LimitsEditor";
import { TryValue } from "./TryValue";

type Patch = Omit<Schemas["FieldPatch"], "version">;

/** One field: its definition, a place to try values, and where it is used. */
export function FieldPane({ use, meta }: { use: Schemas["FieldUse"]; meta: Schemas["MetaOut"] }) {
  const { field } = use;
  const { save } = useSaving();
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const [dialog, consider] = useConsequences();
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
        <KindLines field={field} meta={meta} wrongAt={at} onPut={put} />
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
      <div className="border-t border-line px-[14px] pb-3">
        <RemoveThing
          what="field"
          name={field.name}
          remove={() =>
            data(
              client.DELETE("/api/fields/{key}", {
                params: { path: { key: field.key }, query: { version: use.version } },
              }),
            )
          }
          to="/define/fields"
        />
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
