import type { Schemas } from "../../../api/client";
import { Button, counted } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { Ticked } from "../../../ui/Ticked";

type Section = Schemas["Section"];

/** The sections with some fields gone to the end of one of them, in the order they had. */
export function gathered(sections: readonly Section[], keys: ReadonlySet<string>, to: string): Section[] {
  const moving = sections.flatMap((section) => section.fields).filter((key) => keys.has(key));
  return sections.map((section) => {
    const rest = section.fields.filter((key) => !keys.has(key));
    return { ...section, fields: section.key === to ? [...rest, ...moving] : rest };
  });
}

type Props = {
  ticked: ReadonlySet<string>;
  sections: readonly Section[];
  onMove: (to: string) => void;
  onTakeOff: () => void;
  onClear: () => void;
};

/** What can be done with several fields at once, as long as some are ticked. */
export function Several({ ticked, sections, onMove, onTakeOff, onClear }: Props) {
  return (
    <Ticked label="Fields" count={ticked.size} words={counted(ticked.size, "field")} onClear={onClear}>
      <Select
        className="input !w-56"
        aria-label="Move them to the end of"
        value=""
        onChange={(event) => event.target.value && onMove(event.target.value)}
      >
        <option value="">move to the end of…</option>
        {sections.map((section) => (
          <option key={section.key} value={section.key}>
            {section.name}
          </option>
        ))}
      </Select>
      <Button right="edit" onClick={onTakeOff}>
        Take them off
      </Button>
    </Ticked>
  );
}
