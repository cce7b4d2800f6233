import type { Schemas } from "../../api/client";
import { Line } from "../../ui/basics";
import { TextBox } from "../../ui/TextBox";

type Limits = Schemas["Limits"];
type Name = keyof Limits;

const PAIRS: [string, Name, Name, string][] = [
  ["Limits", "min", "max", "to"],
  ["Length", "min_length", "max_length", "to"],
  ["How many", "min_count", "max_count", "to"],
  ["At least", "min_width", "min_height", "×"],
];
const WORDS: Partial<Record<Name, string>> = {
  min: "Smallest",
  max: "Largest",
  min_length: "Shortest",
  max_length: "Longest",
  min_count: "Fewest values",
  max_count: "Most values",
  min_width: "Least width in pixels",
  min_height: "Least height in pixels",
};

/** The limits a field of this kind can have. */
export function LimitsEditor(props: {
  field: Schemas["Field"];
  kind?: Schemas["KindOut"];
  wrongAt: (where: string) => string | null;
  onPut: (limits: Limits) => void;
}) {
  const { field, kind } = props;
  const names = new Set<string>([...(kind?.limits ?? []), ...(field.many ? ["min_count", "max_count"] : [])]);
  const put = (name: Name, text: string) => {
    const trimmed = text.trim();
    const number = name === "min" || name === "max" || name === "pattern" ? trimmed : Number(trimmed);
    props.onPut({ ...field.limits, [name]: trimmed === "" ? null : number } as Limits);
  };
  const box = (name: Name, id?: string) => (
    <TextBox
      id={id}
      aria-label={WORDS[name]}
      inputMode="decimal"
      placeholder="any"
      wrong={props.wrongAt(name) !== null}
      value={field.limits[name] === null || field.limits[name] === undefined ? "" : String(field.limits[name])}
      onCommit={(text) => put(name, text)}
    />
  );
  return (
    <>
      {PAIRS.filter(([, low, high]) => names.has(low) || names.has(high)).map(([label, low, high, joiner]) => (
        <Line key={low} label={label} wrong={props.wrongAt(low) ?? props.wrongAt(high)}>
          {(id) => (
            <div className="flex items-center gap-2">
              {names.has(low) && box(low, id)}
              <span className="text-ink-3">{names.has(low) ? joiner : "at most"}</span>
              {names.has(high) && box(high, names.has(low) ? undefined : id)}
            </div>
          )}
        </Line>
      ))}
      {names.has("decimals") && (
        <Line label="Decimals" wrong={props.wrongAt("decimals")}>
          {(id) => (
            <select
              id={id}
              className="input"
              value={field.limits.decimals ?? ""}
              onChange={(event) => put("decimals", event.target.value)}
            >
              <option value="">any</option>
              <option value="0">whole numbers</option>
              {[1, 2, 3, 4, 6].map((count) => (
                <option key={count} value={count}>
                  at most {count}
                </option>
              ))}
            </select>
          )}
        </Line>
      )}
      {names.has("pattern") && (
        <Line label="Pattern" wrong={props.wrongAt("pattern")} note="The whole value must match, such as P[A-Z]+[0-9]+">
          {(id) => (
            <TextBox
              id={id}
              className="font-mono"
              value={field.limits.pattern ?? ""}
              onCommit={(text) => put("pattern", text)}
            />
          )}
        </Line>
      )}
    </>
  );
}
