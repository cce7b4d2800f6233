import { useQueries } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useRef, useState } from "react";
import type { NounCode } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, Popover } from "../../../ui/basics";
import { ranked } from "../../../ui/finding";
import { useKeys } from "../../../ui/keys";
import { useFirst } from "../../../ui/useFirst";
import type { Json, Kind } from "./tree";

/** Whether the focus is somewhere already, on no list that goes away. */
function hasGoneOn(): boolean {
  const focused = document.activeElement;
  return focused !== null && focused !== document.body && !focused.closest("[data-floating]");
}

type Offer = { words: string; help: string; also: readonly string[]; group: string; block: Json };

/** Choose a block to add: typed for, or picked from its group. A block that must name something is offered for each. */
export function AddBlock({ kinds, onAdd }: { kinds: readonly Kind[]; onAdd: (block: Json) => void }) {
  const [open, setOpen] = useState(false);
  const nouns = [...new Set(kinds.flatMap(({ members }) => members.map(({ noun }) => noun)))].filter(
    Boolean,
  ) as NounCode[];
  const named = useQueries({
    queries: nouns.map((noun) => ask.things(noun)),
    combine: (answers) => Object.fromEntries(nouns.map((noun, at) => [noun, answers[at]?.data ?? []])),
  }) as Record<string, { thing: { key: string; name: string } }[]>;
  useKeys({ a: () => setOpen(true) });
  const [text, setText] = useState("");
  const offers = (kind: Kind): Offer[] => {
    const naming = kind.members.find(({ noun }) => noun !== "");
    const { help, also, group } = kind;
    if (!naming) return [{ words: kind.name, help, also, group, block: { kind: kind.code } }];
    return (named[naming.noun] ?? []).map(({ thing }) => ({
      words: `${kind.name}: ${thing.name}`,
      help,
      also: [...also, thing.name],
      group,
      block: { kind: kind.code, [naming.code]: thing.key },
    }));
  };
  const all = kinds.flatMap(offers);
  const fits = ranked(all, text, ({ words, also, help }) => ({ name: words, also, help }));
  // What is looked for stands in one list, the best first; else each in its group.
  const groups = text.trim() ? [""] : [...new Set(all.map(({ group }) => group))];
  const [selected, setSelected] = useFirst(fits[0]?.words, text);
  // With Shift it stays open for the next one.
  const stays = useRef(false);
  function take(block: Json) {
    if (stays.current) setText("");
    else close(false);
    onAdd(block);
  }
  function close(next: boolean) {
    setOpen(next);
    if (!next) setText("");
  }
  return (
    <Popover
      label="Add a block"
      width={360}
      open={open}
      onOpen={close}
      keepFocus={hasGoneOn}
      trigger={
        <Button look="primary" title="A" data-adds>
          Add a block
        </Button>
      }
    >
      <Command label="Add a block" shouldFilter={false} value={selected} onValueChange={setSelected}>
        <Command.Input
          className="input"
          placeholder="Find a block"
          value={text}
          onValueChange={setText}
          onKeyDown={(event) => {
            stays.current = event.shiftKey;
          }}
        />
        <Command.List className="scroll mt-2 max-h-80">
          <Command.Empty className="hint p-2">
            There is no such block. Words, pictures and fields make most things: try “words”.
          </Command.Empty>
          {groups.map((group) => (
            <Command.Group key={group} heading={text.trim() ? undefined : group} className="text-[12px] text-ink-3">
              {fits
                .filter((offer) => text.trim() !== "" || offer.group === group)
                .map((offer) => (
                  <Command.Item
                    key={offer.words}
                    value={offer.words}
                    className="cursor-pointer rounded px-2 py-1 text-ink data-[selected=true]:bg-woad-tint"
                    onPointerDown={(event) => {
                      stays.current = event.shiftKey;
                    }}
                    onSelect={() => take(offer.block)}
                  >
                    <span className="block text-[13px] font-semibold first-letter:uppercase">{offer.words}</span>
                    <span className="block text-ink-3">{offer.help}</span>
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        </Command.List>
        <p className="hint mt-2">
          It goes into the part that is chosen, or the first empty part of the block that is; else behind it. With Shift
          Enter, or Shift and a press, the list stays for the next one.
        </p>
      </Command>
    </Popover>
  );
}
