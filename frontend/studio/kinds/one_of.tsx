import { useState } from "react";
import { Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";
import { SwatchMark } from "../ui/SwatchMark";
import { asText, type EditorProps, type KindUi } from "./base";
import { AddValue, isLong, useChoices } from "./choices";

function OneOf({ id, at, wrong, onFill }: EditorProps) {
  const choices = useChoices(at.field);
  const value = asText(at.value.value ?? at.value.typed);
  const known = choices.some((choice) => choice.code === value);
  const offered = choices.filter((choice) => !choice.retired || choice.code === value);
  if (isLong(offered))
    return <Searched id={id} at={at} wrong={wrong} offered={offered} value={value} onFill={onFill} />;
  return (
    <span className="flex items-center gap-1">
      <SwatchMark swatch={choices.find((choice) => choice.code === value)?.swatch} />
      <select
        id={id}
        className={`input ${wrong ? "wrong" : ""}`}
        value={value}
        onChange={(event) => onFill(event.target.value)}
      >
        <option value="">choose one</option>
        {!known && value && <option value={value}>{value}</option>}
        {offered.map((choice) => (
          <option key={choice.code} value={choice.code}>
            {choice.label}
            {choice.retired ? " (retired)" : ""}
          </option>
        ))}
      </select>
      <AddValue field={at.field} onAdded={onFill} />
    </span>
  );
}

type SearchedProps = Pick<EditorProps, "id" | "at" | "wrong" | "onFill"> & {
  offered: ReturnType<typeof useChoices>;
  value: string;
};

/** One of a long list: what is chosen, and the list to search while typing. */
function Searched({ id, at, wrong, offered, value, onFill }: SearchedProps) {
  const [open, setOpen] = useState(false);
  const label = offered.find((choice) => choice.code === value)?.label ?? value;
  return (
    <span className="flex items-center gap-2">
      <Popover
        label={at.field.name}
        open={open}
        onOpen={setOpen}
        trigger={
          <button
            id={id}
            type="button"
            aria-haspopup="dialog"
            aria-label={`${at.field.name}: ${label || "choose"}`}
            className={`input min-w-0 flex-1 truncate text-left ${wrong ? "wrong" : ""}`}
          >
            <SwatchMark swatch={offered.find((choice) => choice.code === value)?.swatch} size={14} />{" "}
            {label || <span className="text-ink-3">choose one of {offered.length}</span>}
          </button>
        }
      >
        <Choices
          label={at.field.name}
          choices={offered}
          chosen={value ? [value] : []}
          onPick={(code) => {
            onFill(code);
            setOpen(false);
          }}
        />
      </Popover>
      <AddValue field={at.field} onAdded={onFill} />
      {value && (
        <button type="button" className="link flex-none" onClick={() => onFill(null)}>
          Empty it
        </button>
      )}
    </span>
  );
}

export const oneOf: KindUi = { code: "one_of", Editor: OneOf, typed: (value) => asText(value) };
