import type { Schemas } from "../api/client";
import { Segments } from "../ui/basics";
import { TextBox } from "../ui/TextBox";

type Property = Schemas["PropertyOut"];
type ControlProps = {
  property: Property;
  /** What holds here, wherever it comes from. */
  value: unknown;
  /** What is set here itself; undefined when nothing is. */
  own: unknown;
  onPut: (value: unknown) => void;
};

/** Yes, no, or as inherited. */
function Switch({ property, own, onPut }: ControlProps) {
  return (
    <Segments
      label={property.name}
      value={own === undefined ? "inherit" : own ? "yes" : "no"}
      choices={[
        ["yes", "Yes"],
        ["no", "No"],
        ["inherit", "Inherit"],
      ]}
      onChoose={(answer) => onPut(answer === "inherit" ? null : answer === "yes")}
    />
  );
}

function Choice({ property, value, onPut }: ControlProps) {
  return (
    <Segments
      label={property.name}
      value={String(value)}
      choices={property.choices.map((choice) => [String(choice.value), choice.label] as const)}
      onChoose={onPut}
    />
  );
}

/** Ticks, one at least. */
function Choices({ property, value, onPut }: ControlProps) {
  const chosen = (value ?? []) as unknown[];
  return (
    <span className="flex flex-wrap gap-x-2.5">
      {property.choices.map((choice) => (
        <label key={String(choice.value)} className="flex min-h-6 items-center gap-1">
          <input
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
      placeholder="the field's own"
      value={String(value ?? "")}
      onCommit={(text) => onPut(text.trim() || null)}
    />
  );
}

/** The controls that properties of display settings name: one more is one entry here. */
export const PROPERTY_CONTROLS: Record<string, (props: ControlProps) => React.ReactNode> = {
  switch: Switch,
  choice: Choice,
  choices: Choices,
  text: Words,
};
