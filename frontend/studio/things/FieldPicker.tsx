import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { type Changes, makeThing } from "../state/things";
import { Button, counted, Popover } from "../ui/basics";
import { Choices, MOST_SHOWN } from "../ui/Choices";
import { ranked } from "../ui/finding";
import { withArticle } from "../ui/locale";
import { useMay } from "../ui/rights";
import { useFirst } from "../ui/useFirst";

/**
 * Pick fields of the shop, of products unless told otherwise, that are not taken yet, one after the other. One that is
 * lacking is made on the spot.
 */
export function FieldPicker(props: {
  label: string;
  taken: ReadonlySet<string>;
  subject?: string;
  /** Whether it is what one goes on with in what was just made. */
  next?: boolean;
  onPick: (key: string) => unknown;
}) {
  const { subject = PRODUCT } = props;
  const { save } = useSaving();
  const can = useMay("edit");
  const fields = useQuery(ask.things("field")).data ?? [];
  const rows = fields
    .filter(({ own, thing }) => own && thing.subject === subject && !props.taken.has(thing.key))
    .map(({ thing }) => ({ key: thing.key, name: thing.name }));
  const taken = fields.filter(({ thing }) => props.taken.has(thing.key)).map(({ thing }) => thing.name);
  async function make(name: string) {
    const key = await save(() => makeThing("field", name, { subject } as Changes<"field">), { noun: "field" });
    if (key) await props.onPick(key);
  }
  return (
    <Picker
      label={props.label}
      what="field"
      rows={rows}
      taken={taken}
      next={props.next}
      stays
      onPick={props.onPick}
      onMake={can ? make : undefined}
    />
  );
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

/** Pick one of many by a few letters; what is lacking can be made of what was typed, where it can be made by its name. */
export function Picker(props: {
  label: string;
  what: string;
  rows: { key: string; name: string }[];
  /** Names of those that are picked already: what is looked for may be among them. */
  taken?: readonly string[];
  /** Whether it is what one goes on with in what was just made. */
  next?: boolean;
  /** Whether it stays open for the next. */
  stays?: boolean;
  onPick: (key: string) => unknown;
  onMake?: (name: string) => Promise<unknown>;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const fits = ranked(props.rows, text, ({ name, key }) => ({ name, also: [key] }));
  const name = text.trim();
  const same = (other: string) => other.toLocaleLowerCase() === name.toLocaleLowerCase();
  const there = props.taken?.some(same) ?? false;
  const makes = props.onMake && name !== "" && !there && !fits.some((row) => same(row.name));
  const [selected, setSelected] = useFirst(fits[0]?.key ?? (makes ? "~make" : undefined), text);
  function close(next: boolean) {
    setOpen(next);
    if (!next) setText("");
  }
  function done(act: unknown) {
    setText("");
    if (!props.stays) close(false);
    return act;
  }
  return (
    <Popover
      label={props.label}
      open={open}
      onOpen={close}
      trigger={
        <Button look="quiet" data-next={props.next || undefined}>
          {props.label}
        </Button>
      }
    >
      <Command label={props.label} shouldFilter={false} value={selected} onValueChange={setSelected}>
        <Command.Input
          className="input"
          placeholder={`Find ${withArticle(props.what)}`}
          value={text}
          onValueChange={setText}
        />
        <Command.List className="scroll mt-2 max-h-64">
          {fits.slice(0, MOST_SHOWN).map((row) => (
            <Command.Item
              key={row.key}
              value={row.key}
              className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-[selected=true]:bg-woad-tint"
              onSelect={() => void done(props.onPick(row.key))}
            >
              <span className="truncate">{row.name}</span>
              <span className="key ml-auto flex-none">{row.key}</span>
            </Command.Item>
          ))}
          {makes && (
            <Command.Item
              key="~make"
              value="~make"
              className="cursor-pointer rounded px-2 py-1.5 font-semibold data-[selected=true]:bg-woad-tint"
              onSelect={() => void done(props.onMake?.(name))}
            >
              Make the {props.what} “{name}”
            </Command.Item>
          )}
        </Command.List>
        {fits.length > MOST_SHOWN && <p className="hint mt-1">{fits.length - MOST_SHOWN} more: type on.</p>}
        {fits.length === 0 && !makes && (
          <p className="hint p-2">
            {there
              ? `“${name}” is here already.`
              : props.rows.length === 0
                ? `Every ${props.what} is here already.`
                : `No ${props.what} is called like that.`}
          </p>
        )}
      </Command>
    </Popover>
  );
}
