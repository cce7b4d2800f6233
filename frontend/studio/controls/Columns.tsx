import { X } from "lucide-react";
import { type ComponentType, useState } from "react";
import type { Schemas } from "../api/client";
import { type Column, columnsOf } from "../kinds/columns";
import { Button } from "../ui/basics";
import { Input } from "../ui/inputs";
import { Select } from "../ui/Select";
import { moved, SortableList, SortableRow } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";
import { LimitsEditor } from "./LimitsEditor";

type Meta = Schemas["MetaOut"];
/** Columns worked out from those that stand when their turn comes, so that two quick changes both hold. */
type PutColumns = (from: (now: unknown) => Column[]) => void;
/** The controls that options of kinds name. */
type Controls = Record<
  string,
  { Control: ComponentType<{ id?: string; value: unknown; meta: Meta; onPut: (value: unknown) => void }> } | undefined
>;
type Props = { id?: string; value: unknown; meta: Meta; making?: boolean; onPut: PutColumns; controls: Controls };

/** What a row holds: a column each, put in order, named, and given a kind. */
export function Columns({ id, value, meta, making = false, onPut, controls }: Props) {
  const columns = columnsOf(value);
  const [fresh, setFresh] = useState("");
  // A column whose kind asks for more than was said yet waits here.
  const [waiting, setWaiting] = useState<Record<number, Column>>({});
  const ids = columns.map((column, index) => column.key ?? `new ${index}`);
  const move = (from: number, to: number) => onPut((now) => moved(columnsOf(now), from, to));
  function put(index: number, changes: Partial<Column>) {
    const next = { ...(waiting[index] ?? columns[index]), ...changes } as Column;
    const kind = meta.kinds.find(({ code }) => code === next.kind);
    const asked = kind?.options.every((option) => !option.needed || next.options?.[option.code]) ?? true;
    const whole = asked || making;
    setWaiting(({ [index]: _, ...rest }) => (whole ? rest : { ...rest, [index]: next }));
    const said = waiting[index] ? next : changes;
    if (whole)
      onPut((now) => columnsOf(now).map((column, other) => (other === index ? { ...column, ...said } : column)));
  }
  function add() {
    const label = fresh.trim();
    if (!label) return;
    setFresh("");
    onPut((now) => [...columnsOf(now), { label, kind: "text" }]);
  }
  return (
    <div>
      <SortableList ids={ids} onMove={move}>
        {columns.map((stored, index) => (
          <SortableRow
            key={ids[index]}
            id={ids[index] ?? ""}
            name={stored.label}
            className="!items-start border-b border-line py-1"
            onStep={(by) => move(index, index + by)}
          >
            <OneColumn
              column={waiting[index] ?? stored}
              waits={index in waiting}
              meta={meta}
              controls={controls}
              onPut={(changes) => put(index, changes)}
              onTakeOff={() => onPut((now) => columnsOf(now).filter((_, other) => other !== index))}
            />
          </SortableRow>
        ))}
      </SortableList>
      <div className="mt-1.5 flex gap-2">
        <Input
          id={id}
          className="input"
          aria-label="New column"
          placeholder="New column, such as Step"
          value={fresh}
          onChange={(event) => setFresh(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            add();
          }}
        />
        <Button right="edit" onClick={add}>
          Add column
        </Button>
      </div>
    </div>
  );
}

type OneProps = {
  column: Column;
  waits: boolean;
  meta: Meta;
  controls: Controls;
  onPut: (changes: Partial<Column>) => void;
  onTakeOff: () => void;
};

function OneColumn({ column, waits, meta, controls, onPut, onTakeOff }: OneProps) {
  const kind = meta.kinds.find(({ code }) => code === column.kind);
  const name = column.label;
  return (
    <div className="min-w-0 flex-1">
      <div className="flex items-center gap-1.5">
        <TextBox aria-label={`Label of column ${name}`} value={name} onCommit={(label) => onPut({ label })} />
        <Select
          className="input !w-[130px] flex-none"
          aria-label={`Kind of column ${name}`}
          value={column.kind}
          onChange={(event) => onPut({ kind: event.target.value, options: {}, limits: {} })}
        >
          {meta.kinds
            .filter((kind) => kind.in_rows)
            .map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
        </Select>
        <button
          type="button"
          className="grid h-6 w-6 flex-none place-items-center rounded text-ink-2 hover:bg-woad-tint"
          aria-label={`Take column ${name} off`}
          title={`Take column ${name} off`}
          onClick={onTakeOff}
        >
          <X size={14} aria-hidden="true" />
        </button>
      </div>
      {kind?.options.map((option) => {
        const Control = controls[option.control]?.Control;
        if (!Control) return null;
        const id = `${column.key ?? name}-${option.code}`;
        return (
          <div key={option.code} className="mt-1 flex items-center gap-2">
            <label htmlFor={id} className="flex-none text-ink-2">
              {option.label}
            </label>
            <Control
              id={id}
              value={column.options?.[option.code] ?? null}
              meta={meta}
              onPut={(value) => onPut({ options: { ...column.options, [option.code]: value } })}
            />
          </div>
        );
      })}
      {waits && <p className="hint mt-1">It is taken once what its kind asks for is chosen</p>}
      {column.key && (
        <details className="mt-1">
          <summary className="cursor-pointer text-ink-2">
            {column.required ? "required in every row" : "may be left out"}
            {Object.keys(column.limits ?? {}).length > 0 && ", limited"}
          </summary>
          <label className="flex min-h-[26px] items-center gap-1.5">
            <Input
              type="checkbox"
              className="tick"
              checked={column.required ?? false}
              onChange={(event) => onPut({ required: event.target.checked })}
            />
            required in every row
          </label>
          <LimitsEditor
            field={{ limits: column.limits ?? {}, many: false }}
            kind={kind}
            wrongAt={() => null}
            onPut={(limits) => onPut({ limits })}
          />
        </details>
      )}
    </div>
  );
}
