import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useRef, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { Button, Popover } from "../ui/basics";
import { Input } from "../ui/inputs";
import { useMay } from "../ui/rights";

function useListOf(field: Schemas["Field"]) {
  return useQuery(ask.things("value_list")).data?.find((row) => row.thing.key === field.options.list);
}

/** The values a field takes from. */
export function useChoices(field: Schemas["Field"]): Schemas["ListValue"][] {
  return useListOf(field)?.thing.values ?? [];
}

/** More choices than one looks through: they are searched while typing. */
const LONG = 25;

export function isLong(choices: readonly unknown[]): boolean {
  return choices.length > LONG;
}

/** A value put into the list on the spot, where the list grows and the person may edit; it is chosen at once. */
export function AddValue({ field, onAdded }: { field: Schemas["Field"]; onAdded: (code: string) => void }) {
  const row = useListOf(field);
  const may = useMay("edit");
  const { save } = useSaving();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const box = useRef<HTMLInputElement>(null);
  if (!row || !may || row.thing.grows === false) return null;
  async function add(event: React.FormEvent) {
    event.preventDefault();
    event.stopPropagation();
    const label = box.current?.value.trim() ?? "";
    if (!row || !label) return;
    const done = await save(
      () =>
        data(
          client.POST("/api/value_lists/{key}/paste", {
            params: { path: { key: row.thing.key } },
            body: { version: row.version, text: label.replaceAll(";", ","), apply: true },
          }),
        ),
      { noun: "value_list", onRefused: ({ problem }) => setWrong(problem.message) },
    );
    const added = done?.added[0];
    const skipped = done?.skipped[0];
    if (skipped) setWrong(`${skipped.text}: ${skipped.reason}`);
    if (!added) return;
    setOpen(false);
    setWrong("");
    onAdded(added.code);
  }
  return (
    <Popover
      label={`Add a value to ${row.thing.name}`}
      width={260}
      open={open}
      onOpen={setOpen}
      trigger={
        <Button look="quiet" aria-label={`Add a value to ${row.thing.name}`} title={`Add a value to ${row.thing.name}`}>
          <Plus size={13} aria-hidden="true" />
        </Button>
      }
    >
      <form onSubmit={add} className="flex gap-2">
        <Input ref={box} className="input" aria-label={`New value of ${row.thing.name}`} placeholder="New value" />
        <Button type="submit">Add</Button>
      </form>
      {wrong && (
        <p className="wrongly mt-1" role="alert">
          {wrong}
        </p>
      )}
    </Popover>
  );
}
