import { useState } from "react";
import { Button } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { useMay } from "../../../ui/rights";
import { typedOption } from "./typedOptions";
import type { Option } from "./useOptionSet";

/** One more option, typed in a line. */
export function AddOption({ options, onAdd }: { options: readonly Option[]; onAdd: (made: Option) => void }) {
  const may = useMay("edit");
  const [line, setLine] = useState("");
  function add(event: React.FormEvent) {
    event.preventDefault();
    const made = typedOption(line, new Set(options.map((option) => option.key)));
    if (!made) return;
    onAdd(made);
    setLine("");
  }
  if (!may) return null;
  return (
    <form onSubmit={add} className="mt-1 flex gap-2">
      <Input
        className="input"
        data-next
        aria-label="New option"
        placeholder="New option, such as Tube size: 5 ml, 15 ml"
        value={line}
        onChange={(event) => setLine(event.target.value)}
      />
      <Button right="edit" type="submit" className="flex-none">
        Add option
      </Button>
    </form>
  );
}
