import type { Schemas } from "../api/client";
import type { Editing, GridColumn } from "../ui/grid/column";
import { OverCell } from "../ui/grid/OverCell";
import { asText } from "./base";
import { kindUi } from "./registry";

type Field = Schemas["Field"];
type At = Schemas["EditField"];

/** What a column of a field asks of its rows: the field with a row's value, and what stands where there is none. */
type Of<Row> = {
  key?: string;
  name?: string;
  width?: number;
  at: (row: Row) => At;
  instead?: (row: Row) => string;
};

/** A column of a grid that holds values of a field: shown, typed, copied and edited as its kind does. */
export function fieldColumn<Row>(field: Field, of: Of<Row>): GridColumn<Row> {
  const { typed, amounts } = kindUi(field.kind);
  return {
    key: of.key ?? field.key,
    name: of.name ?? field.name,
    width: of.width ?? 108,
    align: amounts && !field.many ? "right" : undefined,
    show: (row) => <Shown at={of.at(row)} instead={of.instead?.(row)} />,
    look: (row) => {
      const { state, message } = of.at(row).value;
      return state === "wrong" ? { wrong: message || "It does not fit" } : undefined;
    },
    text: (row) => textOf(of.at(row)),
    read: typed && !field.many ? (text) => ({ value: text }) : undefined,
    edit: (row, editing) => <FieldCell at={of.at(row)} editing={editing} />,
  };
}

/** A value as text: as it was typed, or as it is shown where it is no text. */
export function textOf({ field, value }: At): string {
  const { typed } = kindUi(field.kind);
  if (value.typed === null || value.typed === undefined) return "";
  if (typeof value.typed !== "object" && typeof value.typed !== "boolean") return asText(value.typed);
  if (field.many || !typed) return value.shown ?? "";
  return typed(value.typed as never);
}

/** A value as its kind shows it, or what stands in place of none. */
export function Shown({ at, instead }: { at: At; instead?: string }) {
  const Own = kindUi(at.field.kind).Shown;
  const { typed, shown, state } = at.value;
  if (typed === null || typed === undefined || typed === "")
    return instead ? <span className="truncate text-ink-3">{instead}</span> : null;
  if (Own && state !== "wrong") return <Own at={at} />;
  return <span className="truncate">{(state !== "wrong" && shown) || textOf(at)}</span>;
}

function FieldCell({ at, editing }: { at: At; editing: Editing }) {
  const { Cell, Editor, look } = kindUi(at.field.kind);
  if (Cell && !at.field.many) return <Cell at={at} editing={editing} />;
  return (
    <OverCell editing={editing}>
      <h3 id="cell-value-label" className="mb-2">
        {editing.label}
      </h3>
      <Editor
        id="cell-value"
        at={at}
        wrong={at.value.state === "wrong"}
        onFill={editing.put}
        onTyping={() => undefined}
        look={look}
      />
    </OverCell>
  );
}
