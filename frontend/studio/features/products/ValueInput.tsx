import { useQuery } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Button, Segments } from "../../ui/basics";
import { TextBox } from "../../ui/TextBox";
import { PicturesInput } from "./PicturesInput";

export type InputProps = {
  id: string;
  at: Schemas["EditField"];
  wrong: boolean;
  onFill: (value: unknown) => void;
  onTyping: (text: string) => void;
};

/** The control for a field's kind. */
export function ValueInput(props: InputProps) {
  const { field } = props.at;
  if (field.kind === "picture") return <PicturesInput {...props} />;
  if (field.kind === "one_of") return <OneOf {...props} />;
  if (field.kind === "many_of") return <ManyOf {...props} />;
  if (field.kind === "yes_no") return <YesNo {...props} />;
  if (field.many) return <Several {...props} />;
  return <Single {...props} />;
}

function asText(value: unknown): string {
  return value === null || value === undefined ? "" : String(value);
}

function Single({ id, at, wrong, onFill, onTyping }: InputProps) {
  const { field, value } = at;
  const text = asText(value.typed);
  const most = field.limits.max_length;
  if (field.kind === "long_text")
    return (
      <>
        <TextBox
          id={id}
          rows={2}
          wrong={wrong}
          value={text}
          placeholder={field.example}
          onCommit={onFill}
          onTyping={onTyping}
        />
        {most && <span className="hint">at most {most} characters</span>}
      </>
    );
  return (
    <span className="flex items-center gap-2">
      <TextBox
        id={id}
        wrong={wrong}
        value={text}
        placeholder={field.example || (field.unit ? `in ${field.unit}` : undefined)}
        className={field.kind === "gtin" || field.key === "sku" || field.key === "slug" ? "font-mono" : ""}
        onCommit={onFill}
        onTyping={onTyping}
      />
      {field.kind === "colour" && value.state === "good" && (
        <span
          className="h-[22px] w-8 flex-none rounded border border-line"
          style={{ background: String(value.value) }}
        />
      )}
    </span>
  );
}

/** One box a value, and one more to add the next. */
function Several({ id, at, wrong, onFill }: InputProps) {
  const items = Array.isArray(at.value.typed)
    ? at.value.typed.map(asText)
    : asText(at.value.typed).split("\n").filter(Boolean);
  const put = (place: number, text: string) => {
    const next = items.map((one, other) => (other === place ? text : one));
    if (place === items.length) next.push(text);
    onFill(next.filter((one) => one.trim() !== ""));
  };
  return (
    <div className="flex flex-wrap gap-1.5">
      {[...items, ""].map((text, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a value is known by its place
        <span key={`${place}-${items.length}`} className="flex items-center">
          <TextBox
            id={place === 0 ? id : undefined}
            aria-label={place === 0 ? undefined : `${at.field.name}, value ${place + 1}`}
            className="!w-[108px]"
            wrong={wrong && place < items.length}
            value={text}
            placeholder={place === items.length ? (place === 0 ? at.field.example || "a value" : "one more") : ""}
            onCommit={(next) => put(place, next)}
          />
          {place < items.length && (
            <button
              type="button"
              className="grid h-6 w-6 place-items-center text-ink-3"
              aria-label={`Take ${text} off`}
              onClick={() => put(place, "")}
            >
              <X size={13} aria-hidden="true" />
            </button>
          )}
          {place === items.length && place > 0 && <Plus size={12} className="ml-1 text-ink-3" aria-hidden="true" />}
        </span>
      ))}
    </div>
  );
}

function useChoices(list: string | null) {
  return useQuery(ask.lists()).data?.lists.find((one) => one.list.key === list)?.list.values ?? [];
}

function OneOf({ id, at, wrong, onFill }: InputProps) {
  const choices = useChoices(at.field.list ?? null);
  const value = asText(at.value.value ?? at.value.typed);
  const known = choices.some((one) => one.code === value);
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
        .filter((one) => !one.retired || one.code === value)
        .map((one) => (
          <option key={one.code} value={one.code}>
            {one.label}
            {one.retired ? " (retired)" : ""}
          </option>
        ))}
    </select>
  );
}

function ManyOf({ id, at, onFill }: InputProps) {
  const choices = useChoices(at.field.list ?? null);
  const chosen = Array.isArray(at.value.value) ? (at.value.value as string[]) : [];
  return (
    <fieldset className="flex flex-wrap gap-x-3.5" aria-labelledby={`${id}-label`}>
      {choices
        .filter((one) => !one.retired || chosen.includes(one.code))
        .map((one, place) => (
          <label key={one.code} className="flex min-h-[26px] items-center gap-1.5">
            <input
              id={place === 0 ? id : undefined}
              type="checkbox"
              className="tick"
              checked={chosen.includes(one.code)}
              onChange={(event) =>
                onFill(
                  choices
                    .map((other) => other.code)
                    .filter((code) => (code === one.code ? event.target.checked : chosen.includes(code))),
                )
              }
            />
            {one.label}
          </label>
        ))}
    </fieldset>
  );
}

function YesNo({ id, at, onFill }: InputProps) {
  const value = at.value.value as boolean | null;
  return (
    <span id={id} className="flex items-center gap-2">
      <Segments
        label={at.field.name}
        value={value === true ? "yes" : value === false ? "no" : null}
        choices={[
          ["yes", "Yes"],
          ["no", "No"],
        ]}
        onChoose={(one) => onFill(one === "yes")}
      />
      {value !== null && value !== undefined && (
        <Button look="quiet" onClick={() => onFill(null)}>
          Empty it
        </Button>
      )}
    </span>
  );
}
