import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { asText } from "../kinds/base";
import { columnsOf } from "../kinds/columns";
import { counted, Segments } from "../ui/basics";
import { TextArea } from "../ui/inputs";
import { Select } from "../ui/Select";
import { Columns } from "./Columns";

type ControlProps = {
  id?: string;
  value: unknown;
  meta: Schemas["MetaOut"];
  /** What stands for no choice where there may be none; else there is nothing to choose back to. */
  none?: string;
  /** Whether what it is an option of is only being made: what is not whole yet is put too, and refused at its place. */
  making?: boolean;
  /** Puts a value, or one worked out from what stands. */
  onPut: (value: unknown | ((now: unknown) => unknown)) => void;
};

/** What a control puts, from what stands. */
export function putFrom(value: unknown, now: unknown): unknown {
  return typeof value === "function" ? value(now) : value;
}

type OptionControl = {
  Control: (props: ControlProps) => React.ReactNode;
  /** How a list of fields tells a value; left out by those told as they are. */
  inWords?: (value: unknown) => string;
  /** Where what it names can be made on the spot: the text it is made of. */
  Fresh?: (props: { text: string; onType: (text: string) => void }) => React.ReactNode;
  /** What stands below it for a value. */
  Note?: (props: { value: string }) => React.ReactNode;
  /** Whether it wants the whole width, below its label. */
  wide?: boolean;
};

function Unit({ id, value, meta, onPut }: ControlProps) {
  return (
    <Select id={id} className="input" value={asText(value)} onChange={(event) => onPut(event.target.value)}>
      {!value && <option value="">choose a unit</option>}
      {[...new Set(meta.units.map((unit) => unit.dimension))].map((dimension) => (
        <optgroup key={dimension} label={dimension}>
          {meta.units
            .filter((unit) => unit.dimension === dimension)
            .map((unit) => (
              <option key={unit.symbol}>{unit.symbol}</option>
            ))}
        </optgroup>
      ))}
    </Select>
  );
}

function List({ id, value, none, onPut }: ControlProps) {
  const lists = useQuery(ask.things("value_list")).data ?? [];
  return (
    <Select id={id} className="input" value={asText(value)} onChange={(event) => onPut(event.target.value)}>
      {(none || !value) && <option value="">{none ?? "choose a list"}</option>}
      {lists.map(({ thing }) => (
        <option key={thing.key} value={thing.key}>
          {thing.name}
        </option>
      ))}
    </Select>
  );
}

function RecordType({ id, value, onPut }: ControlProps) {
  const types = useQuery(ask.things("record_type")).data ?? [];
  return (
    <Select id={id} className="input" value={asText(value)} onChange={(event) => onPut(event.target.value)}>
      {!value && <option value="">choose a record type</option>}
      {types.map(({ thing }) => (
        <option key={thing.key} value={thing.key}>
          {thing.name}
        </option>
      ))}
    </Select>
  );
}

function SharedCopy({ id, value, onPut }: ControlProps) {
  const copies = useQuery(ask.things("shared_copy")).data ?? [];
  return (
    <Select id={id} className="input" value={asText(value)} onChange={(event) => onPut(event.target.value)}>
      {!value && <option value="">choose a shared copy</option>}
      {copies.map(({ thing }) => (
        <option key={thing.key} value={thing.key}>
          {thing.name}
        </option>
      ))}
    </Select>
  );
}

function CopyNote({ value }: { value: string }) {
  return (
    <Link className="link" to={`/define/copies/${value}`}>
      its words
    </Link>
  );
}

function RecordNote({ value }: { value: string }) {
  const found = useQuery(ask.things("record_type")).data?.find(({ thing }) => thing.key === value);
  return (
    <Link className="link" to={`/fill/records?type=${value}`}>
      {counted(found?.records ?? 0, "record")}
    </Link>
  );
}

function FreshList({ text, onType }: { text: string; onType: (text: string) => void }) {
  return (
    <TextArea
      className="input mt-1 min-h-[86px]"
      rows={4}
      aria-label="Values of the new list"
      placeholder="One value a line, typed or pasted"
      value={text}
      onChange={(event) => onType(event.target.value)}
    />
  );
}

function ListNote({ value }: { value: string }) {
  const lists = useQuery(ask.things("value_list")).data ?? [];
  const list = lists.find(({ thing }) => thing.key === value)?.thing;
  return (
    <Link className="link" to={`/define/lists/${value}`}>
      {counted(list?.values.length ?? 0, "value")}
    </Link>
  );
}

const WRITINGS = [
  ["grouped", "1,871"],
  ["plain", "1871, as a year"],
] as const;

function Writing({ value, onPut }: ControlProps) {
  return (
    <Segments label="Written" value={value === "plain" ? "plain" : "grouped"} choices={WRITINGS} onChoose={onPut} />
  );
}

/** The controls that options of kinds name: one more is one entry here. */
export const OPTION_CONTROLS: Record<string, OptionControl> = {
  unit: { Control: Unit },
  writing: { Control: Writing, inWords: (value) => (value === "plain" ? "as a year" : "") },
  columns: {
    Control: (props) => <Columns {...props} controls={OPTION_CONTROLS} />,
    wide: true,
    inWords: (value) =>
      columnsOf(value)
        .map(({ label }) => label)
        .join(", "),
  },
  shared_copy: { Control: SharedCopy, Note: CopyNote },
  record_type: { Control: RecordType, Note: RecordNote },
  value_list: { Control: List, Note: ListNote, Fresh: FreshList },
};
