import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { client, data, type Schemas } from "../../../api/client";
import { PRODUCT } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { OPTION_CONTROLS, putFrom } from "../../../controls/options";
import { NewThing } from "../../../things/NewThing";
import { Segments } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { capital } from "../../../ui/locale";
import { Select } from "../../../ui/Select";

type Kind = Schemas["KindOut"];
type Props = { meta: Schemas["MetaOut"]; onMade: (key: string) => Promise<void> };

/** A field in one go: its name, its kind and what that asks for, a list typed on the spot, and where it goes. */
export function NewField({ meta, onMade }: Props) {
  const [params] = useSearchParams();
  const [code, setCode] = useState(params.get("kind") ?? "text");
  const [many, setMany] = useState(false);
  const [options, setOptions] = useState<Record<string, unknown>>({
    record_type: params.get("of"),
    copy: params.get("copy"),
  });
  const [values, setValues] = useState("");
  const [into, setInto] = useState(params.get("into") ?? "");
  const [shown, setShown] = useState<Record<string, boolean>>({});
  const kinds = meta.kinds.filter((kind) => kind.own_fields);
  const kind = kinds.find((kind) => kind.code === code);
  const asked = kind?.options ?? [];
  const typesList = asked.some((option) => OPTION_CONTROLS[option.control]?.Fresh && !options[option.code]);

  async function make(name: string) {
    const chosen = Object.fromEntries(asked.flatMap(({ code }) => (options[code] ? [[code, options[code]]] : [])));
    const [noun, key] = into.split("/");
    const made = await data(
      client.POST("/api/fields/whole", {
        body: {
          name,
          kind: code,
          many: many && (kind?.takes_many ?? false),
          options: chosen,
          values: typesList ? values : null,
          into: noun && key ? { noun, key } : null,
          shown: OF_PRODUCTS.has(noun ?? "") ? shown : {},
        },
      }),
    );
    setValues("");
    setOptions({});
    setShown({});
    await onMade(made.thing.key);
  }
  return (
    <NewThing
      what="field"
      onMake={make}
      width={380}
      places={["kind", "many", "options", "values", "into"]}
      note={(name) => `Its key begins with ${meta.prefix}${name ? "" : ", and is made from the name"}`}
    >
      {(wrongAt) => (
        <>
          <Labelled label="Kind" id="new-kind" wrong={wrongAt("kind") ?? wrongAt("many")}>
            <div className="flex gap-2">
              <Select id="new-kind" className="input" value={code} onChange={(event) => setCode(event.target.value)}>
                {kinds.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </Select>
              {kind?.takes_many && (
                <Segments
                  label="How many values"
                  value={many ? "many" : "one"}
                  choices={[
                    ["one", "one"],
                    ["many", "many"],
                  ]}
                  onChoose={(answer) => setMany(answer === "many")}
                />
              )}
            </div>
          </Labelled>
          {kind && (
            <Options
              kind={kind}
              meta={meta}
              options={options}
              values={values}
              wrongAt={wrongAt}
              onPut={(code, value) => setOptions((old) => ({ ...old, [code]: putFrom(value, old[code]) }))}
              onType={setValues}
            />
          )}
          <Labelled label="Goes to" id="new-into" wrong={wrongAt("into")}>
            <Into id="new-into" value={into} onChoose={setInto} />
          </Labelled>
          {OF_PRODUCTS.has(into.split("/")[0] ?? "") && <ShowsOn meta={meta} shown={shown} onShow={setShown} />}
        </>
      )}
    </NewThing>
  );
}

/** What takes fields of products; "" for nothing yet. */
const OF_PRODUCTS = new Set(["", "field_set", "product_type"]);

type ShowsProps = {
  meta: Schemas["MetaOut"];
  shown: Record<string, boolean>;
  onShow: (shown: Record<string, boolean>) => void;
};

/** Where it shows from the start; what is not said here is as usual on that surface. */
function ShowsOn({ meta, shown, onShow }: ShowsProps) {
  const surfaces = meta.surfaces.filter(({ subject, data }) => subject === PRODUCT && !data);
  return (
    <fieldset className="mt-2">
      <legend className="mb-1">Shows on</legend>
      <span className="flex flex-wrap gap-x-3 gap-y-1">
        {surfaces.map(({ code, name, shows_by_default: usual }) => (
          <label key={code} className="flex items-center gap-1.5">
            <Input
              type="checkbox"
              className="tick"
              checked={shown[code] ?? usual}
              onChange={(event) => {
                const { [code]: _, ...rest } = shown;
                onShow(event.target.checked === usual ? rest : { ...rest, [code]: event.target.checked });
              }}
            />
            {name}
          </label>
        ))}
      </span>
    </fieldset>
  );
}

function Labelled(props: { label: string; id: string; wrong: string | null; children: React.ReactNode }) {
  return (
    <div className="mt-2">
      <label className="mb-1 block" htmlFor={props.id}>
        {props.label}
      </label>
      {props.children}
      {props.wrong && (
        <p className="wrongly mt-1" role="alert">
          {props.wrong}
        </p>
      )}
    </div>
  );
}

type OptionsProps = {
  kind: Kind;
  meta: Schemas["MetaOut"];
  options: Record<string, unknown>;
  values: string;
  wrongAt: (where: string) => string | null;
  onPut: (code: string, value: unknown) => void;
  onType: (text: string) => void;
};

/** What the kind asks for, each with its control; what can be made on the spot is typed below where nothing is chosen. */
function Options({ kind, meta, options, values, wrongAt, onPut, onType }: OptionsProps) {
  return kind.options.map((option) => {
    const control = OPTION_CONTROLS[option.control];
    if (!control) return null;
    const { Control, Fresh } = control;
    const id = `new-${option.code}`;
    const value = options[option.code] || null;
    return (
      <Labelled
        key={option.code}
        label={capital(option.label)}
        id={id}
        wrong={wrongAt("options") ?? (Fresh ? wrongAt("values") : null)}
      >
        <Control
          id={id}
          value={value}
          meta={meta}
          making
          none={Fresh && "a new one, typed below"}
          onPut={(value) => onPut(option.code, value)}
        />
        {Fresh && !value && <Fresh text={values} onType={onType} />}
      </Labelled>
    );
  });
}

/** The sets and types a field can go to, or nothing yet. */
export function Into({ id, value, onChoose }: { id: string; value: string; onChoose: (value: string) => void }) {
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const types = useQuery(ask.things("product_type")).data ?? [];
  const recordTypes = useQuery(ask.things("record_type")).data ?? [];
  return (
    <Select id={id} className="input" value={value} onChange={(event) => onChoose(event.target.value)}>
      <option value="">no set or type yet</option>
      <optgroup label="Field sets">
        {sets.map(({ thing }) => (
          <option key={thing.key} value={`field_set/${thing.key}`}>
            {thing.name}
          </option>
        ))}
      </optgroup>
      <optgroup label="Product types">
        {types.map(({ thing, path }) => (
          <option key={thing.key} value={`product_type/${thing.key}`}>
            {path}
          </option>
        ))}
      </optgroup>
      {recordTypes.length > 0 && (
        <optgroup label="Record types">
          {recordTypes.map(({ thing }) => (
            <option key={thing.key} value={`record_type/${thing.key}`}>
              {thing.name}
            </option>
          ))}
        </optgroup>
      )}
    </Select>
  );
}
