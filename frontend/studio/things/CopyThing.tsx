import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { NOUNS, type NounCode, placeOf } from "../api/nouns";
import { useSaving } from "../state/saving";
import { Button } from "../ui/basics";
import { focusOnceThere } from "../ui/focus";

/** Makes another thing that says the same, and goes on with it: its name, which says that it is a copy, is what is typed next. */
export function CopyThing({ noun, thing, name, note }: { noun: NounCode; thing: string; name: string; note?: string }) {
  const { save, freshen } = useSaving();
  const go = useNavigate();
  async function copy() {
    const address = `/api/${NOUNS[noun].plural}/{key}/copy` as "/api/value_lists/{key}/copy";
    const made = await save(() => data(client.POST(address, { params: { path: { key: thing } } })), {
      noun,
      done: `Copied ${name}`,
    });
    if (!made) return;
    await freshen(noun);
    go(placeOf(noun, made.thing.key));
    focusOnceThere(() => {
      const boxes = [...document.querySelectorAll<HTMLInputElement>("#sheet input, main input")];
      return boxes.find((box) => box.value === made.thing.name);
    });
  }
  return (
    <p className="mt-4">
      <Button right="edit" onClick={copy}>
        Make a copy
      </Button>
      {note && <span className="hint ml-2">{note}</span>}
    </p>
  );
}
