import { type ReactNode, useEffect, useRef, useState } from "react";
import { Refused } from "../api/client";
import { useAddress } from "../ui/address";
import { Button, Popover } from "../ui/basics";
import { useKeys } from "../ui/keys";

/** A button (and N) that makes a thing from its name; what else can be chosen stands below the name. */
export function NewThing(props: {
  what: string;
  onMake: (name: string) => Promise<void>;
  children?: ReactNode;
  note?: (name: string) => string;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const [asked, setAsked] = useAddress("new");
  const made = useRef(false);
  useKeys({ n: () => setOpen(true) });
  useEffect(() => {
    if (!asked) return;
    setOpen(true);
    setAsked(null);
  }, [asked, setAsked]);
  async function submit(event: React.FormEvent) {
    event.preventDefault();
    try {
      await props.onMake(name);
      made.current = true;
      setOpen(false);
      setName("");
      setWrong(null);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      setWrong(`${error.problem.message}. ${error.problem.help}`);
    }
  }
  return (
    <Popover
      label={`New ${props.what}`}
      open={open}
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
      <form onSubmit={submit}>
        <label className="block font-semibold">
          Name of the {props.what}
          <input className="input mt-1 font-normal" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        {props.note && <p className="hint mt-1">{props.note(name)}</p>}
        {props.children}
        {wrong && (
          <p className="wrongly mt-2" role="alert">
            {wrong}
          </p>
        )}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="primary" type="submit">
            Make it
          </Button>
        </div>
      </form>
    </Popover>
  );
}
