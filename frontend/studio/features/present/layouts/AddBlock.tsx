import { useQueries } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import type { NounCode } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, Popover } from "../../../ui/basics";
import { useKeys } from "../../../ui/keys";
import type { Json, Kind } from "./tree";

/** Whether the focus is somewhere already, on no list that goes away. */
function hasGoneOn(): boolean {
  const focused = document.activeElement;
  return focused !== null && focused !== document.body && !focused.closest("[data-floating]");
}

type Offer = { words: string; help: string; block: Json };

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
  const groups = [...new Set(kinds.map(({ group }) => group))];
  const offers = (kind: Kind): Offer[] => {
    const naming = kind.members.find(({ noun }) => noun !== "");
    if (!naming) return [{ words: kind.name, help: kind.help, block: { kind: kind.code } }];
    return (named[naming.noun] ?? []).map(({ thing }) => ({
      words: `${kind.name}: ${thing.name}`,
      help: kind.help,
      block: { kind: kind.code, [naming.code]: thing.key },
    }));
  };
  return (
    <Popover
      label="Add a block"
      width={360}
      open={open}
      onOpen={setOpen}
      keepFocus={hasGoneOn}
      trigger={
        <Button look="primary" title="A" data-adds>
          Add a block
        </Button>
      }
    >
      <Command label="Add a block">
        <Command.Input className="input" placeholder="Find a block" />
        <Command.List className="scroll mt-2 max-h-80">
          <Command.Empty className="hint p-2">There is no such block.</Command.Empty>
          {groups.map((group) => (
            <Command.Group key={group} heading={group} className="text-[12px] text-ink-3">
              {kinds
                .filter((kind) => kind.group === group)
                .flatMap(offers)
                .map((offer) => (
                  <Command.Item
                    key={offer.words}
                    value={`${offer.words} ${offer.help}`}
                    className="cursor-pointer rounded px-2 py-1 text-ink data-[selected=true]:bg-woad-tint"
                    onSelect={() => {
                      setOpen(false);
                      onAdd(offer.block);
                    }}
                  >
                    <span className="block text-[13px] font-semibold first-letter:uppercase">{offer.words}</span>
                    <span className="block text-ink-3">{offer.help}</span>
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        </Command.List>
        <p className="hint mt-2">It goes behind the block that is chosen.</p>
      </Command>
    </Popover>
  );
}
