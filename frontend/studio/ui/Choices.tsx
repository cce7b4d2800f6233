import { Command } from "cmdk";
import { useState } from "react";
import { counted } from "./basics";
import { ranked } from "./finding";
import { type Swatch, SwatchMark } from "./SwatchMark";
import { useFirst } from "./useFirst";

export type Choice = { code: string; label: string; synonyms?: readonly string[]; swatch?: Swatch };
type Props = {
  label: string;
  choices: readonly Choice[];
  chosen: readonly string[];
  onPick: (code: string) => void;
  note?: string;
  /** What is looked for from the start. */
  start?: string;
};

/** So many are on the screen at once; the rest are found by typing on. */
export const MOST_SHOWN = 100;

/** The choices that are found by words: by label first, then by code and synonyms. */
export function found(choices: readonly Choice[], asked: string): Choice[] {
  return ranked(choices, asked, ({ label, code, synonyms = [] }) => ({ name: label, also: [code, ...synonyms] }));
}

/** Choices of a list, searched while typing, however many there are. */
export function Choices({ label, choices, chosen, onPick, note, start = "" }: Props) {
  const [asked, setAsked] = useState(start);
  const fits = found(choices, asked);
  const [selected, setSelected] = useFirst(fits[0]?.code, asked);
  return (
    <Command label={label} shouldFilter={false} value={selected} onValueChange={setSelected}>
      <Command.Input
        className="input"
        placeholder={`Find in ${choices.length}`}
        value={asked}
        onValueChange={setAsked}
      />
      <Command.List className="scroll mt-2 max-h-64">
        <Command.Empty className="hint p-2">None has that in its name.</Command.Empty>
        {fits.slice(0, MOST_SHOWN).map((choice) => (
          <Command.Item
            key={choice.code}
            value={choice.code}
            className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-[selected=true]:bg-woad-tint"
            onSelect={() => onPick(choice.code)}
          >
            <span aria-hidden="true" className="w-3">
              {chosen.includes(choice.code) ? "✓" : ""}
            </span>
            <SwatchMark swatch={choice.swatch} size={14} />
            <span className="truncate">{choice.label}</span>
            {chosen.includes(choice.code) && <span className="sr">chosen</span>}
          </Command.Item>
        ))}
      </Command.List>
      {fits.length > MOST_SHOWN && (
        <p className="hint mt-1">{counted(fits.length - MOST_SHOWN, "more", "more")}: type on.</p>
      )}
      {note && <p className="hint mt-1">{note}</p>}
    </Command>
  );
}
