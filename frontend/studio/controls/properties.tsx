import { ArrowDown, ArrowUp } from "lucide-react";
import type { Schemas } from "../api/client";
import { ConditionButton } from "../conditions/ConditionDialog";
import type { Json } from "../conditions/tree";
import { Button, Segments } from "../ui/basics";
import { Input } from "../ui/inputs";
import { Select } from "../ui/Select";
import { moved } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";

type Choice = { value: unknown; label: string };
type Property = Pick<Schemas["PropertyOut"], "code" | "name" | "control"> & { choices: readonly Choice[] };
type ControlProps = {
  property: Property;
  /** What holds here, wherever it comes from. */
  value: unknown;
  /** What is set here itself; undefined when nothing is. */
  own: unknown;
  onPut: (value: unknown) => void;
};

/** So many letters of choices stand side by side; more of them in a list. */
const SIDE_BY_SIDE = 34;
const MOST_SIDE_BY_SIDE = 4;

/** Yes, no, or as inherited. */
function Switch({ property, value, own, onPut }: ControlProps) {
  return (
    <Segments
      label={property.name}
      value={own === undefined ? "inherit" : own ? "yes" : "no"}
      choices={[
        ["yes", "Yes"],
        ["no", "No"],
        ["inherit", own === undefined ? `Inherited: ${value ? "yes" : "no"}` : "Inherit"],
      ]}
      onChoose={(answer) => onPut(answer === "inherit" ? null : answer === "yes")}
    />
  );
}

function OneOf(props: ControlProps) {
  const { property, value, onPut } = props;
  const letters = property.choices.reduce((sum, choice) => sum + choice.label.length + 2, 0);
  if (letters > SIDE_BY_SIDE || property.choices.length > MOST_SIDE_BY_SIDE) return <Listed {...props} />;
  return (
    <Segments
      label={property.name}
      value={String(value)}
      choices={property.choices.map((choice) => [String(choice.value), choice.label] as const)}
      onChoose={(text) => onPut(property.choices.find((choice) => String(choice.value) === text)?.value)}
    />
  );
}

/** Many choices, or long ones, in a list. */
function Listed({ property, value, onPut }: ControlProps) {
  return (
    <Select
      className="input"
      aria-label={property.name}
      value={String(value ?? "")}
      onChange={(event) => onPut(property.choices.find((choice) => String(choice.value) === event.target.value)?.value)}
    >
      {!property.choices.some((choice) => String(choice.value) === String(value ?? "")) && (
        <option value={String(value ?? "")}>as it is</option>
      )}
      {property.choices.map((choice) => (
        <option key={String(choice.value)} value={String(choice.value)}>
          {choice.label}
        </option>
      ))}
    </Select>
  );
}

/** Ticks, one at least. */
function Choices({ property, value, onPut }: ControlProps) {
  const chosen = (value ?? property.choices.map((choice) => choice.value)) as unknown[];
  return (
    <span className="flex flex-wrap gap-x-2.5">
      {property.choices.map((choice) => (
        <label key={String(choice.value)} className="flex min-h-6 items-center gap-1">
          <Input
            type="checkbox"
            className="tick"
            checked={chosen.includes(choice.value)}
            disabled={chosen.length === 1 && chosen[0] === choice.value}
            onChange={(event) =>
              onPut(
                property.choices
                  .map((other) => other.value)
                  .filter((other) => (other === choice.value ? event.target.checked : chosen.includes(other))),
              )
            }
          />
          {choice.label}
        </label>
      ))}
    </span>
  );
}

function Words({ property, value, onPut }: ControlProps) {
  return (
    <TextBox
      aria-label={property.name}
      placeholder="none of its own"
      value={String(value ?? "")}
      onCommit={(text) => onPut(text.trim() || null)}
    />
  );
}

function Numbered({ property, value, onPut }: ControlProps) {
  return (
    <TextBox
      aria-label={property.name}
      inputMode="numeric"
      value={String(value ?? "")}
      onCommit={(text) => onPut(/^-?\d+$/.test(text.trim()) ? Number(text) : null)}
    />
  );
}

function Condition({ property, value, onPut }: ControlProps) {
  return <ConditionButton label={property.name} value={(value as Json | null) ?? null} onPut={onPut} />;
}

/** Columns of rows: which show, in which order; none chosen means all. */
function RowColumns({ property, value, onPut }: ControlProps) {
  const chosen = (value ?? []) as string[];
  const labels = new Map(property.choices.map((choice) => [String(choice.value), choice.label]));
  const rest = property.choices.filter((choice) => !chosen.includes(String(choice.value)));
  const put = (keys: string[]) => onPut(keys.length > 0 ? keys : null);
  return (
    <fieldset aria-label={property.name} className="min-w-0">
      {chosen.length === 0 && <span className="hint">all of them, in their order</span>}
      {chosen.map((key, index) => (
        <div key={key} className="flex items-center gap-1">
          <label className="flex min-h-6 min-w-0 flex-1 items-center gap-1">
            <Input
              type="checkbox"
              className="tick"
              checked
              onChange={() => put(chosen.filter((other) => other !== key))}
            />
            <span className="truncate">{labels.get(key) ?? key}</span>
          </label>
          {[[-1, "earlier", ArrowUp] as const, [1, "later", ArrowDown] as const].map(([by, words, Icon]) => (
            <button
              key={words}
              type="button"
              className="grid h-6 w-6 place-items-center rounded hover:bg-woad-tint disabled:opacity-30"
              aria-label={`Put ${labels.get(key) ?? key} ${words}`}
              title={words}
              disabled={index + by < 0 || index + by >= chosen.length}
              onClick={() => put(moved(chosen, index, index + by))}
            >
              <Icon size={13} />
            </button>
          ))}
        </div>
      ))}
      {rest.map((choice) => (
        <label key={String(choice.value)} className="flex min-h-6 items-center gap-1 text-ink-2">
          <Input
            type="checkbox"
            className="tick"
            checked={false}
            onChange={() => put([...chosen, String(choice.value)])}
          />
          {choice.label}
        </label>
      ))}
    </fieldset>
  );
}

/** Any of some options, or none; one that is gone can be taken off. */
function VariantOptions({ property, value, onPut }: ControlProps) {
  const chosen = (value ?? []) as string[];
  const known = property.choices.map((choice) => ({ key: String(choice.value), label: choice.label }));
  const gone = chosen.filter((key) => known.every((option) => option.key !== key));
  const all = [...known, ...gone.map((key) => ({ key, label: `${key}, which no option set has` }))];
  if (all.length === 0) return <span className="hint">No option makes variants yet</span>;
  return (
    <span className="flex flex-wrap gap-x-2.5">
      {all.map(({ key, label }) => (
        <label key={key} className="flex min-h-6 items-center gap-1">
          <Input
            type="checkbox"
            className="tick"
            checked={chosen.includes(key)}
            onChange={(event) =>
              onPut(
                all
                  .map((option) => option.key)
                  .filter((other) => (other === key ? event.target.checked : chosen.includes(other))),
              )
            }
          />
          {label}
        </label>
      ))}
    </span>
  );
}

/** A phrase: words, what stands for something between braces, and parts in brackets that fall away. Each token is put in by a press. */
function Phrased({ property, value, onPut }: ControlProps) {
  const text = String(value ?? "");
  return (
    <span className="block min-w-0" data-phrase>
      <TextBox aria-label={property.name} value={text} onCommit={(next) => onPut(next.trim() || null)} />
      <span className="mt-1 flex flex-wrap gap-1">
        {property.choices
          .filter((choice) => !text.includes(`{${choice.value}}`))
          .map((choice) => (
            <Button
              key={String(choice.value)}
              right="edit"
              look="quiet"
              title={`Put ${choice.label} at the end; it falls away where there is none`}
              onClick={(event) => {
                // The button goes once its token stands in the phrase.
                event.currentTarget.closest("[data-phrase]")?.querySelector("input")?.focus();
                onPut(`${text}[, {${choice.value}}]`);
              }}
            >
              + {choice.label}
            </Button>
          ))}
      </span>
    </span>
  );
}

/** The controls that properties of display settings name: one more is one entry here. */
export const PROPERTY_CONTROLS: Record<string, (props: ControlProps) => React.ReactNode> = {
  switch: Switch,
  choice: OneOf,
  choices: Choices,
  text: Words,
  number: Numbered,
  unit: Listed,
  condition: Condition,
  row_columns: RowColumns,
  row_column: Listed,
  variant_options: VariantOptions,
  phrase: Phrased,
};
