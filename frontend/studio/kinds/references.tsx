import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import { Link } from "react-router";
import { type NounCode, placeOf } from "../api/nouns";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { makeThing } from "../state/things";
import { Button, Popover } from "../ui/basics";
import { ItemButtons } from "../ui/ItemButtons";
import { useMay } from "../ui/rights";
import { moved } from "../ui/Sortable";
import { byHand, type CellProps, type EditorProps, type KindUi } from "./base";
import { useDraft } from "./useDraft";

export type Item = string | number;
/** What values are chosen of: a noun or subject, and which of its things, where not all. */
export type Target = { noun: string; of: string };
type Picked = { item: Item; name: string };

/** How a kind refers: what of, by the options of its field, where its things are opened, and how one is made on the spot. */
type Way = {
  what: string;
  target: (options: Record<string, unknown>) => Target;
  opens: string;
  makes?: { noun: NounCode; with: (target: Target) => Record<string, unknown> };
};

const WAYS: Record<string, Way> = {};

function Reference({ id, at, wrong, onFill }: EditorProps) {
  const way = WAYS[at.field.kind] as Way;
  const kept: Item[] = toItems(at.value.value);
  const { now, put } = useDraft<Item[]>(kept, (next) => onFill(at.field.many ? next : (next[0] ?? null)));
  const [picked, setPicked] = useState<Picked[]>([]);
  const nameOf = (item: Item) =>
    [...picked, ...(at.value.named ?? [])].find((other) => other.item === item)?.name || String(item);
  const target = way.target(at.field.options);
  const choose = (choice: Picked) => {
    setPicked((old) => [...old, choice]);
    void put((items) =>
      !at.field.many
        ? [choice.item]
        : items.includes(choice.item)
          ? items.filter((other) => other !== choice.item)
          : [...items, choice.item],
    );
  };
  const typed = at.value.state === "wrong" && now.length === 0 ? String(at.value.typed ?? "") : "";
  return (
    <fieldset aria-labelledby={`${id}-label`} className="flex min-w-0 flex-wrap items-center gap-1.5">
      {now.map((item, index) => (
        <span key={item} className="flex min-w-0 items-center rounded bg-woad-tint py-0.5 pr-0.5 pl-2">
          <Link className="truncate hover:underline" to={placeOf(way.opens, String(item))}>
            {nameOf(item)}
          </Link>
          <ItemButtons
            name={nameOf(item)}
            index={index}
            count={now.length}
            onMove={
              at.field.many && byHand(at.field) ? (to) => void put((items) => moved(items, index, to)) : undefined
            }
            onTakeOff={() => void put((items) => items.filter((other) => other !== item))}
          />
        </span>
      ))}
      {typed && <span className="wrongly">{typed}</span>}
      <ReferencePicker
        id={id}
        label={at.field.name}
        word={now.length === 0 ? `choose a ${way.what}` : at.field.many ? "one more" : "another"}
        wrong={wrong}
        many={at.field.many ?? false}
        target={target}
        chosen={now}
        makes={way.makes && { noun: way.makes.noun, more: way.makes.with(target) }}
        onPick={choose}
      />
    </fieldset>
  );
}

function toItems(value: unknown): Item[] {
  const items = Array.isArray(value) ? value : value === null || value === undefined ? [] : [value];
  return items.filter((item) => typeof item === "string" || typeof item === "number");
}

type PickerProps = {
  id?: string;
  label: string;
  word: string;
  wrong?: boolean;
  many: boolean;
  target: Target;
  chosen: readonly Item[];
  makes?: { noun: NounCode; more: Record<string, unknown> };
  onPick: (choice: Picked) => void;
};

/** Things searched while typing, however many there are; one that is missing is made on the spot, by those who may. */
export function ReferencePicker({ id, label, word, wrong, many, target, chosen, makes, onPick }: PickerProps) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const [refused, setRefused] = useState("");
  const may = useMay("edit");
  const { save } = useSaving();
  const found = useQuery({ ...ask.references(target.noun, target.of, words.trim()), enabled: open });
  const choices = found.data?.choices ?? [];
  const name = words.trim();
  const missing = makes && may && name !== "" && !choices.some((choice) => same(choice.name, name));
  function pick(choice: Picked) {
    onPick(choice);
    setRefused("");
    if (!many) setOpen(false);
  }
  async function make() {
    if (!makes) return;
    const key = await save(() => makeThing(makes.noun, name, makes.more), {
      noun: makes.noun,
      done: `${name} made`,
      onRefused: ({ problem }) => setRefused(`${problem.message}. ${problem.help}`),
    });
    if (key) pick({ item: key, name });
  }
  return (
    <Popover
      label={label}
      open={open}
      onOpen={setOpen}
      trigger={
        <Button id={id} aria-haspopup="dialog" className={wrong ? "!border-madder" : ""}>
          {word}
        </Button>
      }
    >
      <Command label={label} shouldFilter={false}>
        <Command.Input className="input" placeholder="Find by name" value={words} onValueChange={setWords} />
        <Command.List className="scroll mt-2 max-h-64">
          {choices.map((choice) => (
            <Command.Item
              key={choice.item}
              value={`has ${choice.item}`}
              className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-[selected=true]:bg-woad-tint"
              onSelect={() => pick(choice)}
            >
              <span aria-hidden="true" className="w-3 flex-none">
                {chosen.includes(choice.item) ? "✓" : ""}
              </span>
              <span className="truncate">{choice.name}</span>
              {chosen.includes(choice.item) && <span className="sr">chosen</span>}
              <span className="key ml-auto flex-none">{choice.note}</span>
            </Command.Item>
          ))}
          {missing && found.isSuccess && (
            <Command.Item
              value={`make ${name}`}
              className="cursor-pointer rounded px-2 py-1.5 text-woad data-[selected=true]:bg-woad-tint"
              onSelect={() => void make()}
            >
              Make “{name}”
            </Command.Item>
          )}
        </Command.List>
      </Command>
      {found.isSuccess && choices.length === 0 && !missing && <p className="hint p-2">None has that in its name.</p>}
      {refused && (
        <p className="wrongly mt-1" role="alert">
          {refused}
        </p>
      )}
      {many && <p className="hint mt-1">Tick as many as hold, then Esc.</p>}
    </Popover>
  );
}

function same(one: string, other: string): boolean {
  return one.toLocaleLowerCase() === other.toLocaleLowerCase();
}

/** What a value names, by name. */
function Named({ at }: Pick<CellProps, "at">) {
  const named = new Map((at.value.named ?? []).map(({ item, name }) => [item, name]));
  const names = toItems(at.value.value ?? at.value.typed).map((item) => named.get(item) || String(item));
  return <span className="truncate">{at.value.shown || names.join(", ")}</span>;
}

/** A kind whose values name things of the shop. */
export function referenceKind(code: string, way: Way): KindUi {
  WAYS[code] = way;
  return { code, Editor: Reference, Shown: Named };
}
