import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Button, counted, Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";

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

/** Tick several of the shop's fields that are not taken yet, and put them in together. */
export function FieldsPicker(props: { label: string; taken: ReadonlySet<string>; onPick: (keys: string[]) => void }) {
  const fields = useQuery(ask.things("field")).data ?? [];
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const choices = fields
    .filter(({ own, thing }) => own && thing.subject === PRODUCT && !props.taken.has(thing.key))
    .map(({ thing }) => ({ code: thing.key, label: thing.name, synonyms: [thing.key] }));
  const close = (next: boolean) => {
    setOpen(next);
    if (!next) setChosen([]);
  };
  function put() {
    close(false);
    props.onPick(chosen);
  }
  return (
    <Popover label={props.label} open={open} onOpen={close} trigger={<Button look="quiet">{props.label}</Button>}>
      <Choices
        label={props.label}
        choices={choices}
        chosen={chosen}
        onPick={(key) => setChosen((old) => (old.includes(key) ? old.filter((other) => other !== key) : [...old, key]))}
        note="Tick as many as belong here."
      />
      <div className="mt-2 flex justify-end">
        <Button look="primary" disabled={chosen.length === 0} onClick={put}>
          Add {counted(chosen.length, "field")}
        </Button>
      </div>
    </Popover>
  );
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
