import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { PRODUCT, placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { LimitsEditor } from "../../../controls/LimitsEditor";
import { LastChanged } from "../../../history/LastChanged";
import { kindUi } from "../../../kinds";
import { asText } from "../../../kinds/base";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { Picker } from "../../../things/FieldPicker";
import { RemoveThing } from "../../../things/RemoveThing";
import { useThingsOf } from "../../../things/useThingsOf";
import { counted, Line, Segments } from "../../../ui/basics";
import { number } from "../../../ui/locale";
import { Select } from "../../../ui/Select";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { type FieldChanges, KindLines } from "./KindLines";
import { TryValue } from "./TryValue";
import { UseElsewhere } from "./UseElsewhere";
import { withFields } from "./withFields";

type Use = Things["field"];

/** One field: its definition, a place to try values, and where it is used. */
export function FieldPane({ use, meta, fresh }: { use: Use; meta: Schemas["MetaOut"]; fresh: boolean }) {
  const field = use.thing;
  const { put: write, remove, current } = useThing("field", use);
  const [wrong, setWrong] = useState<{ where: string[]; text: string } | null>(null);
  const consider = useConsider();
  const kind = meta.kinds.find((kind) => kind.code === field.kind);
  const mapped = meta.schema_org.filter(({ shape }) => kind?.shapes.includes(shape));

  function put(changes: FieldChanges, options: { risky?: boolean } = {}) {
    const run = () =>
      write(changes, {
        onRefused: ({ problem }) =>
          setWrong({ where: problem.where.map(String), text: `${problem.message}. ${problem.help}` }),
      }).then((answer) => answer && setWrong(null));
    const made = () => (typeof changes === "function" ? changes(current().thing) : changes);
    if (options.risky) {
      const members = Object.keys(made()).sort().join();
      consider(`Change ${field.name}`, () => ({ noun: "field", key: field.key, changes: made() }), run, members);
    } else void run();
  }
  const at = (where: string) => (wrong?.where.includes(where) ? wrong.text : null);
  if (!use.own) return <BuiltIn use={use} />;
  return (
    <div className="scroll min-h-0 flex-1">
      <PaneHead title={field.name} note={<span className="key">{field.key}</span>}>
        <Saved />
      </PaneHead>
      {fresh && <NextStep use={use} />}
      <div className="px-[14px] pb-3">
        <Line label="Name" wrong={at("name")}>
          {(id) => <TextBox id={id} value={field.name} onCommit={(name) => put({ name })} />}
        </Line>
        <Line label="Shopper label" wrong={at("label")}>
          {(id) => <TextBox id={id} value={field.label} onCommit={(label) => put({ label })} />}
        </Line>
        <Line label="Recorded of" wrong={at("subject")}>
          {() => (
            <Segments
              label="Recorded of"
              value={field.subject}
              choices={meta.subjects.map((subject) => [subject.code, subject.plural] as const)}
              onChoose={(subject) => put({ subject })}
            />
          )}
        </Line>
        <KindLines field={field} filled={use.filled + use.wrong} meta={meta} wrongAt={at} onPut={put} />
        {(field.many || kind?.several) && (
          <Line label="Order of values">
            {() => (
              <Segments
                label="Order of values"
                value={field.order ?? "by_hand"}
                choices={[
                  ["by_hand", "as they are put"],
                  ["alphabetical", "alphabetical"],
                ]}
                onChoose={(order) => put({ order }, { risky: true })}
              />
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
        {mapped.length > 0 && (
          <Line
            label="Is to machines"
            wrong={at("schema_org")}
            note={field.schema_org ? undefined : "An additional property under its label"}
          >
            {(id) => (
              <Select
                id={id}
                className="input"
                value={field.schema_org ?? ""}
                onChange={(event) => put({ schema_org: event.target.value })}
              >
                <option value="">none of schema.org's properties</option>
                {mapped.map(({ code, label }) => (
                  <option key={code} value={code}>
                    {label} ({code})
                  </option>
                ))}
              </Select>
            )}
          </Line>
        )}
        <Line label="Example" wrong={at("example")}>
          {(id) => (
            <ExampleBox
              id={id}
              kind={field.kind}
              value={field.example}
              usual={use.example}
              onPut={(example) => put({ example })}
            />
          )}
        </Line>
        <Line label="Help for staff" wrong={at("help")}>
          {(id) => <TextBox id={id} rows={2} value={field.help} onCommit={(help) => put({ help })} />}
        </Line>
        {!field.many && field.subject === PRODUCT && kind?.takes_default && (
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
      {kindUi(field.kind).typed && (
        <TryValue key={`${field.kind} ${JSON.stringify(field.options)}`} field={field} example={use.example} />
      )}
      {field.subject === PRODUCT ? <UseOf use={use} /> : <UseElsewhere use={use} />}
      <div className="border-t border-line px-[14px] pb-3">
        <LastChanged noun="field" thing={field.key} />
        <RemoveThing what="field" name={field.name} noun="field" remove={remove} to="/define/fields" />
        <span className="hint ml-2">only when nothing uses it</span>
      </div>
    </div>
  );
}

/** Where a field that was just made goes on: it is filled where products have it, else it goes to a set or type. */
function NextStep({ use: { thing, products } }: { use: Use }) {
  return (
    <p className="mx-[14px] mb-2 rounded border border-line bg-woad-tint px-3 py-2">
      {products > 0 ? (
        <>
          Made.{" "}
          <Link className="link" data-next to={`/fill/products?lacking=${thing.key}&field=${thing.key}`}>
            Fill it: {counted(products, "product")}
          </Link>
        </>
      ) : (
        "Made. No product has it yet: put it in a set or give it to a type below."
      )}
    </p>
  );
}

/** What staff see one of its values typed as: written as values of its kind are. */
function ExampleBox(props: {
  id: string;
  kind: string;
  value: string;
  usual: string;
  onPut: (text: string) => unknown;
}) {
  const { Written, read } = kindUi(props.kind);
  if (!Written) return <TextBox id={props.id} value={props.value} placeholder={props.usual} onCommit={props.onPut} />;
  return (
    <>
      <Written id={props.id} label="Example" value={props.value} onPut={props.onPut} />
      {props.value === "" && <p className="hint mt-1">such as: {read?.(props.usual) ?? props.usual}</p>}
    </>
  );
}

function defaultText(field: Schemas["Field"]): string {
  if (field.default === null || field.default === undefined) return "";
  return kindUi(field.kind).typed?.(field.default as never) ?? asText(field.default);
}

function BuiltIn({ use }: { use: Use }) {
  return (
    <div className="scroll min-h-0 flex-1">
      <PaneHead title={use.thing.name} note={<span className="key">{use.thing.key}</span>} />
      <p className="px-[14px] pb-3 text-ink-2">
        Built in: every product has it, and its definition stays as it is. How it shows is set in the{" "}
        <Link className="link" to={`/present/weave?field=${use.thing.key}`}>
          weave
        </Link>
        .
      </p>
      <UseOf use={use} />
    </div>
  );
}

function UseOf({ use }: { use: Use }) {
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const types = useQuery(ask.things("product_type")).data ?? [];
  const toSet = useThingsOf("field_set");
  const toType = useThingsOf("product_type");
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const names = use.surfaces.map((code) => surfaces.find((surface) => surface.code === code)?.name).join(", ");
  const empty = use.products - use.filled - use.wrong;
  const { key, name } = use.thing;
  return (
    <section className="border-t border-line px-[14px] py-3">
      <h3>Where it is used</h3>
      {use.own && (
        <p className="mt-1">
          {use.sets.length === 0 ? "In no field set" : "Field set "}
          {use.sets.map((set, index) => (
            <span key={set}>
              {index > 0 && ", "}
              <Link className="link" to={placeOf("field_set", set)}>
                {sets.find(({ thing }) => thing.key === set)?.thing.name ?? set}
              </Link>
            </span>
          ))}
          {" → "}
          {use.types.length ? counted(use.types.length, "type") : <span className="text-madder">no type</span>}
        </p>
      )}
      {use.own && (
        <p className="mt-1 flex flex-wrap gap-1">
          <Picker
            label="Put it in a set"
            what="field set"
            rows={sets
              .filter(({ thing }) => !use.sets.includes(thing.key))
              .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(chosen) => {
              const set = sets.find(({ thing }) => thing.key === chosen);
              if (set)
                toSet.put(
                  set,
                  (thing) => ({ sections: withFields(thing.sections, [key]) }),
                  `Put ${name} in ${set.thing.name}`,
                );
            }}
          />
          <Picker
            label="Give it to a type"
            what="product type"
            rows={types
              .filter(({ thing }) => !use.types.includes(thing.key))
              .map(({ thing, path }) => ({ key: thing.key, name: path }))}
            onPick={(chosen) => {
              const type = types.find(({ thing }) => thing.key === chosen);
              if (type)
                toType.put(
                  type,
                  (thing) => ({ fields: [...thing.fields.filter((other) => other !== key), key] }),
                  `Give ${name} to ${type.thing.name}`,
                );
            }}
          />
        </p>
      )}
      <p className="mt-1">{names ? `Shown on ${names}` : "Shown nowhere"}</p>
      <p className="mt-1">
        {number(use.filled)} of {counted(use.products, "product")} filled
        {empty > 0 && (
          <>
            ,{" "}
            <Link className="link" to={`/fill/products?lacking=${use.thing.key}`}>
              {number(empty)} empty
            </Link>
          </>
        )}
      </p>
      {use.wrong > 0 && (
        <p className="mt-1">
          {counted(use.wrong, "value")} wrong or kept aside as typed:{" "}
          <Link className="link" to={`/fill/products?wrong=${use.thing.key}`}>
            see {use.wrong === 1 ? "it" : "them"}
          </Link>
          ,{" "}
          <a className="link" href={`/api/fields/${use.thing.key}/wrong.csv`} download>
            export as CSV
          </a>
        </p>
      )}
    </section>
  );
}
