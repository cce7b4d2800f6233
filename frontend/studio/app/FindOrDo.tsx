import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { Dialog as RadixDialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { FOUND, NOUNS, placeOf } from "../api/nouns";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { useFirst } from "../ui/useFirst";
import { STAGES } from "./stages";

/** Go to any thing or view, or run a command, by a few letters. */
export function FindOrDo(props: { open: boolean; onClose: () => void; onKeys: () => void }) {
  const [text, setText] = useState("");
  const [asked, setAsked] = useState("");
  const go = useNavigate();
  const { undo, redo } = useSaving();
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text), 120);
    return () => clearTimeout(timer);
  }, [text]);
  const hits =
    useQuery({ ...ask.find(asked), enabled: props.open, placeholderData: keepPreviousData }).data?.hits ?? [];
  const commands: [string, () => void][] = [
    ...STAGES.flatMap((stage) =>
      stage.views.map(({ path, name }): [string, () => void] => [
        `Go to ${stage.name}: ${name}`,
        () => go(`/${stage.code}/${path}`),
      ]),
    ),
    ...Object.values(NOUNS).map(({ what, base }): [string, () => void] => [`New ${what}`, () => go(`${base}?new=1`)]),
    ["New product", () => go("/fill/products?new=1")],
    ["Show products with gaps", () => go("/fill/products?gaps=1")],
    ["Release now", () => go("/release/changes?release=1")],
    ["Undo my last change", undo],
    ["Do again what I undid", redo],
    ["Show all keys", props.onKeys],
    ["Open the shop", () => window.open("/shop/", "_blank")],
  ];
  const wanted = text.trim().toLowerCase();
  const shown = commands.filter(([name]) => wanted.split(/\s+/).every((word) => name.toLowerCase().includes(word)));
  // What is found comes a moment after the typing: the first of it is chosen then.
  // The best found stands first, and its sort above the others.
  const sorts = [...new Set(hits.map(({ noun }) => noun))].filter((noun) => noun in FOUND);
  const first = hits[0] ? `${hits[0].noun} ${hits[0].key}` : shown[0]?.[0];
  const [selected, setSelected] = useFirst(first, "");
  function run(act: () => void) {
    props.onClose();
    setText("");
    act();
  }
  return (
    <RadixDialog.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="veil" />
        <RadixDialog.Content className="float dialog !p-0" data-floating aria-describedby={undefined}>
          <RadixDialog.Title className="sr">Find or do</RadixDialog.Title>
          <Command shouldFilter={false} label="Find or do" loop value={selected} onValueChange={setSelected}>
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder="A field, value, set, type, product, view, or something to do"
              className="w-full border-b border-line px-4 py-3 text-[15px]"
            />
            <Command.List className="scroll max-h-[52vh] p-2">
              <Command.Empty className="hint p-4">Nothing has that in its name.</Command.Empty>
              {sorts.map((noun) => {
                const found = hits.filter((hit) => hit.noun === noun).slice(0, wanted ? 8 : 3);
                return (
                  <Command.Group key={noun} heading={<span className="hint px-2">{FOUND[noun]}</span>}>
                    {found.map((hit) => (
                      <Entry
                        key={`${noun} ${hit.key}`}
                        id={`${noun} ${hit.key}`}
                        onSelect={() => run(() => go(placeOf(noun, hit.key)))}
                      >
                        <span className="truncate">{hit.name}</span>
                        <span className="key ml-auto flex-none">{hit.note}</span>
                      </Entry>
                    ))}
                  </Command.Group>
                );
              })}
              {shown.length > 0 && (
                <Command.Group heading={<span className="hint px-2">Do</span>}>
                  {shown.map(([name, act]) => (
                    <Entry key={name} id={name} onSelect={() => run(act)}>
                      {name}
                    </Entry>
                  ))}
                </Command.Group>
              )}
            </Command.List>
          </Command>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

function Entry(props: { id: string; onSelect: () => void; children: React.ReactNode }) {
  return (
    <Command.Item
      value={props.id}
      onSelect={props.onSelect}
      className="flex min-h-[30px] cursor-pointer items-center gap-3 rounded px-2 data-[selected=true]:bg-woad-tint"
    >
      {props.children}
    </Command.Item>
  );
}
