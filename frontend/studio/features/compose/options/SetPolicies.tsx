import type { Changes } from "../../../state/things";
import { Line, Popover } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { TextBox } from "../../../ui/TextBox";
import type { OptionSet } from "./useOptionSet";

type Put = (change: (now: OptionSet) => Changes<"option_set">, title: string) => void;
const COUNTS = [
  ["add", "added to the product's"],
  ["replace", "in place of the product's"],
] as const;
const POLICIES = [
  ["keep", "stays the product's"],
  ["extend", "the product's, with parts"],
  ["replace", "made of parts alone"],
] as const;
const FIGURES = [
  ["price", "Price"],
  ["weight", "Weight"],
  ["cost", "Cost"],
] as const;

/** How what choices do stands to the product's own: price, weight, cost and SKU. */
export function SetPolicies({ set, put }: { set: OptionSet; put: Put }) {
  const replaced = FIGURES.filter(([code]) => set[code] === "replace").map(([, name]) => name.toLowerCase());
  const sku = POLICIES.find(([code]) => code === (set.sku ?? "extend"))?.[1];
  return (
    <Popover
      label="How it counts"
      width={380}
      trigger={
        <button type="button" className="link">
          {replaced.length > 0 ? `${replaced.join(", ")} in place of the product's` : "added to the product's"}; SKU{" "}
          {sku}
        </button>
      }
    >
      {FIGURES.map(([code, name]) => (
        <Line key={code} label={name}>
          {(id) => (
            <Select
              id={id}
              className="input"
              value={set[code] ?? "add"}
              onChange={(event) =>
                put(() => ({ [code]: event.target.value as "add" | "replace" }), `${name} counted otherwise`)
              }
            >
              {COUNTS.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </Select>
          )}
        </Line>
      ))}
      <Line label="SKU">
        {(id) => (
          <Select
            id={id}
            className="input"
            value={set.sku ?? "extend"}
            onChange={(event) =>
              put(() => ({ sku: event.target.value as "keep" | "extend" | "replace" }), "SKUs made otherwise")
            }
          >
            {POLICIES.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </Select>
        )}
      </Line>
      <Line label="Parts apart by" note="One of . _ / -">
        {(id) => (
          <TextBox
            id={id}
            className="!w-16 font-mono"
            maxLength={3}
            value={set.separator ?? "-"}
            onCommit={(separator) => put(() => ({ separator: separator.trim() }), "SKUs made otherwise")}
          />
        )}
      </Line>
      <p className="hint">Percentages are of the base price, whatever their order.</p>
    </Popover>
  );
}
