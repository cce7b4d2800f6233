import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { LimitsEditor } from "../../../controls/LimitsEditor";
import { Line } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { Select } from "../../../ui/Select";
import { TextBox } from "../../../ui/TextBox";
import type { Option, Wrong } from "./useOptionSet";

type Props = {
  /** The key of its set. */
  set: string;
  option: Option;
  kind: Schemas["OptionKindOut"];
  lists: readonly Schemas["ValueList"][];
  wrong: Wrong | null;
  onPut: (change: (now: Option) => Partial<Option>, title: string) => void;
};
const TAKES = [
  ["own", "values of its own"],
  ["some", "some of a value list"],
  ["grows", "all of a value list, as it grows"],
] as const;

/** What an option is: its words, whether it is needed, where its values come from, and the limits of what is given. */
export function OptionDetails({ set, option, kind, lists, wrong, onPut }: Props) {
  const wrongAt = (where: string) => (wrong?.where.includes(where) ? wrong.text : null);
  const title = `${option.name} changed`;
  const from = option.takes ?? "own";
  const values = option.values ?? [];
  const list = lists.find(({ key }) => key === option.list);
  const choices = kind.chooses
    ? from === "grows"
      ? (list?.values ?? [])
      : values.map((value) => list?.values.find((other) => other.code === value.code) ?? value)
    : [];
  return (
    <div className="border-t border-line py-1 pr-3">
      <Line label="Name" wrong={wrongAt("name")}>
        {(id) => (
          <TextBox id={id} value={option.name} onCommit={(name) => onPut(() => ({ name: name.trim() }), title)} />
        )}
      </Line>
      <Line label="Description" note="Told to shoppers beside it">
        {(id) => (
          <TextBox
            id={id}
            maxLength={400}
            value={option.description ?? ""}
            onCommit={(description) => onPut(() => ({ description: description.trim() }), title)}
          />
        )}
      </Line>
      {kind.chooses && (
        <Line label="Values" wrong={wrongAt("list")}>
          {(id) => (
            <span className="flex gap-2">
              <Select
                id={id}
                className="input"
                value={from}
                onChange={(event) =>
                  onPut((now) => source(now, event.target.value as typeof from, lists[0]?.key ?? ""), title)
                }
              >
                {TAKES.map(([value, words]) => (
                  <option key={value} value={value} disabled={value !== "own" && lists.length === 0}>
                    {words}
                  </option>
                ))}
              </Select>
              {from !== "own" && (
                <Select
                  className="input"
                  aria-label={`Value list of ${option.name}`}
                  value={option.list ?? ""}
                  onChange={(event) => onPut(() => ({ list: event.target.value, values: [], default: "" }), title)}
                >
                  {lists.map(({ key, name }) => (
                    <option key={key} value={key}>
                      {name}
                    </option>
                  ))}
                </Select>
              )}
            </span>
          )}
        </Line>
      )}
      {!kind.makes_variants && (
        <Line label="Required">
          {(id) => (
            <Input
              id={id}
              type="checkbox"
              className="tick"
              checked={option.required ?? true}
              onChange={(event) => onPut(() => ({ required: event.target.checked }), title)}
            />
          )}
        </Line>
      )}
      {kind.default && (
        <Line label="Chosen first" wrong={wrongAt("default")}>
          {(id) =>
            kind.chooses ? (
              <Select
                id={id}
                className="input"
                value={option.default ?? ""}
                onChange={(event) => onPut(() => ({ default: event.target.value }), title)}
              >
                <option value="">nothing</option>
                {choices.map(({ code, label }) => (
                  <option key={code} value={code}>
                    {label || code}
                  </option>
                ))}
              </Select>
            ) : (
              <TextBox
                id={id}
                value={option.default ?? ""}
                onCommit={(text) => onPut(() => ({ default: text.trim() }), title)}
              />
            )
          }
        </Line>
      )}
      <LimitsEditor
        field={{ limits: (option.limits ?? {}) as Record<string, unknown>, many: true }}
        kind={{ limits: kind.limits } as Schemas["KindOut"]}
        wrongAt={wrongAt}
        onPut={(limits) => onPut(() => ({ limits: limits as Option["limits"] }), title)}
      />
      <KindLine option={option} kind={kind} onPut={onPut} />
      {kind.chooses && <HowChosen set={set} option={option} />}
    </div>
  );
}

/** Where it is said how shoppers pick of it, which is another matter on each surface. */
function HowChosen({ set, option }: { set: string; option: Option }) {
  const surfaces = (useQuery(ask.meta()).data?.surfaces ?? []).filter(({ options }) => options !== "");
  return (
    <Line label="How it is chosen" note="As buttons, a list box or swatches, their size, shape and label">
      {(id) => (
        <span id={id} className="flex flex-wrap gap-x-3 pt-[5px]">
          {surfaces.map(({ code, name }) => (
            <Link key={code} className="link" to={placeOf("display_setting", `shop/${set}.${option.key}/${code}`)}>
              on the {name.toLowerCase()}
            </Link>
          ))}
        </span>
      )}
    </Line>
  );
}

/** An option whose values come from elsewhere: what of its own there was becomes nothing, as codes of another list would be. */
function source(now: Option, takes: (typeof TAKES)[number][0], first: string): Partial<Option> {
  return { takes, list: takes === "own" ? "" : now.list || first, values: [], default: "" };
}

/** Whether it makes variants or is a request of some kind. */
function KindLine({ option, kind, onPut }: Pick<Props, "option" | "kind" | "onPut">) {
  const kinds = useQuery(ask.meta()).data?.option_kinds ?? [];
  return (
    <Line label="Kind" note="Its values stay where both kinds have values; limits are set anew">
      {(id) => (
        <Select
          id={id}
          className="input"
          value={option.kind ?? kind.code}
          onChange={(event) => {
            const next = kinds.find(({ code }) => code === event.target.value);
            if (!next) return;
            onPut(
              () => ({
                kind: next.code,
                limits: {},
                default: "",
                ...(next.chooses ? {} : { takes: "own" as const, list: "", values: [] }),
                ...(next.makes_variants ? { required: true } : {}),
              }),
              `${option.name} is of another kind`,
            );
          }}
        >
          {kinds.map(({ code, name, makes_variants }) => (
            <option key={code} value={code}>
              {makes_variants ? name : `request: ${name}`}
            </option>
          ))}
        </Select>
      )}
    </Line>
  );
}
