import { X } from "lucide-react";
import { Button, Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";
import type { EditorProps, KindUi } from "./base";
import { isLong, useChoices } from "./choices";

function ManyOf({ id, at, onFill }: EditorProps) {
  const choices = useChoices(at.field);
  const chosen = Array.isArray(at.value.value) ? (at.value.value as string[]) : [];
  const offered = choices.filter((choice) => !choice.retired || chosen.includes(choice.code));
  const tick = (code: string) =>
    onFill(
      choices
        .map((other) => other.code)
        .filter((other) => (other === code ? !chosen.includes(code) : chosen.includes(other))),
    );
  if (isLong(offered)) return <Searched id={id} at={at} offered={offered} chosen={chosen} onTick={tick} />;
  return (
    <fieldset className="flex flex-wrap gap-x-3.5" aria-labelledby={`${id}-label`}>
      {offered.map((choice, index) => (
        <label key={choice.code} className="flex min-h-[26px] items-center gap-1.5">
          <input
            id={index === 0 ? id : undefined}
            type="checkbox"
            className="tick"
            checked={chosen.includes(choice.code)}
            onChange={() => tick(choice.code)}
          />
          {choice.label}
        </label>
      ))}
    </fieldset>
  );
}

type SearchedProps = Pick<EditorProps, "id" | "at"> & {
  offered: ReturnType<typeof useChoices>;
  chosen: readonly string[];
  onTick: (code: string) => void;
};

/** Many of a long list: those ticked, each to be taken off, and the list to search while typing. */
function Searched({ id, at, offered, chosen, onTick }: SearchedProps) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1.5" aria-labelledby={`${id}-label`}>
      {offered
        .filter((choice) => chosen.includes(choice.code))
        .map((choice) => (
          <span key={choice.code} className="flex items-center gap-1 rounded bg-woad-tint py-0.5 pr-0.5 pl-2">
            {choice.label}
            <button
              type="button"
              className="grid h-6 w-6 place-items-center text-ink-2"
              aria-label={`Take ${choice.label} off`}
              onClick={() => onTick(choice.code)}
            >
              <X size={13} aria-hidden="true" />
            </button>
          </span>
        ))}
      <Popover label={at.field.name} trigger={<Button id={id}>Choose of {offered.length}</Button>}>
        <Choices
          label={at.field.name}
          choices={offered}
          chosen={chosen}
          onPick={onTick}
          note="Tick as many as hold, then Esc."
        />
      </Popover>
    </fieldset>
  );
}

export const manyOf: KindUi = { code: "many_of", Editor: ManyOf };
