import type { EditorProps, KindUi } from "./base";
import { useChoices } from "./choices";

function ManyOf({ id, at, onFill }: EditorProps) {
  const choices = useChoices(at.field);
  const chosen = Array.isArray(at.value.value) ? (at.value.value as string[]) : [];
  return (
    <fieldset className="flex flex-wrap gap-x-3.5" aria-labelledby={`${id}-label`}>
      {choices
        .filter((choice) => !choice.retired || chosen.includes(choice.code))
        .map((choice, index) => (
          <label key={choice.code} className="flex min-h-[26px] items-center gap-1.5">
            <input
              id={index === 0 ? id : undefined}
              type="checkbox"
              className="tick"
              checked={chosen.includes(choice.code)}
              onChange={(event) =>
                onFill(
                  choices
                    .map((other) => other.code)
                    .filter((code) => (code === choice.code ? event.target.checked : chosen.includes(code))),
                )
              }
            />
            {choice.label}
          </label>
        ))}
    </fieldset>
  );
}

export const manyOf: KindUi = { code: "many_of", Editor: ManyOf };
