import { asText, type EditorProps, type KindUi } from "./base";
import { useChoices } from "./choices";

function OneOf({ id, at, wrong, onFill }: EditorProps) {
  const choices = useChoices(at.field);
  const value = asText(at.value.value ?? at.value.typed);
  const known = choices.some((choice) => choice.code === value);
  return (
    <select
      id={id}
      className={`input ${wrong ? "wrong" : ""}`}
      value={value}
      onChange={(event) => onFill(event.target.value)}
    >
      <option value="">choose one</option>
      {!known && value && <option value={value}>{value}</option>}
      {choices
        .filter((choice) => !choice.retired || choice.code === value)
        .map((choice) => (
          <option key={choice.code} value={choice.code}>
            {choice.label}
            {choice.retired ? " (retired)" : ""}
          </option>
        ))}
    </select>
  );
}

export const oneOf: KindUi = { code: "one_of", Editor: OneOf, typed: (value) => asText(value) };
