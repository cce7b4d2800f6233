import type { Schemas } from "../api/client";
import { Button, Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";
import { ItemButtons } from "../ui/ItemButtons";
import { Input } from "../ui/inputs";
import { moved } from "../ui/Sortable";
import { SwatchMark } from "../ui/SwatchMark";
import { byHand, type EditorProps, type KindUi } from "./base";
import { AddValue, isLong, useChoices } from "./choices";
import { useDraft } from "./useDraft";

function ManyOf({ id, at, onFill }: EditorProps) {
  const choices = useChoices(at.field);
  const kept = Array.isArray(at.value.value) ? (at.value.value as string[]) : [];
  const { now: chosen, put } = useDraft(kept, onFill);
  const offered = choices.filter((choice) => !choice.retired || chosen.includes(choice.code));
  const tick = (code: string) =>
    void put((now) => (now.includes(code) ? now.filter((other) => other !== code) : [...now, code]));
  const long = isLong(offered);
  return (
    <fieldset aria-labelledby={`${id}-label`}>
      {(long || (chosen.length > 1 && byHand(at.field))) && (
        <Chosen field={at.field} offered={offered} chosen={chosen} onPut={put} />
      )}
      {long ? (
        <Popover label={at.field.name} trigger={<Button id={id}>Choose of {offered.length}</Button>}>
          <Choices
            label={at.field.name}
            choices={offered}
            chosen={chosen}
            onPick={tick}
            note="Tick as many as hold, then Esc."
          />
        </Popover>
      ) : (
        <div className="flex flex-wrap gap-x-3.5">
          {offered.map((choice, index) => (
            <label key={choice.code} className="flex min-h-[26px] items-center gap-1.5">
              <Input
                id={index === 0 ? id : undefined}
                type="checkbox"
                className="tick"
                checked={chosen.includes(choice.code)}
                onChange={() => tick(choice.code)}
              />
              <SwatchMark swatch={choice.swatch} size={14} />
              {choice.label}
            </label>
          ))}
        </div>
      )}
      <AddValue field={at.field} onAdded={(code) => void put((now) => [...now, code])} />
    </fieldset>
  );
}

type ChosenProps = {
  field: Schemas["Field"];
  offered: ReturnType<typeof useChoices>;
  chosen: readonly string[];
  onPut: (from: (now: string[]) => string[]) => unknown;
};

/** The values ticked, in the order they show in, each to be moved or taken off. */
function Chosen({ field, offered, chosen, onPut }: ChosenProps) {
  return (
    <ol className="mb-1 flex flex-wrap gap-1.5" aria-label={`${field.name}, chosen`}>
      {chosen.map((code, index) => {
        const label = offered.find((choice) => choice.code === code)?.label ?? code;
        return (
          <li key={code} className="flex items-center rounded bg-woad-tint py-0.5 pr-0.5 pl-2">
            <SwatchMark swatch={offered.find((choice) => choice.code === code)?.swatch} size={14} />
            <span className="ml-1">{label}</span>
            <ItemButtons
              name={label}
              index={index}
              count={chosen.length}
              onMove={byHand(field) ? (to) => onPut((now) => moved(now, index, to)) : undefined}
              onTakeOff={() => onPut((now) => now.filter((other) => other !== code))}
            />
          </li>
        );
      })}
    </ol>
  );
}

export const manyOf: KindUi = { code: "many_of", Editor: ManyOf };
