import { useState } from "react";
import { Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";
import { OverCell } from "../ui/grid/OverCell";
import { Select } from "../ui/Select";
import { SwatchMark } from "../ui/SwatchMark";
import { asText, type CellProps, type EditorProps, type KindUi } from "./base";
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
      <Select
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
      </Select>
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

/** The list over its cell, searched by what was typed there; what is chosen goes in and the list goes. */
function ListCell({ at, editing }: CellProps) {
  const value = asText(at.value.value ?? at.value.typed);
  const offered = useChoices(at.field).filter((choice) => !choice.retired || choice.code === value);
  const put = (code: string | null) => {
    void editing.put(code);
    editing.leave("stay");
  };
  return (
    <OverCell editing={editing} width={280}>
      <Choices
        label={at.field.name}
        choices={offered}
        chosen={value ? [value] : []}
        start={editing.start ?? ""}
        onPick={put}
      />
      <div className="mt-2 flex items-center justify-between">
        <AddValue field={at.field} onAdded={put} />
        {value && (
          <button type="button" className="link" onClick={() => put(null)}>
            Empty it
          </button>
        )}
      </div>
    </OverCell>
  );
}

function ListShown({ at }: Pick<CellProps, "at">) {
  const value = asText(at.value.value ?? at.value.typed);
  const choice = useChoices(at.field).find(({ code }) => code === value);
  return (
    <>
      <SwatchMark swatch={choice?.swatch} size={14} />
      <span className="truncate">{choice?.label ?? value}</span>
    </>
  );
}

export const oneOf: KindUi = {
  code: "one_of",
  Editor: OneOf,
  Cell: ListCell,
  Shown: ListShown,
  typed: (value) => asText(value),
};
