import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import { ask } from "../api/queries";
import { PRODUCT } from "../app/nouns";
import { Button, Popover } from "../ui/basics";

/** Pick one of the shop's fields, of products unless told otherwise, that is not taken yet. */
export function FieldPicker(props: {
  label: string;
  taken: ReadonlySet<string>;
  subject?: string;
  onPick: (key: string) => void;
}) {
  const { subject = PRODUCT } = props;
  const fields = useQuery(ask.things("field")).data ?? [];
  const rows = fields
    .filter(({ own, thing }) => own && thing.subject === subject && !props.taken.has(thing.key))
    .map(({ thing }) => ({ key: thing.key, name: thing.name }));
  return <Picker label={props.label} what="field" rows={rows} onPick={props.onPick} />;
}

/** Pick one of many by a few letters. */
export function Picker(props: {
  label: string;
  what: string;
  rows: { key: string; name: string }[];
  onPick: (key: string) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover label={props.label} open={open} onOpen={setOpen} trigger={<Button look="quiet">{props.label}</Button>}>
      <Command label={props.label}>
        <Command.Input className="input" placeholder={`Find a ${props.what}`} />
        <Command.List className="scroll mt-2 max-h-64">
          <Command.Empty className="hint p-2">No {props.what} is left to add.</Command.Empty>
          {props.rows.map((row) => (
            <Command.Item
              key={row.key}
              value={`${row.name} ${row.key}`}
              className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-[selected=true]:bg-woad-tint"
              onSelect={() => {
                setOpen(false);
                props.onPick(row.key);
              }}
            >
              <span className="truncate">{row.name}</span>
              <span className="key ml-auto flex-none">{row.key}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Popover>
  );
}
