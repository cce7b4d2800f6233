import { type ReactNode, useEffect, useRef, useState } from "react";
import { Refused } from "../api/client";
import { useAddress } from "../ui/address";
import { Button, Popover } from "../ui/basics";
import { boxAtFault, boxIn, focusOnceThere, holdKeys } from "../ui/focus";
import { Input } from "../ui/inputs";
import { useKeys } from "../ui/keys";
import { useMay } from "../ui/rights";

/** What is wrong at a place, in words; null where nothing is. */
type WrongAt = (where: string) => string | null;

/**
 * A button (and N) that makes a thing from its name; what else can be chosen stands below the name. `places` are the
 * members whose faults are told by the children, at their place; the others are told at the end.
 */
export function NewThing(props: {
  what: string;
  onMake: (name: string) => Promise<void>;
  children?: ReactNode | ((wrongAt: WrongAt) => ReactNode);
  note?: (name: string) => string;
  places?: readonly string[];
  width?: number;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const [asked, setAsked] = useAddress("new");
  const [busy, setBusy] = useState(false);
  const made = useRef(false);
  const form = useRef<HTMLFormElement>(null);
  const may = useMay("edit");
  useKeys({ n: () => may && setOpen(true) });
  useEffect(() => {
    if (!asked) return;
    setOpen(may);
    setAsked(null);
  }, [asked, setAsked, may]);
  async function submit(event: React.FormEvent) {
    event.preventDefault();
    if (busy) return;
    // What is pressed before it is made is meant for what comes after.
    const release = holdKeys();
    setBusy(true);
    try {
      await props.onMake(name);
      made.current = true;
      setOpen(false);
      setName("");
      setWrong(null);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      const { message, help, where } = error.problem;
      const place = String(where[0] ?? "");
      setWrong({ where: place, text: `${message}. ${help}` });
      const placed = (props.places ?? []).includes(place);
      focusOnceThere(() => (placed ? boxAtFault(form.current) : boxIn(form.current)));
    } finally {
      setBusy(false);
      release();
    }
  }
  const wrongAt: WrongAt = (where) => (wrong?.where === where ? wrong.text : null);
  if (!may) return null;
  const isPlaced = wrong !== null && (props.places ?? []).includes(wrong.where);
  return (
    <Popover
      label={`New ${props.what}`}
      open={open}
      width={props.width}
      keepFocus={() => {
        // What was made has the focus now, not the button that made it.
        const kept = made.current;
        made.current = false;
        return kept;
      }}
      onOpen={setOpen}
      trigger={
        <Button look="primary" title="N">
          New {props.what}
        </Button>
      }
    >
      <form
        ref={form}
        onSubmit={submit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && event.ctrlKey) event.currentTarget.requestSubmit();
        }}
      >
        <label className="block font-semibold">
          Name of the {props.what}
          <Input className="input mt-1 font-normal" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        {props.note && <p className="hint mt-1">{props.note(name)}</p>}
        {typeof props.children === "function" ? props.children(wrongAt) : props.children}
        {wrong && !isPlaced && (
          <p className="wrongly mt-2" role="alert">
            {wrong.text}
          </p>
        )}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="primary" type="submit" title="Ctrl Enter" busy={busy}>
            {busy ? "Making it…" : "Make it"}
          </Button>
        </div>
      </form>
    </Popover>
  );
}
